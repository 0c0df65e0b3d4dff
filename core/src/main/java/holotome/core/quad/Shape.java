package holotome.core.quad;

/** Angles and lengths of faces over points, 3 doubles each. */
final class Shape {
  private Shape() {}

  /** The cosine of the angle at b between a and c; 1 where two of them are one place. */
  static double cosine(double[] at, int a, int b, int c) {
    double dot = 0;
    double first = 0;
    double second = 0;
    for (int k = 0; k < 3; k++) {
      double x = at[3 * a + k] - at[3 * b + k];
      double y = at[3 * c + k] - at[3 * b + k];
      dot += x * y;
      first += x * x;
      second += y * y;
    }
    return first > 0 && second > 0 ? Math.clamp(dot / Math.sqrt(first * second), -1, 1) : 1;
  }

  static double distance(double[] at, int a, int b) {
    double x = at[3 * a] - at[3 * b];
    double y = at[3 * a + 1] - at[3 * b + 1];
    double z = at[3 * a + 2] - at[3 * b + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }

  /**
   * The cross product of both sides of a face at a corner: it points out of the face, and away from
   * it where the corner is bent in.
   */
  static void corner(double[] at, int[] c, int i, double[] out) {
    int b = 3 * c[i];
    int a = 3 * c[(i + c.length - 1) % c.length];
    int d = 3 * c[(i + 1) % c.length];
    double ux = at[d] - at[b];
    double uy = at[d + 1] - at[b + 1];
    double uz = at[d + 2] - at[b + 2];
    double wx = at[a] - at[b];
    double wy = at[a + 1] - at[b + 1];
    double wz = at[a + 2] - at[b + 2];
    out[0] = uy * wz - uz * wy;
    out[1] = uz * wx - ux * wz;
    out[2] = ux * wy - uy * wx;
  }
}
