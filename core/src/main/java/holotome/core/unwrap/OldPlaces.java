package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.topology.Adjacency;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Where charts lay before their seams were changed, and so where what is made of them is to begin
 * and to end. O(triangles of the chart) each.
 */
final class OldPlaces {
  private static final double[] AS_IT_IS = {1, 0, 0, 0};

  private final Mesh mesh;
  private final Ground ground;
  private final SeamMap map;

  /** The chart of each triangle before, and length in its texture to one on the surface. */
  private final int[] old;

  private final double[] scale;

  OldPlaces(Ground ground, SeamMap map, int[] old) {
    this.ground = ground;
    this.map = map;
    this.old = old;
    mesh = ground.mesh();
    scale = scales();
  }

  /** Length in the texture to one on the surface, of each chart that was. */
  private double[] scales() {
    int n = 1 + Arrays.stream(old).max().orElse(0);
    double[] own = new double[n];
    double[] flat = new double[n];
    for (int t = 0; t < old.length; t++) {
      own[old[t]] += ground.area()[t];
      flat[old[t]] += twice(t) / 2;
    }
    double[] out = new double[n];
    for (int c = 0; c < n; c++) {
      // Below 0 where the chart lies mirrored.
      double s = Math.sqrt(Math.abs(flat[c]) / Math.max(1e-300, own[c]));
      out[c] = flat[c] < 0 ? -s : s;
    }
    return out;
  }

  private double twice(int t) {
    float[] p = mesh.uv().coords();
    int[] k = mesh.uv().corners();
    int a = 2 * k[3 * t];
    int b = 2 * k[3 * t + 1];
    int c = 2 * k[3 * t + 2];
    return ((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
        - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]);
  }

  /**
   * A chart where its parts lay, in the mesh's units, upright: those of the largest part as they
   * are, others fitted to what lies already along the edges where they were sewn on. What is joined
   * lies in the middle of its places.
   */
  Piece of(Piece p) {
    int[] t = p.triangles();
    double[] area = new double[scale.length];
    for (int m : t) {
      area[old[m]] += ground.area()[m];
    }
    int first = old[t[0]];
    for (int m : t) {
      first = area[old[m]] > area[first] ? old[m] : first;
    }
    // For each part that was: the map from its places to those here, a u - b v + c, b u + a v + d.
    double[][] by = new double[scale.length][];
    by[first] = new double[] {1, 0, 0, 0};
    ArrayDeque<Integer> todo = new ArrayDeque<>();
    todo.add(first);
    while (!todo.isEmpty()) {
      int from = todo.poll();
      for (int to : sewnTo(from, t, by)) {
        by[to] = fit(from, to, t, by[from]);
        todo.add(to);
      }
    }
    double[] uv = new double[2 * p.vertices()];
    int[] n = new int[p.vertices()];
    for (int i = 0; i < p.corners().length; i++) {
      double[] q = place(3 * t[i / 3] + i % 3, by[old[t[i / 3]]]);
      uv[2 * p.corners()[i]] += q[0];
      uv[2 * p.corners()[i] + 1] += q[1];
      n[p.corners()[i]]++;
    }
    for (int v = 0; v < n.length; v++) {
      uv[2 * v] /= n[v];
      uv[2 * v + 1] /= n[v];
    }
    return p.at(uv);
  }

  /** Where a corner lay, in the mesh's units and upright, moved on. */
  private double[] place(int h, double[] by) {
    double s = scale[old[h / 3]];
    int c = 2 * mesh.uv().corners()[h];
    double size = Math.abs(s) > 0 ? 1 / Math.abs(s) : 0;
    double u = size * (s < 0 ? -mesh.uv().coords()[c] : mesh.uv().coords()[c]);
    double v = size * mesh.uv().coords()[c + 1];
    return new double[] {by[0] * u - by[1] * v + by[2], by[1] * u + by[0] * v + by[3]};
  }

  private List<Integer> sewnTo(int from, int[] t, double[][] by) {
    List<Integer> out = new ArrayList<>();
    for (int m : t) {
      for (int h = 3 * m; old[m] == from && h < 3 * m + 3; h++) {
        int to = map.isSeam(h) ? from : old[ground.twin()[h] / 3];
        if (by[to] == null && !out.contains(to)) {
          out.add(to);
        }
      }
    }
    return out;
  }

  /** The plane's rigid fit of a part to another along what is sewn between them. */
  private double[] fit(int from, int to, int[] t, double[] known) {
    double[] sum = new double[4];
    double[][] pairs = new double[16][];
    int n = 0;
    for (int m : t) {
      for (int h = 3 * m; old[m] == from && h < 3 * m + 3; h++) {
        int g = map.isSeam(h) ? -1 : ground.twin()[h];
        if (g < 0 || old[g / 3] != to) {
          continue;
        }
        int[] here = {h, Adjacency.next(h)};
        int[] there = {Adjacency.next(g), g};
        for (int e = 0; e < 2; e++) {
          double[] a = place(here[e], known);
          double[] b = place(there[e], AS_IT_IS);
          pairs = n == pairs.length ? Arrays.copyOf(pairs, 2 * n) : pairs;
          pairs[n++] = new double[] {a[0], a[1], b[0], b[1]};
          for (int k = 0; k < 4; k++) {
            sum[k] += pairs[n - 1][k];
          }
        }
      }
    }
    double c = 0;
    double s = 0;
    for (int i = 0; i < n; i++) {
      double ax = pairs[i][0] - sum[0] / n;
      double ay = pairs[i][1] - sum[1] / n;
      double bx = pairs[i][2] - sum[2] / n;
      double by = pairs[i][3] - sum[3] / n;
      c += bx * ax + by * ay;
      s += bx * ay - by * ax;
    }
    double r = Math.hypot(c, s);
    c = r > 0 ? c / r : 1;
    s = r > 0 ? s / r : 0;
    return new double[] {
      c, s, (sum[0] - c * sum[2] + s * sum[3]) / n, (sum[1] - s * sum[2] - c * sum[3]) / n
    };
  }

  /**
   * To the size and place that most of it had in the texture: scale and turn, then shift.
   *
   * @param isTurned whether it is turned to how it lay too
   */
  double[] back(Piece p, boolean isTurned) {
    double[] area = new double[scale.length];
    int most = old[p.triangles()[0]];
    for (int m : p.triangles()) {
      area[old[m]] += ground.area()[m];
      most = area[old[m]] > area[most] ? old[m] : most;
    }
    double[] sum = new double[5];
    double[] product = new double[2];
    for (int pass = 0; pass < 2; pass++) {
      for (int i = 0; i < p.corners().length; i++) {
        int m = p.triangles()[i / 3];
        if (old[m] != most) {
          continue;
        }
        double w = ground.area()[m];
        int c = 2 * mesh.uv().corners()[3 * m + i % 3];
        double x = mesh.uv().coords()[c];
        double y = mesh.uv().coords()[c + 1];
        double u = p.uv()[2 * p.corners()[i]];
        double v = p.uv()[2 * p.corners()[i] + 1];
        if (pass == 0) {
          sum[0] += w * x;
          sum[1] += w * y;
          sum[2] += w * u;
          sum[3] += w * v;
          sum[4] += w;
        } else {
          x -= sum[0] / sum[4];
          y -= sum[1] / sum[4];
          u -= sum[2] / sum[4];
          v -= sum[3] / sum[4];
          product[0] += w * (u * x + v * y);
          product[1] += w * (u * y - v * x);
        }
      }
      sum[4] = Math.max(1e-300, sum[4]);
    }
    double r = Math.hypot(product[0], product[1]);
    double s = Math.abs(scale[most]);
    boolean turns = isTurned && r > 0;
    double c = turns ? s * product[0] / r : s;
    double n = turns ? s * product[1] / r : 0;
    return new double[] {
      c, n, (sum[0] - c * sum[2] + n * sum[3]) / sum[4], (sum[1] - n * sum[2] - c * sum[3]) / sum[4]
    };
  }
}
