package holotome.core.bake;

/**
 * How the samples around a texel are weighed. The soft and the sharp ones are cubics of the family
 * of Mitchell and Netravali, "Reconstruction filters in computer graphics", 1988: B-spline (B = 1,
 * C = 0), theirs (1/3, 1/3), Catmull and Rom's (0, 1/2).
 */
public enum Filter {
  /** Those within the texel, all alike. */
  BOX(0, 0, 0),
  /** Wide and even: quiet, and blurred. */
  SOFT(2, 1, 0),
  /** Between both. */
  EVEN(2, 1 / 3.0, 1 / 3.0),
  /** What is fine is kept, what is finer than that mirrored a little. */
  SHARP(2, 0, 0.5);

  private final int reach;
  private final double b;
  private final double c;

  Filter(int reach, double b, double c) {
    this.reach = reach;
    this.b = b;
    this.c = c;
  }

  /** How many texels beyond the one at hand it takes samples from. */
  int reach() {
    return reach;
  }

  /** The weight at a distance from the texel's centre along one axis, in texels. */
  double weight(double distance) {
    double x = Math.abs(distance);
    if (this == BOX) {
      return x <= 0.5 ? 1 : 0;
    }
    if (x < 1) {
      return ((12 - 9 * b - 6 * c) * x * x * x + (-18 + 12 * b + 6 * c) * x * x + (6 - 2 * b)) / 6;
    }
    if (x < 2) {
      return ((-b - 6 * c) * x * x * x
              + (6 * b + 30 * c) * x * x
              + (-12 * b - 48 * c) * x
              + (8 * b + 24 * c))
          / 6;
    }
    return 0;
  }
}
