package holotome.core.reduce;

import holotome.core.array.Grouping;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.TrianglePoint;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Moves the vertices of a light mesh so that it lies as near as it can to the mesh it was made
 * from, in the sense of least squares.
 *
 * <p>The middles of that mesh's triangles are brought to the nearest of the light triangles around
 * the vertex they were merged into; then the sum of the squared distances to these triangles'
 * planes, a quadratic form in the places of the vertices, is made least (the continuous part of
 * Hoppe and others, "Mesh optimization", 1993, with distances to planes as in Chen and Medioni,
 * "Object modelling by registration of multiple range images", 1991). Middles and not vertices:
 * they stand for the surface, of which noise in the vertices is averaged out. Vertices on open
 * edges stay, and so do those whose triangles would turn.
 *
 * <p>About 0.3 µs a point on one core; 32 bytes a point and 100 a light triangle while at work.
 */
final class SurfaceFit {
  private static final int GRAIN = 1 << 12;

  /** So many points a vertex say where it should be; more are left out evenly. */
  private static final int POINTS = 10;

  /** And no fewer than these in all, which cost little. */
  private static final int FEWEST = 250_000;

  /** And no more than these: memory. */
  private static final int MOST = 1 << 25;

  private static final int SWEEPS = 6;

  /** Of a step of Jacobi's: three corners share each point, so that more would swing. */
  private static final double STEP = 0.6;

  /** What holds a vertex where it is, as a part of what its points weigh. */
  private static final double HELD = 0.01;

  private final float[] xyz;
  private final int[] tri;
  private final int n;
  private final VertexFans fans;
  private final boolean[] fixed;

  /** The points looked at, 3 floats each, and the light vertex each was merged into. */
  private final float[] points;

  private final int[] root;

  /** The triangle that each point lies nearest to, and two of its weights there. */
  private final int[] on;

  private final float[] weights;

  /**
   * Fits.
   *
   * @param full what it was made from
   * @param root the light vertex that each of its vertices was merged into, -1 for none
   * @param xyz places of the light vertices, 3 floats each; changed
   * @param tri 3 light vertices each
   * @param fixed the light vertices that stay; those on open edges are added
   */
  static void fit(Mesh full, int[] root, float[] xyz, int[] tri, boolean[] fixed, Work work) {
    SurfaceFit f = new SurfaceFit(full, root, xyz, tri, fixed, work.part(0.5, label()));
    f.bring(work.part(0.3, label()));
    f.solve(work.part(0.2, label()));
  }

  private static String label() {
    return CoreWords.of("work.fitting");
  }

  private SurfaceFit(Mesh full, int[] rootOf, float[] xyz, int[] tri, boolean[] fixed, Work work) {
    this.fixed = fixed;
    this.xyz = xyz;
    this.tri = tri;
    n = xyz.length / 3;
    int m = full.triangleCount();
    long wanted = Math.clamp((long) POINTS * n, FEWEST, MOST);
    int every = (int) Math.max(1, Math.round((double) m / wanted));
    int[] all = new int[(m + every - 1) / every];
    int[] corners = full.triangles();
    Parallel.range(
        all.length,
        GRAIN,
        work.part(0.1, label()),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            all[i] = rootOf[corners[3 * i * every]];
          }
        });
    int[] order = Grouping.of(all, n, work.part(0.3, label())).order();
    points = new float[3 * order.length];
    root = new int[order.length];
    float[] p = full.xyz();
    Parallel.range(
        order.length,
        GRAIN,
        work.part(0.2, label()),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            root[i] = all[order[i]];
            int t = 3 * order[i] * every;
            for (int k = 0; k < 3; k++) {
              double sum =
                  (double) p[3 * corners[t] + k]
                      + p[3 * corners[t + 1] + k]
                      + p[3 * corners[t + 2] + k];
              points[3 * i + k] = (float) (sum / 3);
            }
          }
        });
    on = new int[order.length];
    weights = new float[2 * order.length];
    fixOpenEdges(work.part(0.2, label()));
    fans = VertexFans.of(n, tri, work.part(0.2, label()));
  }

  private void fixOpenEdges(Work work) {
    int[] twin = Adjacency.of(new Mesh(xyz, tri), work).twin();
    for (int h = 0; h < tri.length; h++) {
      if (twin[h] < 0) {
        fixed[tri[h]] = true;
        fixed[tri[Adjacency.next(h)]] = true;
      }
    }
  }

  /** Brings each point to its nearest triangle. */
  private void bring(Work work) {
    Parallel.range(
        root.length,
        GRAIN,
        work,
        (from, to) -> {
          TrianglePoint nearest = new TrianglePoint();
          for (int i = from; i < to; i++) {
            bring(i, nearest);
          }
        });
  }

  private void bring(int i, TrianglePoint nearest) {
    float x = points[3 * i];
    float y = points[3 * i + 1];
    float z = points[3 * i + 2];
    int v = nearestCorner(root[i], x, y, z);
    double least = Double.POSITIVE_INFINITY;
    on[i] = -1;
    // From vertex to vertex as long as that comes nearer.
    for (int hop = 0; hop < 8; hop++) {
      int best = -1;
      for (int k = fans.start()[v]; k < fans.start()[v + 1]; k++) {
        int t = fans.triangles()[k];
        double d =
            nearest.square(xyz, 3 * tri[3 * t], 3 * tri[3 * t + 1], 3 * tri[3 * t + 2], x, y, z);
        if (d < least) {
          least = d;
          best = t;
          weights[2 * i] = nearest.s();
          weights[2 * i + 1] = nearest.t();
        }
      }
      if (best < 0) {
        return;
      }
      on[i] = best;
      float b = weights[2 * i];
      float c = weights[2 * i + 1];
      float a = 1 - b - c;
      int u = tri[3 * best + (a >= b && a >= c ? 0 : b >= c ? 1 : 2)];
      if (u == v) {
        return;
      }
      v = u;
    }
  }

  /** From vertex to vertex as long as that comes nearer: a place, once per hop, costs little. */
  private int nearestCorner(int from, float x, float y, float z) {
    if (from < 0) {
      return from;
    }
    int v = from;
    float least = square(v, x, y, z);
    for (int hop = 0; hop < 16; hop++) {
      int best = v;
      for (int k = fans.start()[v]; k < fans.start()[v + 1]; k++) {
        int t = 3 * fans.triangles()[k];
        int u = tri[t] == v ? tri[t + 1] : tri[t + 1] == v ? tri[t + 2] : tri[t];
        float d = square(u, x, y, z);
        if (d < least) {
          least = d;
          best = u;
        }
      }
      if (best == v) {
        return v;
      }
      v = best;
    }
    return v;
  }

  private float square(int v, float x, float y, float z) {
    float dx = xyz[3 * v] - x;
    float dy = xyz[3 * v + 1] - y;
    float dz = xyz[3 * v + 2] - z;
    return dx * dx + dy * dy + dz * dz;
  }

  private void solve(Work work) {
    int m = tri.length / 3;
    Grouping by = Grouping.of(on, m, work);
    // Per triangle: sums of products of weights (6), of weights times the height over it (3).
    float[] sums = new float[9 * m];
    float[] normals = new float[3 * m];
    Parallel.range(
        m,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          double[] s = new double[9];
          for (int t = from; t < to; t++) {
            sum(t, by, s, sums, normals);
          }
        });
    float[] move = new float[3 * n];
    float[] next = new float[3 * n];
    for (int i = 0; i < SWEEPS; i++) {
      float[] was = move;
      float[] is = next;
      Parallel.range(
          n,
          GRAIN,
          Work.unwatched(),
          (from, to) -> {
            for (int v = from; v < to; v++) {
              sweep(v, sums, normals, was, is);
            }
          });
      move = is;
      next = was;
    }
    apply(move);
  }

  private void sum(int t, Grouping by, double[] s, float[] sums, float[] normals) {
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    double ux = xyz[b] - xyz[a];
    double uy = xyz[b + 1] - xyz[a + 1];
    double uz = xyz[b + 2] - xyz[a + 2];
    double vx = xyz[c] - xyz[a];
    double vy = xyz[c + 1] - xyz[a + 1];
    double vz = xyz[c + 2] - xyz[a + 2];
    double nx = uy * vz - uz * vy;
    double ny = uz * vx - ux * vz;
    double nz = ux * vy - uy * vx;
    double l = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (!(l > 0)) {
      return;
    }
    nx /= l;
    ny /= l;
    nz /= l;
    Arrays.fill(s, 0);
    for (int k = by.start()[t]; k < by.start()[t + 1]; k++) {
      int i = by.order()[k];
      int o = 3 * i;
      double h =
          nx * (points[o] - xyz[a])
              + ny * (points[o + 1] - xyz[a + 1])
              + nz * (points[o + 2] - xyz[a + 2]);
      double wb = weights[2 * i];
      double wc = weights[2 * i + 1];
      double wa = 1 - wb - wc;
      s[0] += wa * wa;
      s[1] += wb * wb;
      s[2] += wc * wc;
      s[3] += wa * wb;
      s[4] += wb * wc;
      s[5] += wc * wa;
      s[6] += wa * h;
      s[7] += wb * h;
      s[8] += wc * h;
    }
    for (int k = 0; k < 9; k++) {
      sums[9 * t + k] = (float) s[k];
    }
    normals[3 * t] = (float) nx;
    normals[3 * t + 1] = (float) ny;
    normals[3 * t + 2] = (float) nz;
  }

  private void sweep(int v, float[] sums, float[] normals, float[] was, float[] is) {
    if (fixed[v]) {
      return;
    }
    double a00 = 0;
    double a01 = 0;
    double a02 = 0;
    double a11 = 0;
    double a12 = 0;
    double a22 = 0;
    double gx = 0;
    double gy = 0;
    double gz = 0;
    for (int k = fans.start()[v]; k < fans.start()[v + 1]; k++) {
      int t = fans.triangles()[k];
      int i = tri[3 * t] == v ? 0 : tri[3 * t + 1] == v ? 1 : 2;
      int j = (i + 1) % 3;
      int l = (i + 2) % 3;
      double nx = normals[3 * t];
      double ny = normals[3 * t + 1];
      double nz = normals[3 * t + 2];
      int o = 9 * t;
      int pj = 3 * tri[3 * t + j];
      int pl = 3 * tri[3 * t + l];
      double w = sums[o + i];
      double h =
          sums[o + 6 + i]
              - sums[o + 3 + i] * (nx * was[pj] + ny * was[pj + 1] + nz * was[pj + 2])
              - sums[o + 3 + l] * (nx * was[pl] + ny * was[pl + 1] + nz * was[pl + 2]);
      a00 += w * nx * nx;
      a01 += w * nx * ny;
      a02 += w * nx * nz;
      a11 += w * ny * ny;
      a12 += w * ny * nz;
      a22 += w * nz * nz;
      gx += h * nx;
      gy += h * ny;
      gz += h * nz;
    }
    double held = HELD * (a00 + a11 + a22);
    a00 += held;
    a11 += held;
    a22 += held;
    double c00 = a11 * a22 - a12 * a12;
    double c01 = a02 * a12 - a01 * a22;
    double c02 = a01 * a12 - a02 * a11;
    double det = a00 * c00 + a01 * c01 + a02 * c02;
    if (!(det > 0)) {
      return;
    }
    double c11 = a00 * a22 - a02 * a02;
    double c12 = a01 * a02 - a00 * a12;
    double c22 = a00 * a11 - a01 * a01;
    is[3 * v] = (float) (was[3 * v] + STEP * ((c00 * gx + c01 * gy + c02 * gz) / det - was[3 * v]));
    is[3 * v + 1] =
        (float) (was[3 * v + 1] + STEP * ((c01 * gx + c11 * gy + c12 * gz) / det - was[3 * v + 1]));
    is[3 * v + 2] =
        (float) (was[3 * v + 2] + STEP * ((c02 * gx + c12 * gy + c22 * gz) / det - was[3 * v + 2]));
  }

  /** Moves what may move: no triangle turns by much. */
  private void apply(float[] move) {
    byte[] stays = new byte[n];
    boolean[] again = {true};
    for (int round = 0; round < 8 && again[0]; round++) {
      again[0] = false;
      boolean last = round == 7;
      Parallel.range(
          tri.length / 3,
          GRAIN,
          Work.unwatched(),
          (from, to) -> {
            boolean any = false;
            for (int t = from; t < to; t++) {
              if (turns(t, move)) {
                any = true;
                for (int k = 0; k < 3; k++) {
                  stays[tri[3 * t + k]] = 1;
                }
              }
            }
            if (any) {
              again[0] = true;
            }
          });
      for (int v = 0; v < n; v++) {
        if (stays[v] != 0 || last && again[0]) {
          move[3 * v] = 0;
          move[3 * v + 1] = 0;
          move[3 * v + 2] = 0;
        }
      }
    }
    for (int i = 0; i < move.length; i++) {
      xyz[i] += move[i];
    }
  }

  private boolean turns(int t, float[] move) {
    double[] e = new double[12];
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    boolean any = false;
    for (int k = 0; k < 3; k++) {
      e[k] = xyz[b + k] - xyz[a + k];
      e[3 + k] = xyz[c + k] - xyz[a + k];
      e[6 + k] = e[k] + move[b + k] - move[a + k];
      e[9 + k] = e[3 + k] + move[c + k] - move[a + k];
      any |= move[a + k] != 0 || move[b + k] != 0 || move[c + k] != 0;
    }
    if (!any) {
      return false;
    }
    double nx = e[1] * e[5] - e[2] * e[4];
    double ny = e[2] * e[3] - e[0] * e[5];
    double nz = e[0] * e[4] - e[1] * e[3];
    double kx = e[7] * e[11] - e[8] * e[10];
    double ky = e[8] * e[9] - e[6] * e[11];
    double kz = e[6] * e[10] - e[7] * e[9];
    double nn = nx * nx + ny * ny + nz * nz;
    double kk = kx * kx + ky * ky + kz * kz;
    double dot = nx * kx + ny * ky + nz * kz;
    return dot <= 0 || dot * dot < 0.5 * nn * kk || kk < 0.1 * nn;
  }
}
