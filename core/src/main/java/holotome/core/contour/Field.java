package holotome.core.contour;

/** Tells of any place whether it is inside a body. */
@FunctionalInterface
public interface Field {
  /** Places where it is above this are inside. */
  double LEVEL = 0.5;

  /** Asks; one for each thread. */
  @FunctionalInterface
  interface Probe {
    double at(double x, double y, double z);

    /**
     * The unit normal of the body's surface near a place, looking outwards.
     *
     * @param out 3, filled
     * @return false where it is not known
     */
    default boolean outwards(double x, double y, double z, double[] out) {
      return false;
    }
  }

  Probe probe();

  /**
   * Whether it is linear along the edges of the lattice that is asked about, so that the values at
   * the ends of an edge say where it passes the level.
   */
  default boolean isLinear() {
    return false;
  }
}
