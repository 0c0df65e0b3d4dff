package holotome.core.section;

import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The outline of a mesh as seen along a direction, holes too: the mesh is laid flat and its cover
 * marked in a fine grid, the cover's border is traced, and each of its points is drawn to the
 * nearest edge of the mesh at which the surface turns away from the viewer (or ends), of which a
 * true outline consists. Right to a small part of a cell wherever there is such an edge within two
 * cells; holes narrower than a cell are not seen. O(T) and one byte a cell.
 */
public final class Silhouette {
  private static final int GRAIN = 1 << 15;
  private static final int ROOM = 3;

  private final Mesh mesh;
  private final SectionPlane plane;
  private final float[] flat;
  private final double cell;
  private final double x0;
  private final double y0;
  private final int w;
  private final int h;
  private final byte[] cover;

  private Silhouette(Mesh mesh, Similarity toWork, SectionPlane plane, int cells, Work work) {
    this.mesh = mesh;
    this.plane = plane;
    flat = flatten(mesh, toWork, plane, work);
    float[] b = {
      Float.POSITIVE_INFINITY,
      Float.POSITIVE_INFINITY,
      Float.NEGATIVE_INFINITY,
      Float.NEGATIVE_INFINITY
    };
    for (int i = 0; i < flat.length; i += 2) {
      b[0] = Math.min(b[0], flat[i]);
      b[1] = Math.min(b[1], flat[i + 1]);
      b[2] = Math.max(b[2], flat[i]);
      b[3] = Math.max(b[3], flat[i + 1]);
    }
    cell = Math.max(Math.max(b[2] - b[0], b[3] - b[1]) / cells, 1e-30);
    x0 = b[0] - ROOM * cell;
    y0 = b[1] - ROOM * cell;
    w = (int) Math.ceil((b[2] - b[0]) / cell) + 2 * ROOM + 1;
    h = (int) Math.ceil((b[3] - b[1]) / cell) + 2 * ROOM + 1;
    cover = new byte[w * h];
  }

  /**
   * Traces the outline.
   *
   * @param plane seen against its normal; the outline lies in it
   * @param cells along the longer side of the picture, such as 2048
   */
  public static Section of(Mesh mesh, Similarity toWork, SectionPlane plane, int cells, Work work) {
    if (mesh.isEmpty()) {
      return new Section(plane, List.of());
    }
    return new Silhouette(
            mesh, toWork, plane, cells, work.part(0.1, CoreWords.of("work.laying-flat")))
        .run(work);
  }

  private static float[] flatten(Mesh mesh, Similarity toWork, SectionPlane plane, Work work) {
    double[] m = Placing.matrix(toWork);
    float[] p = mesh.xyz();
    float[] out = new float[p.length / 3 * 2];
    Parallel.range(
        out.length / 2,
        GRAIN,
        work,
        (from, to) -> {
          double[] q = new double[3];
          for (int v = from; v < to; v++) {
            for (int i = 0; i < 3; i++) {
              q[i] =
                  m[4 * i] * p[3 * v]
                      + m[4 * i + 1] * p[3 * v + 1]
                      + m[4 * i + 2] * p[3 * v + 2]
                      + m[4 * i + 3];
            }
            out[2 * v] = (float) Vec.dot(q, plane.right());
            out[2 * v + 1] = (float) Vec.dot(q, plane.up());
          }
        });
    return out;
  }

  private Section run(Work work) {
    int[] tri = mesh.triangles();
    // Marks are only ever set: whichever thread comes first, the cover is the same.
    Parallel.range(
        mesh.triangleCount(),
        GRAIN,
        work.part(0.3, CoreWords.of("work.marking-the-cover")),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            mark(tri[3 * t], tri[3 * t + 1], tri[3 * t + 2]);
          }
        });
    Map<Long, List<float[]>> edges =
        turningEdges(work.part(0.5, CoreWords.of("work.finding-the-outline")));
    List<Curve> curves = new ArrayList<>();
    for (Curve c : border()) {
      Curve snapped = snapped(c, edges);
      if (snapped.size() > 2) {
        curves.add(snapped);
      }
    }
    curves.sort((a, b) -> Double.compare(b.length(), a.length()));
    return new Section(plane, curves);
  }

  private int column(double x) {
    return (int) Math.floor((x - x0) / cell);
  }

  private int row(double y) {
    return (int) Math.floor((y - y0) / cell);
  }

  private void mark(int a, int b, int c) {
    double ax = flat[2 * a];
    double ay = flat[2 * a + 1];
    double bx = flat[2 * b];
    double by = flat[2 * b + 1];
    double cx = flat[2 * c];
    double cy = flat[2 * c + 1];
    int i0 = column(Math.min(ax, Math.min(bx, cx)));
    int i1 = column(Math.max(ax, Math.max(bx, cx)));
    int j0 = row(Math.min(ay, Math.min(by, cy)));
    int j1 = row(Math.max(ay, Math.max(by, cy)));
    cover[row(ay) * w + column(ax)] = 1;
    cover[row(by) * w + column(bx)] = 1;
    cover[row(cy) * w + column(cx)] = 1;
    if (i0 == i1 && j0 == j1) {
      return;
    }
    double area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    double s = area < 0 ? -1 : 1;
    for (int j = j0; j <= j1; j++) {
      double y = y0 + (j + 0.5) * cell;
      for (int i = i0; i <= i1; i++) {
        double x = x0 + (i + 0.5) * cell;
        boolean in =
            s * ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) >= 0
                && s * ((cx - bx) * (y - by) - (cy - by) * (x - bx)) >= 0
                && s * ((ax - cx) * (y - cy) - (ay - cy) * (x - cx)) >= 0;
        if (in) {
          cover[j * w + i] = 1;
        }
      }
    }
  }

  /** The cover's border: from middle to middle of the cells' sides, cover on the left. */
  private List<Curve> border() {
    long[] ends = new long[64];
    double[] middle = new double[64];
    int n = 0;
    for (int j = 1; j < h - 1; j++) {
      for (int i = 1; i < w - 1; i++) {
        if (cover[j * w + i] == 0) {
          continue;
        }
        int[][] sides = {
          {i, j, i + 1, j, 0, -1},
          {i + 1, j, i + 1, j + 1, 1, 0},
          {i + 1, j + 1, i, j + 1, 0, 1},
          {i, j + 1, i, j, -1, 0}
        };
        for (int[] s : sides) {
          if (cover[(j + s[5]) * w + i + s[4]] != 0) {
            continue;
          }
          if (2 * n + 2 > ends.length) {
            ends = Arrays.copyOf(ends, 2 * ends.length);
            middle = Arrays.copyOf(middle, 2 * middle.length);
          }
          ends[2 * n] = (long) s[1] * (w + 1) + s[0];
          ends[2 * n + 1] = (long) s[3] * (w + 1) + s[2];
          middle[2 * n] = x0 + cell * (s[0] + s[2]) / 2;
          middle[2 * n + 1] = y0 + cell * (s[1] + s[3]) / 2;
          n++;
        }
      }
    }
    List<Curve> out = new ArrayList<>();
    for (int[] chain : Chains.of(Arrays.copyOf(ends, 2 * n))) {
      double[] xy = new double[2 * (chain.length - 1)];
      for (int k = 0; k < chain.length - 1; k++) {
        System.arraycopy(middle, 2 * (chain[k] >> 1), xy, 2 * k, 2);
      }
      out.add(new Curve(xy, true));
    }
    return out;
  }

  private boolean isNearBorder(int i, int j) {
    boolean some = false;
    boolean all = true;
    for (int dj = -2; dj <= 2; dj++) {
      for (int di = -2; di <= 2; di++) {
        int x = Math.clamp(i + di, 0, w - 1);
        int y = Math.clamp(j + dj, 0, h - 1);
        boolean set = cover[y * w + x] != 0;
        some |= set;
        all &= set;
      }
    }
    return some && !all;
  }

  /** Edges near the border at which the surface turns away or ends, by the cells they touch. */
  private Map<Long, List<float[]>> turningEdges(Work work) {
    int[] tri = mesh.triangles();
    int[] twin = Adjacency.of(mesh, work).twin();
    Map<Long, List<float[]>> cells = new HashMap<>();
    for (int e = 0; e < tri.length; e++) {
      if ((e & 0xfffff) == 0) {
        work.check();
      }
      int t = twin[e];
      if (t >= 0 && (t < e || facing(e / 3) == facing(t / 3))) {
        continue;
      }
      int a = tri[e];
      int b = tri[Adjacency.next(e)];
      float[] s = {flat[2 * a], flat[2 * a + 1], flat[2 * b], flat[2 * b + 1]};
      int steps = 1 + (int) (Math.hypot(s[2] - s[0], s[3] - s[1]) / cell * 1.5);
      long last = -1;
      for (int k = 0; k <= steps; k++) {
        double f = (double) k / steps;
        int i = column(s[0] + f * (s[2] - s[0]));
        int j = row(s[1] + f * (s[3] - s[1]));
        long key = (long) j * w + i;
        if (key != last && isNearBorder(i, j)) {
          cells.computeIfAbsent(key, x -> new ArrayList<>()).add(s);
        }
        last = key;
      }
    }
    return cells;
  }

  private boolean facing(int t) {
    int[] tri = mesh.triangles();
    int a = 2 * tri[3 * t];
    int b = 2 * tri[3 * t + 1];
    int c = 2 * tri[3 * t + 2];
    double area =
        ((double) flat[b] - flat[a]) * ((double) flat[c + 1] - flat[a + 1])
            - ((double) flat[b + 1] - flat[a + 1]) * ((double) flat[c] - flat[a]);
    return area >= 0;
  }

  private Curve snapped(Curve c, Map<Long, List<float[]>> edges) {
    double[] out = new double[2 * c.size()];
    int n = 0;
    for (int k = 0; k < c.size(); k++) {
      double x = c.xy()[2 * k];
      double y = c.xy()[2 * k + 1];
      double bestX = x;
      double bestY = y;
      double least = 2 * cell;
      int i = column(x);
      int j = row(y);
      for (int dj = -2; dj <= 2; dj++) {
        for (int di = -2; di <= 2; di++) {
          List<float[]> here = edges.get((long) (j + dj) * w + i + di);
          for (float[] s : here == null ? List.<float[]>of() : here) {
            double dx = s[2] - s[0];
            double dy = s[3] - s[1];
            double l2 = dx * dx + dy * dy;
            double f = l2 > 0 ? Math.clamp(((x - s[0]) * dx + (y - s[1]) * dy) / l2, 0.0, 1.0) : 0;
            double qx = s[0] + f * dx;
            double qy = s[1] + f * dy;
            double d = Math.hypot(qx - x, qy - y);
            if (d < least) {
              least = d;
              bestX = qx;
              bestY = qy;
            }
          }
        }
      }
      if (n == 0 || out[2 * n - 2] != bestX || out[2 * n - 1] != bestY) {
        out[2 * n] = bestX;
        out[2 * n + 1] = bestY;
        n++;
      }
    }
    return new Curve(Arrays.copyOf(out, 2 * n), true);
  }
}
