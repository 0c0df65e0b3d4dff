package holotome.core.unit;

/** Round figures for scale bars and grids: 1, 2 or 5 times a power of ten. */
public final class RoundLength {
  private RoundLength() {}

  /** The largest round figure not above x, for x above zero. */
  public static double below(double x) {
    double p = Math.pow(10, Math.floor(Math.log10(x)));
    double m = x / p;
    return (m >= 5 ? 5 : m >= 2 ? 2 : 1) * p;
  }
}
