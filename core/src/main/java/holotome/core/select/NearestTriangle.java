package holotome.core.select;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/** The triangle nearest to a point, without any structure made first; one parallel pass. */
public final class NearestTriangle {
  private static final int GRAIN = 1 << 15;

  private NearestTriangle() {}

  /** Its number; of equally near ones the first. */
  public static int of(Mesh mesh, double[] point, Work work) {
    int n = mesh.triangleCount();
    int chunks = Parallel.chunks(n, GRAIN);
    int[] best = new int[chunks];
    double[] distance = new double[chunks];
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    Parallel.chunked(
        n,
        GRAIN,
        work,
        (c, from, to) -> {
          double least = Double.POSITIVE_INFINITY;
          int at = from;
          for (int t = from; t < to; t++) {
            double d = squared(p, 3 * tri[3 * t], 3 * tri[3 * t + 1], 3 * tri[3 * t + 2], point);
            if (d < least) {
              least = d;
              at = t;
            }
          }
          best[c] = at;
          distance[c] = least;
        });
    int c = 0;
    for (int i = 1; i < chunks; i++) {
      if (distance[i] < distance[c]) {
        c = i;
      }
    }
    return best[c];
  }

  /**
   * The squared distance of a point to a triangle: to its plane where the foot lies inside, else to
   * the nearest edge.
   */
  private static double squared(float[] p, int a, int b, int c, double[] q) {
    double ux = (double) p[b] - p[a];
    double uy = (double) p[b + 1] - p[a + 1];
    double uz = (double) p[b + 2] - p[a + 2];
    double vx = (double) p[c] - p[a];
    double vy = (double) p[c + 1] - p[a + 1];
    double vz = (double) p[c + 2] - p[a + 2];
    double wx = q[0] - p[a];
    double wy = q[1] - p[a + 1];
    double wz = q[2] - p[a + 2];
    double nx = uy * vz - uz * vy;
    double ny = uz * vx - ux * vz;
    double nz = ux * vy - uy * vx;
    double nn = nx * nx + ny * ny + nz * nz;
    if (nn > 0) {
      double s =
          ((wy * vz - wz * vy) * nx + (wz * vx - wx * vz) * ny + (wx * vy - wy * vx) * nz) / nn;
      double t =
          ((uy * wz - uz * wy) * nx + (uz * wx - ux * wz) * ny + (ux * wy - uy * wx) * nz) / nn;
      if (s >= 0 && t >= 0 && s + t <= 1) {
        double h = wx * nx + wy * ny + wz * nz;
        return h * h / nn;
      }
    }
    return Math.min(edge(p, a, b, q), Math.min(edge(p, b, c, q), edge(p, c, a, q)));
  }

  private static double edge(float[] p, int a, int b, double[] q) {
    double dx = (double) p[b] - p[a];
    double dy = (double) p[b + 1] - p[a + 1];
    double dz = (double) p[b + 2] - p[a + 2];
    double wx = q[0] - p[a];
    double wy = q[1] - p[a + 1];
    double wz = q[2] - p[a + 2];
    double l2 = dx * dx + dy * dy + dz * dz;
    double f = l2 > 0 ? Math.clamp((wx * dx + wy * dy + wz * dz) / l2, 0, 1) : 0;
    wx -= f * dx;
    wy -= f * dy;
    wz -= f * dz;
    return wx * wx + wy * wy + wz * wz;
  }
}
