package holotome.core.touch;

/** What comes to a texel, map by map. One per thread. */
interface Coming {
  /** Whether what comes follows from what is there. */
  default boolean needsOwn() {
    return false;
  }

  /**
   * Finds what comes.
   *
   * @param spot where the texel lies on the surface
   * @param own what is there, carried, map by map, where that is needed
   * @param out set to what comes, likewise
   * @return whether anything does
   */
  boolean at(Region.Tile tile, int at, Spot spot, double[][] own, double[][] out);
}
