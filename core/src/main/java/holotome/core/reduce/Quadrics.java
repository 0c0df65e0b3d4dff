package holotome.core.reduce;

/**
 * Error quadrics per vertex: x'Ax + 2b'x + c, and the area they stand for.
 *
 * <p>Layout: 11 doubles per vertex: a00 a01 a02 a11 a12 a22, b0 b1 b2, c, weight.
 */
final class Quadrics {
  private static final int N = 11;

  /**
   * A trace of distance to the vertices themselves, as if the planes' normals were uncertain by so
   * much (Trettner and Kobbelt, "Fast and robust QEM simplification using probabilistic quadrics",
   * 2020): where the surface is flat it keeps the point on the mesh and the triangles even.
   */
  private static final double UNSURE = 1e-5;

  private final double[] q;

  Quadrics(double[] p, int[] tri, int vertices) {
    q = new double[N * vertices];
    for (int t = 0; t < tri.length; t += 3) {
      addTriangle(p, tri[t], tri[t + 1], tri[t + 2]);
    }
  }

  private void addTriangle(double[] p, int a, int b, int c) {
    double ux = p[3 * b] - p[3 * a];
    double uy = p[3 * b + 1] - p[3 * a + 1];
    double uz = p[3 * b + 2] - p[3 * a + 2];
    double vx = p[3 * c] - p[3 * a];
    double vy = p[3 * c + 1] - p[3 * a + 1];
    double vz = p[3 * c + 2] - p[3 * a + 2];
    double nx = uy * vz - uz * vy;
    double ny = uz * vx - ux * vz;
    double nz = ux * vy - uy * vx;
    double l = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (!(l > 0)) {
      return;
    }
    double w = l / 6;
    nx /= l;
    ny /= l;
    nz /= l;
    double d = -(nx * p[3 * a] + ny * p[3 * a + 1] + nz * p[3 * a + 2]);
    double gx = (p[3 * a] + p[3 * b] + p[3 * c]) / 3;
    double gy = (p[3 * a + 1] + p[3 * b + 1] + p[3 * c + 1]) / 3;
    double gz = (p[3 * a + 2] + p[3 * b + 2] + p[3 * c + 2]) / 3;
    for (int k = 0; k < 3; k++) {
      int o = N * (k == 0 ? a : k == 1 ? b : c);
      addPlane(o, nx, ny, nz, d, w);
      addPoint(o, gx, gy, gz, w * UNSURE);
      q[o + 10] += w;
    }
  }

  private void addPlane(int o, double nx, double ny, double nz, double d, double w) {
    q[o] += w * nx * nx;
    q[o + 1] += w * nx * ny;
    q[o + 2] += w * nx * nz;
    q[o + 3] += w * ny * ny;
    q[o + 4] += w * ny * nz;
    q[o + 5] += w * nz * nz;
    q[o + 6] += w * nx * d;
    q[o + 7] += w * ny * d;
    q[o + 8] += w * nz * d;
    q[o + 9] += w * d * d;
  }

  private void addPoint(int o, double x, double y, double z, double w) {
    q[o] += w;
    q[o + 3] += w;
    q[o + 5] += w;
    q[o + 6] -= w * x;
    q[o + 7] -= w * y;
    q[o + 8] -= w * z;
    q[o + 9] += w * (x * x + y * y + z * z);
  }

  /** Holds a border edge from a to b by the plane through it at right angles to its triangle. */
  void addBorder(double[] p, int a, int b, int apex, double weight) {
    double ex = p[3 * b] - p[3 * a];
    double ey = p[3 * b + 1] - p[3 * a + 1];
    double ez = p[3 * b + 2] - p[3 * a + 2];
    double vx = p[3 * apex] - p[3 * a];
    double vy = p[3 * apex + 1] - p[3 * a + 1];
    double vz = p[3 * apex + 2] - p[3 * a + 2];
    double e2 = ex * ex + ey * ey + ez * ez;
    if (!(e2 > 0)) {
      return;
    }
    double f = (ex * vx + ey * vy + ez * vz) / e2;
    double nx = vx - f * ex;
    double ny = vy - f * ey;
    double nz = vz - f * ez;
    double l = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (!(l > 0)) {
      return;
    }
    nx /= l;
    ny /= l;
    nz /= l;
    double d = -(nx * p[3 * a] + ny * p[3 * a + 1] + nz * p[3 * a + 2]);
    addPlane(N * a, nx, ny, nz, d, weight * e2 / 2);
    addPlane(N * b, nx, ny, nz, d, weight * e2 / 2);
  }

  double weight(int v) {
    return q[N * v + 10];
  }

  /** Adds w's quadric to v's. */
  void merge(int v, int w) {
    for (int i = 0; i < N; i++) {
      q[N * v + i] += q[N * w + i];
    }
  }

  /** The error of both quadrics at a point. */
  double error(int v, int w, double[] at) {
    return error(v, w, at[0], at[1], at[2]);
  }

  /**
   * The point where both quadrics' error is least, into {@code at}; returns that error. Solved
   * about the middle of the edge, by Cramer's rule; where the system is too near to singular, the
   * best of the two ends and the middle.
   */
  double best(int v, int w, double[] p, double[] at) {
    int a = N * v;
    int b = N * w;
    double mx = (p[3 * v] + p[3 * w]) / 2;
    double my = (p[3 * v + 1] + p[3 * w + 1]) / 2;
    double mz = (p[3 * v + 2] + p[3 * w + 2]) / 2;
    double a00 = q[a] + q[b];
    double a01 = q[a + 1] + q[b + 1];
    double a02 = q[a + 2] + q[b + 2];
    double a11 = q[a + 3] + q[b + 3];
    double a12 = q[a + 4] + q[b + 4];
    double a22 = q[a + 5] + q[b + 5];
    double gx = a00 * mx + a01 * my + a02 * mz + q[a + 6] + q[b + 6];
    double gy = a01 * mx + a11 * my + a12 * mz + q[a + 7] + q[b + 7];
    double gz = a02 * mx + a12 * my + a22 * mz + q[a + 8] + q[b + 8];
    double c00 = a11 * a22 - a12 * a12;
    double c01 = a02 * a12 - a01 * a22;
    double c02 = a01 * a12 - a02 * a11;
    double det = a00 * c00 + a01 * c01 + a02 * c02;
    double trace = a00 + a11 + a22;
    if (det > 1e-13 * trace * trace * trace) {
      double c11 = a00 * a22 - a02 * a02;
      double c12 = a01 * a02 - a00 * a12;
      double c22 = a00 * a11 - a01 * a01;
      double dx = -(c00 * gx + c01 * gy + c02 * gz) / det;
      double dy = -(c01 * gx + c11 * gy + c12 * gz) / det;
      double dz = -(c02 * gx + c12 * gy + c22 * gz) / det;
      double ex = p[3 * v] - p[3 * w];
      double ey = p[3 * v + 1] - p[3 * w + 1];
      double ez = p[3 * v + 2] - p[3 * w + 2];
      // A minimum far away comes from planes that are almost parallel; it is no place to go.
      if (dx * dx + dy * dy + dz * dz < 4 * (ex * ex + ey * ey + ez * ez)) {
        at[0] = mx + dx;
        at[1] = my + dy;
        at[2] = mz + dz;
        double atMiddle = error(v, w, mx, my, mz);
        return Math.max(0, atMiddle + gx * dx + gy * dy + gz * dz);
      }
    }
    double best = error(v, w, mx, my, mz);
    at[0] = mx;
    at[1] = my;
    at[2] = mz;
    for (int i = 0; i < 2; i++) {
      int u = i == 0 ? v : w;
      double e = error(v, w, p[3 * u], p[3 * u + 1], p[3 * u + 2]);
      if (e < best) {
        best = e;
        System.arraycopy(p, 3 * u, at, 0, 3);
      }
    }
    return best;
  }

  private double error(int v, int w, double x, double y, double z) {
    int a = N * v;
    int b = N * w;
    return x
            * ((q[a] + q[b]) * x
                + 2 * ((q[a + 1] + q[b + 1]) * y + (q[a + 2] + q[b + 2]) * z + q[a + 6] + q[b + 6]))
        + y * ((q[a + 3] + q[b + 3]) * y + 2 * ((q[a + 4] + q[b + 4]) * z + q[a + 7] + q[b + 7]))
        + z * ((q[a + 5] + q[b + 5]) * z + 2 * (q[a + 8] + q[b + 8]))
        + q[a + 9]
        + q[b + 9];
  }
}
