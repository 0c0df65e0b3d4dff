package holotome.demo;

/**
 * The mooring bollard's true shape, in metres: a profile turned about the z axis, with a worn
 * surface. Its foot stands at z = 0; it is 640 mm high with a flange of 520 mm.
 */
final class Bollard {
  static final double HEIGHT = 0.640;
  static final double FLANGE_RADIUS = 0.260;

  /** The profile from the top's middle down to the foot: radius, height. */
  private static final double[][] POINTS = {
    {0, .640},
    {.05, .6385},
    {.10, .634},
    {.15, .623},
    {.19, .605},
    {.215, .578},
    {.226, .545},
    {.222, .515},
    {.205, .490},
    {.178, .468},
    {.152, .444},
    {.136, .415},
    {.129, .380},
    {.127, .330},
    {.129, .270},
    {.134, .210},
    {.142, .160},
    {.158, .118},
    {.186, .090},
    {.220, .072},
    {.246, .062},
    {.257, .052},
    {.2600, .040},
    {.2600, .020},
    {.2600, 0}
  };

  private static final int STEPS = 4000;
  private static final double[] RADIUS = new double[STEPS + 1];
  private static final double[] Z = new double[STEPS + 1];

  /** The length of the profile. */
  static final double LENGTH;

  static {
    // Catmull-Rom through the points, then tabled by arc length.
    int per = 400;
    int n = (POINTS.length - 1) * per;
    double[] r = new double[n + 1];
    double[] z = new double[n + 1];
    double[] s = new double[n + 1];
    for (int i = 0; i <= n; i++) {
      int k = Math.min(i / per, POINTS.length - 2);
      double t = (i - k * per) / (double) per;
      r[i] = spline(k, t, 0);
      z[i] = spline(k, t, 1);
      s[i] = i == 0 ? 0 : s[i - 1] + Math.hypot(r[i] - r[i - 1], z[i] - z[i - 1]);
    }
    LENGTH = s[n];
    int at = 0;
    for (int i = 0; i <= STEPS; i++) {
      double want = LENGTH * i / STEPS;
      while (at < n - 1 && s[at + 1] < want) {
        at++;
      }
      double f = Math.clamp((want - s[at]) / (s[at + 1] - s[at]), 0.0, 1.0);
      RADIUS[i] = r[at] + f * (r[at + 1] - r[at]);
      Z[i] = z[at] + f * (z[at + 1] - z[at]);
    }
  }

  private Bollard() {}

  private static double spline(int k, double t, int c) {
    double a = POINTS[Math.max(0, k - 1)][c];
    double b = POINTS[k][c];
    double d = POINTS[k + 1][c];
    double e = POINTS[Math.min(POINTS.length - 1, k + 2)][c];
    if (k == 0 && c == 0) {
      a = -d;
    }
    return 0.5
        * (2 * b + t * (d - a + t * (2 * a - 5 * b + 4 * d - e + t * (3 * (b - d) + e - a))));
  }

  /** Radius at a length along the profile from the top. */
  static double radius(double along) {
    return table(RADIUS, along);
  }

  static double z(double along) {
    return table(Z, along);
  }

  private static double table(double[] values, double along) {
    double x = Math.clamp(along / LENGTH, 0.0, 1.0) * STEPS;
    int i = Math.min(STEPS - 1, (int) x);
    return values[i] + (x - i) * (values[i + 1] - values[i]);
  }

  /** A point of the true surface and the profile's normal there: x y z, nx ny nz. */
  static void point(double along, double angle, double[] out) {
    double e = LENGTH / STEPS;
    double dr = radius(along + e) - radius(along - e);
    double dz = z(along + e) - z(along - e);
    double l = Math.hypot(dr, dz);
    double nr = l > 0 ? -dz / l : 0;
    double nz = l > 0 ? dr / l : 1;
    double r = radius(along);
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    double x = r * c;
    double y = r * s;
    double z = z(along);
    double d = wear(x, y, z) * Noise.smoothStep(0, 0.012, LENGTH - along);
    out[0] = x + c * nr * d;
    out[1] = y + s * nr * d;
    out[2] = z + nz * d;
    out[3] = c * nr;
    out[4] = s * nr;
    out[5] = nz;
  }

  /** How far the worn surface stands out from the profile: casting skin, rust scale and pits. */
  private static double wear(double x, double y, double z) {
    double skin = 0.0007 * Noise.octaves(9 * x, 9 * y, 9 * z, 11, 2);
    double scale =
        0.0011 * Math.max(0, rust(x, y, z)) * Noise.octaves(90 * x, 90 * y, 90 * z, 12, 2);
    double pit = Noise.value(55 * x, 55 * y, 55 * z, 13);
    return skin + scale - 0.0022 * Noise.smoothStep(0.55, 0.85, pit);
  }

  /** How rusty a place is, above zero where it shows. */
  static double rust(double x, double y, double z) {
    return Noise.octaves(7 * x + 3, 7 * y, 5 * z, 21, 4) * 2 + 0.12 - 0.5 * (z - 0.3);
  }
}
