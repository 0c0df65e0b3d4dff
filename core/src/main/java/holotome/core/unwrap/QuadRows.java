package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The four-sided faces of a chart as rows and columns: each row as high and each column as wide as
 * its edges are on the surface in the mean, level and upright. Faces are those that the Cast was
 * modelled with, else two triangles each that have their longest edge in common.
 */
final class QuadRows {
  private final Piece p;
  private final int[] twin;

  /** The other triangle of a face; -1 for one that is none of two. */
  private final int[] other;

  /** The half-edge to it. */
  private final int[] inner;

  private final int[] column;
  private final int[] row;
  private final boolean[] held;

  private QuadRows(Piece p, int[] face) {
    this.p = p;
    float[] nowhere = new float[3 * p.vertices()];
    twin = Adjacency.of(new Mesh(nowhere, p.corners()), Work.unwatched()).twin();
    int n = p.triangles().length;
    other = new int[n];
    inner = new int[n];
    Arrays.fill(other, -1);
    for (int t = 0; t < n; t++) {
      pair(t, face);
    }
    column = new int[p.vertices()];
    row = new int[p.vertices()];
    held = new boolean[p.vertices()];
  }

  private void pair(int t, int[] face) {
    for (int h = 3 * t; h < 3 * t + 3 && other[t] < 0; h++) {
      int g = twin[h];
      boolean isOne =
          g >= 0
              && other[g / 3] < 0
              && (face == null
                  ? h == longest(t) && g == longest(g / 3)
                  : face[p.triangles()[t]] == face[p.triangles()[g / 3]]);
      if (isOne) {
        other[t] = g / 3;
        other[g / 3] = t;
        inner[t] = h;
        inner[g / 3] = g;
      }
    }
  }

  private int longest(int t) {
    int best = 3 * t;
    for (int h = 3 * t + 1; h < 3 * t + 3; h++) {
      best = RimLoops.edge(p, h) > RimLoops.edge(p, best) ? h : best;
    }
    return best;
  }

  /**
   * Finds them.
   *
   * @param face of each triangle of the mesh; null where none is known
   * @return null where no face is one of four sides, or they do not lie in rows
   */
  static Straight of(Piece lies, int[] face) {
    QuadRows rows = new QuadRows(lies, face);
    List<int[]> faces = rows.largest();
    if (faces.isEmpty() || !rows.number(faces)) {
      return null;
    }
    return rows.laid(faces);
  }

  /** The outer half-edges of a face, counter-clockwise, from a triangle of it on. */
  private int[] edges(int t) {
    int h = inner[t];
    int g = twin[h];
    return new int[] {
      Adjacency.next(g),
      Adjacency.next(Adjacency.next(g)),
      Adjacency.next(h),
      Adjacency.next(Adjacency.next(h))
    };
  }

  /** The faces that hang together and are most, each by its outer half-edges. */
  private List<int[]> largest() {
    boolean[] seen = new boolean[other.length];
    List<int[]> best = List.of();
    for (int s = 0; s < other.length; s++) {
      if (other[s] < 0 || seen[s]) {
        continue;
      }
      List<int[]> part = new ArrayList<>();
      seen[s] = true;
      seen[other[s]] = true;
      part.add(edges(s));
      for (int at = 0; at < part.size(); at++) {
        for (int h : part.get(at)) {
          int u = twin[h] < 0 ? -1 : twin[h] / 3;
          if (u >= 0 && other[u] >= 0 && !seen[u]) {
            seen[u] = true;
            seen[other[u]] = true;
            part.add(edges(u));
          }
        }
      }
      best = part.size() > best.size() ? part : best;
    }
    return best;
  }

  /** Gives every vertex of the faces its column and row; whether that goes. */
  private boolean number(List<int[]> faces) {
    int[] first = faces.getFirst();
    put(p.corners()[first[0]], 0, 0);
    put(p.corners()[first[1]], 1, 0);
    // In the order they were found each has an edge that is known.
    for (int[] f : faces) {
      int k = 0;
      while (k < 4 && !(held[start(f, k)] && held[start(f, k + 1)])) {
        k++;
      }
      if (k == 4) {
        return false;
      }
      int a = start(f, k);
      int b = start(f, k + 1);
      int dx = column[b] - column[a];
      int dy = row[b] - row[a];
      boolean fits =
          Math.abs(dx) + Math.abs(dy) == 1
              && put(start(f, k + 2), column[b] - dy, row[b] + dx)
              && put(start(f, k + 3), column[a] - dy, row[a] + dx);
      if (!fits) {
        return false;
      }
    }
    return true;
  }

  private int start(int[] face, int k) {
    return p.corners()[face[k % 4]];
  }

  private boolean put(int v, int c, int r) {
    if (held[v]) {
      return column[v] == c && row[v] == r;
    }
    held[v] = true;
    column[v] = c;
    row[v] = r;
    return true;
  }

  private Straight laid(List<int[]> faces) {
    double[] x = lines(faces, column, row);
    double[] y = lines(faces, row, column);
    int left = least(column);
    int low = least(row);
    // How columns run now: nearest to that, level or upright, they will.
    double dx = 0;
    double dy = 0;
    for (int[] f : faces) {
      for (int k = 0; k < 4; k++) {
        int a = start(f, k);
        int b = start(f, k + 1);
        int way = column[b] - column[a];
        dx += way * (p.uv()[2 * b] - p.uv()[2 * a]);
        dy += way * (p.uv()[2 * b + 1] - p.uv()[2 * a + 1]);
      }
    }
    double now = Math.atan2(dy, dx);
    double quarter = Math.rint(now / (Math.PI / 2)) * (Math.PI / 2);
    Piece turned = Straight.turned(p, quarter - now);
    int c = (int) Math.rint(Math.cos(quarter));
    int s = (int) Math.rint(Math.sin(quarter));
    double[] uv = turned.uv().clone();
    double[] shift = new double[2];
    int n = 0;
    for (int v = 0; v < held.length; v++) {
      if (held[v]) {
        double u = x[column[v] - left];
        double w = y[row[v] - low];
        uv[2 * v] = c * u - s * w;
        uv[2 * v + 1] = s * u + c * w;
        shift[0] += turned.uv()[2 * v] - uv[2 * v];
        shift[1] += turned.uv()[2 * v + 1] - uv[2 * v + 1];
        n++;
      }
    }
    for (int v = 0; v < held.length; v++) {
      if (held[v]) {
        uv[2 * v] += shift[0] / n;
        uv[2 * v + 1] += shift[1] / n;
      }
    }
    return new Straight(held, turned.uv(), uv);
  }

  private int least(int[] of) {
    int least = Integer.MAX_VALUE;
    for (int v = 0; v < of.length; v++) {
      least = held[v] ? Math.min(least, of[v]) : least;
    }
    return least;
  }

  /** Where lines of one number run: as far apart as the edges between them are long. */
  private double[] lines(List<int[]> faces, int[] along, int[] across) {
    int low = least(along);
    int n = 1;
    for (int v = 0; v < along.length; v++) {
      n = held[v] ? Math.max(n, along[v] - low + 1) : n;
    }
    double[] sum = new double[n];
    int[] count = new int[n];
    for (int[] f : faces) {
      for (int k = 0; k < 4; k++) {
        int a = start(f, k);
        int b = start(f, k + 1);
        if (across[a] == across[b]) {
          int i = Math.min(along[a], along[b]) - low;
          sum[i] += RimLoops.edge(p, f[k]);
          count[i]++;
        }
      }
    }
    double[] out = new double[n];
    for (int i = 1; i < n; i++) {
      out[i] = out[i - 1] + sum[i - 1] / Math.max(1, count[i - 1]);
    }
    return out;
  }
}
