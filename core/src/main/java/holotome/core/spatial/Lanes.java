package holotome.core.spatial;

/**
 * Holds up to eight boxes or triangles of a {@link Bvh} against a query at once. What each way of
 * doing so answers is the same to the last bit.
 */
abstract class Lanes {
  /** How far boxes reach beyond where rounding may have put their far ends. */
  static final float BEYOND = 1.000001f;

  /** The fastest that this machine and the way the program was started allow. */
  static Lanes best() {
    return Chosen.BEST;
  }

  /** Chosen once. */
  private static final class Chosen {
    static final Lanes BEST = choose();

    private static Lanes choose() {
      boolean isThere = ModuleLayer.boot().findModule("jdk.incubator.vector").isPresent();
      Lanes fast = isThere ? VectorLanes.made() : null;
      return fast == null ? new PlainLanes() : fast;
    }
  }

  /**
   * Which children's boxes the ray meets.
   *
   * @param to how far the ray goes
   * @return a bit each; where it enters them is left in {@link BvhQuery#at}
   */
  abstract int boxes(BvhQuery ray, int node, float to);

  /**
   * Which triangles of a leaf the ray meets between the distances.
   *
   * @return a bit each; the distance and the weights of the second and third corner are left in
   *     {@link BvhQuery#at}, {@link BvhQuery#second} and {@link BvhQuery#third}
   */
  abstract int triangles(BvhQuery ray, int first, int count, float to, BvhQuery.Facing facing);

  /**
   * Which children's boxes lie within reach of a point.
   *
   * @param reach the square of the distance
   * @return a bit each; the squares of their distances are left in {@link BvhQuery#at}
   */
  abstract int near(BvhQuery point, int node, float reach);

  /**
   * Which triangles of a leaf have boxes within reach of a point: others need no closer look.
   *
   * @return a bit each
   */
  abstract int nearTriangles(BvhQuery point, int first, int count, float reach);
}
