package holotome.core.solve;

/**
 * The point that is nearest to several planes in the mean, and among those as near the one nearest
 * to a given place: least squares by the eigenvalues of the planes' normals, small ones left out
 * (Ju, Losasso, Schaefer and Warren, "Dual contouring of Hermite data", 2002).
 */
public final class PlanesPoint {
  /** Eigenvalues smaller than this share of the largest say nothing. */
  private static final double SMALL = 0.08;

  /** Each makes what is wrong with the largest eigenvector less by that share. */
  private static final int POWERS = 6;

  private final double[] a = new double[9];
  private final double[] b = new double[3];

  /** No planes yet. */
  public PlanesPoint() {
    // Added one by one.
  }

  /** Adds a plane by its unit normal and its distance from the given place along it. */
  public void add(double nx, double ny, double nz, double distance) {
    a[0] += nx * nx;
    a[1] += nx * ny;
    a[2] += nx * nz;
    a[4] += ny * ny;
    a[5] += ny * nz;
    a[8] += nz * nz;
    b[0] += nx * distance;
    b[1] += ny * distance;
    b[2] += nz * distance;
  }

  /**
   * The way where all planes are nearly one, which is most of a smooth surface: the largest
   * eigenvector by taking powers, the others are too small to say anything. Null elsewhere.
   */
  private double[] alongOne() {
    double trace = a[0] + a[4] + a[8];
    int most = a[0] >= a[4] && a[0] >= a[8] ? 0 : a[4] >= a[8] ? 1 : 2;
    double x = a[most];
    double y = a[3 + most];
    double z = a[6 + most];
    double value = 0;
    for (int i = 0; i < POWERS; i++) {
      double l = Math.sqrt(x * x + y * y + z * z);
      if (!(l > 0)) {
        return null;
      }
      double u = x / l;
      double v = y / l;
      double w = z / l;
      x = a[0] * u + a[1] * v + a[2] * w;
      y = a[1] * u + a[4] * v + a[5] * w;
      z = a[2] * u + a[5] * v + a[8] * w;
      value = x * u + y * v + z * w;
      if (i == 0 && trace - value > 2 * SMALL * value) {
        return null;
      }
    }
    if (trace - value > SMALL * value) {
      return null;
    }
    double square = x * x + y * y + z * z;
    double along = (x * b[0] + y * b[1] + z * b[2]) / (value * square);
    return new double[] {along * x, along * y, along * z};
  }

  /** The way from the given place to the point. */
  public double[] solve() {
    a[3] = a[1];
    a[6] = a[2];
    a[7] = a[5];
    double[] nearlyOne = alongOne();
    if (nearlyOne != null) {
      return nearlyOne;
    }
    double[] m = a.clone();
    double[] v = Dense.eigenvectors(m, 3);
    double most = Math.max(m[0], Math.max(m[4], m[8]));
    double[] out = new double[3];
    for (int e = 0; e < 3; e++) {
      double value = m[4 * e];
      if (value <= SMALL * most || value <= 0) {
        continue;
      }
      double along = (v[e] * b[0] + v[3 + e] * b[1] + v[6 + e] * b[2]) / value;
      for (int k = 0; k < 3; k++) {
        out[k] += along * v[3 * k + e];
      }
    }
    return out;
  }
}
