package holotome.core.map;

/**
 * How a surface bends at a vertex: the second fundamental form that fits best to how much the
 * normal turns along each edge there (do Carmo, "Differential geometry of curves and surfaces",
 * 1976, section 3.2; fitted after Hameiri and Shimshoni, "Estimating the principal curvatures and
 * the Darboux frame from real 3-D range data", 2003). One per thread.
 */
final class Bend {
  /** Below this share of what independent directions give, they do not tell the three numbers. */
  private static final double LEAST = 1e-6;

  private final double[] across = new double[6];
  private final double[] m = new double[6];
  private final double[] r = new double[3];
  private double weights;
  private double sum;

  /** Begins with a vertex. */
  void begin(float[] n, int v) {
    java.util.Arrays.fill(m, 0);
    java.util.Arrays.fill(r, 0);
    weights = 0;
    sum = 0;
    double x = n[3 * v];
    double y = n[3 * v + 1];
    double z = n[3 * v + 2];
    double sign = Math.copySign(1, z);
    double s = -1 / (sign + z);
    double t = x * y * s;
    across[0] = 1 + sign * x * x * s;
    across[1] = sign * t;
    across[2] = -sign * x;
    across[3] = t;
    across[4] = sign + y * y * s;
    across[5] = -y;
  }

  /** Adds an edge to another vertex. */
  void add(float[] p, float[] n, int v, int w, double weight) {
    double turned = 0;
    double square = 0;
    double a = 0;
    double b = 0;
    for (int k = 0; k < 3; k++) {
      double d = (double) p[3 * w + k] - p[3 * v + k];
      turned += d * ((double) n[3 * w + k] - n[3 * v + k]);
      square += d * d;
      a += d * across[k];
      b += d * across[3 + k];
    }
    double flat = a * a + b * b;
    if (!(flat > 0)) {
      return;
    }
    double bend = turned / square;
    double x = a * a / flat;
    double y = 2 * a * b / flat;
    double z = b * b / flat;
    m[0] += weight * x * x;
    m[1] += weight * x * y;
    m[2] += weight * x * z;
    m[3] += weight * y * y;
    m[4] += weight * y * z;
    m[5] += weight * z * z;
    r[0] += weight * x * bend;
    r[1] += weight * y * bend;
    r[2] += weight * z * bend;
    weights += weight;
    sum += weight * bend;
  }

  /** The mean of the principal curvatures; above 0 where the surface bends away from its normal. */
  double mean() {
    double c0 = m[3] * m[5] - m[4] * m[4];
    double c1 = m[2] * m[4] - m[1] * m[5];
    double c2 = m[1] * m[4] - m[2] * m[3];
    double det = m[0] * c0 + m[1] * c1 + m[2] * c2;
    if (!(det > LEAST * weights * weights * weights)) {
      return weights > 0 ? sum / weights : 0;
    }
    double c3 = m[0] * m[5] - m[2] * m[2];
    double c4 = m[1] * m[2] - m[0] * m[4];
    double c5 = m[0] * m[3] - m[1] * m[1];
    double along = (c0 * r[0] + c1 * r[1] + c2 * r[2]) / det;
    double over = (c2 * r[0] + c4 * r[1] + c5 * r[2]) / det;
    return c3 > 0 ? (along + over) / 2 : sum / weights;
  }
}
