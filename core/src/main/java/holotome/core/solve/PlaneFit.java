package holotome.core.solve;

import holotome.core.mesh.Vec;

/**
 * A plane through weighted points by least squares of the distances: the eigenvector of the
 * smallest eigenvalue of the covariance, found by Jacobi rotations (Golub and Van Loan, "Matrix
 * Computations", section 8.5).
 *
 * @param point the weighted mean
 * @param normal unit
 * @param rms root of the mean square distance of the points
 */
public record PlaneFit(double[] point, double[] normal, double rms) {

  /** Gathers weighted points. */
  public static final class Sum {
    private double w;
    private final double[] s = new double[3];
    private final double[] m = new double[6];
    private double[] origin;

    public Sum() {}

    public void add(double x, double y, double z, double weight) {
      // Sums are taken about the first point: far-off coordinates would drown the covariance.
      if (origin == null) {
        origin = Vec.of(x, y, z);
      }
      double a = x - origin[0];
      double b = y - origin[1];
      double c = z - origin[2];
      w += weight;
      s[0] += weight * a;
      s[1] += weight * b;
      s[2] += weight * c;
      m[0] += weight * a * a;
      m[1] += weight * a * b;
      m[2] += weight * a * c;
      m[3] += weight * b * b;
      m[4] += weight * b * c;
      m[5] += weight * c * c;
    }

    public double weight() {
      return w;
    }

    public PlaneFit fit() {
      if (!(w > 0)) {
        throw new IllegalStateException("no points to fit");
      }
      double x = s[0] / w;
      double y = s[1] / w;
      double z = s[2] / w;
      double[][] c = {
        {m[0] / w - x * x, m[1] / w - x * y, m[2] / w - x * z},
        {m[1] / w - x * y, m[3] / w - y * y, m[4] / w - y * z},
        {m[2] / w - x * z, m[4] / w - y * z, m[5] / w - z * z}
      };
      double[][] v = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
      jacobi(c, v);
      int least = 0;
      for (int i = 1; i < 3; i++) {
        if (c[i][i] < c[least][least]) {
          least = i;
        }
      }
      double[] n = Vec.unit(Vec.of(v[0][least], v[1][least], v[2][least]));
      return new PlaneFit(
          Vec.add(origin, Vec.of(x, y, z)), n, Math.sqrt(Math.max(0, c[least][least])));
    }
  }

  private static void jacobi(double[][] a, double[][] v) {
    for (int sweep = 0; sweep < 32; sweep++) {
      double off = Math.abs(a[0][1]) + Math.abs(a[0][2]) + Math.abs(a[1][2]);
      if (off <= 1e-18 * (Math.abs(a[0][0]) + Math.abs(a[1][1]) + Math.abs(a[2][2]))) {
        return;
      }
      for (int p = 0; p < 2; p++) {
        for (int q = p + 1; q < 3; q++) {
          if (a[p][q] == 0) {
            continue;
          }
          double theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
          double t = Math.copySign(1, theta) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
          double c = 1 / Math.sqrt(t * t + 1);
          double s = t * c;
          for (int k = 0; k < 3; k++) {
            double x = a[k][p];
            double y = a[k][q];
            a[k][p] = c * x - s * y;
            a[k][q] = s * x + c * y;
          }
          for (int k = 0; k < 3; k++) {
            double x = a[p][k];
            double y = a[q][k];
            a[p][k] = c * x - s * y;
            a[q][k] = s * x + c * y;
          }
          for (int k = 0; k < 3; k++) {
            double x = v[k][p];
            double y = v[k][q];
            v[k][p] = c * x - s * y;
            v[k][q] = s * x + c * y;
          }
        }
      }
    }
  }
}
