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
}
