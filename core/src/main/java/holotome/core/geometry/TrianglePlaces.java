package holotome.core.geometry;

/**
 * Places that fill a triangle evenly, one after the other, without chance: the R2 sequence folded
 * into it (Roberts, "The unreasonable effectiveness of quasirandom sequences", 2018).
 */
public final class TrianglePlaces {
  /** The plastic number's powers. */
  private static final double FIRST = 0.7548776662466927;

  private static final double SECOND = 0.5698402909980532;

  private TrianglePlaces() {}

  /**
   * The weights of the second and third corner of a place.
   *
   * @param i which place, from 0
   * @param start where the sequence begins, from 0 to 1
   */
  public static double[] weights(int i, double start) {
    double a = (start + i * FIRST) % 1;
    double b = (start + i * SECOND) % 1;
    return a + b > 1 ? new double[] {1 - a, 1 - b} : new double[] {a, b};
  }
}
