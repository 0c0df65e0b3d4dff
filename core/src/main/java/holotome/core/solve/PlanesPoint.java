package holotome.core.solve;

/**
 * The point that is nearest to several planes in the mean, and among those as near the one nearest
 * to a given place: least squares by the eigenvalues of the planes' normals, small ones left out
 * (Ju, Losasso, Schaefer and Warren, "Dual contouring of Hermite data", 2002).
 */
public final class PlanesPoint {
  /** Eigenvalues smaller than this share of the largest say nothing. */
  private static final double SMALL = 0.08;

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

  /** The way from the given place to the point. */
  public double[] solve() {
    a[3] = a[1];
    a[6] = a[2];
    a[7] = a[5];
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
