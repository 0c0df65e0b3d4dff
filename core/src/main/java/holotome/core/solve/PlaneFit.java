package holotome.core.solve;

import holotome.core.geometry.Vec;

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

    /** Takes in all that another sum has. */
    public void add(Sum o) {
      if (o.origin == null) {
        return;
      }
      if (origin == null) {
        origin = o.origin;
      }
      double[] d = Vec.sub(o.origin, origin);
      int at = 0;
      for (int i = 0; i < 3; i++) {
        for (int j = i; j < 3; j++) {
          m[at] += o.m[at] + d[i] * o.s[j] + d[j] * o.s[i] + o.w * d[i] * d[j];
          at++;
        }
      }
      for (int i = 0; i < 3; i++) {
        s[i] += o.s[i] + o.w * d[i];
      }
      w += o.w;
    }

    public double weight() {
      return w;
    }

    /** The covariance of the points, 3 x 3 by rows. */
    public double[] covariance() {
      double x = s[0] / w;
      double y = s[1] / w;
      double z = s[2] / w;
      return new double[] {
        m[0] / w - x * x, m[1] / w - x * y, m[2] / w - x * z,
        m[1] / w - x * y, m[3] / w - y * y, m[4] / w - y * z,
        m[2] / w - x * z, m[4] / w - y * z, m[5] / w - z * z
      };
    }

    public PlaneFit fit() {
      if (!(w > 0)) {
        throw new IllegalStateException("no points to fit");
      }
      double x = s[0] / w;
      double y = s[1] / w;
      double z = s[2] / w;
      double[] c = covariance();
      double[] v = Dense.eigenvectors(c, 3);
      int least = 0;
      for (int i = 1; i < 3; i++) {
        if (c[4 * i] < c[4 * least]) {
          least = i;
        }
      }
      double[] n = Vec.unit(Vec.of(v[least], v[3 + least], v[6 + least]));
      return new PlaneFit(
          Vec.add(origin, Vec.of(x, y, z)), n, Math.sqrt(Math.max(0, c[4 * least])));
    }
  }
}
