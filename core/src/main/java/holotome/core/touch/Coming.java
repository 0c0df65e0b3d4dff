package holotome.core.touch;

/** What comes to a texel, map by map. One per thread. */
interface Coming {
  /**
   * Finds what comes.
   *
   * @param spot where the texel lies on the surface
   * @param own what is there, carried, map by map
   * @param out set to what comes, likewise
   * @return whether anything does
   */
  boolean at(Region.Tile tile, int at, Spot spot, double[][] own, double[][] out);
}
