package holotome.core.unwrap;

/** A way to look at a surface from a few sides, each of which lays flat what it sees. */
interface Projection {
  /** How many sides there are. */
  int sides();

  /**
   * How well a side sees a triangle: the cosine of the angle at which it looks at it.
   *
   * @param t in the mesh
   */
  double facing(int t, int side);

  /** Whether a side lays flat what it sees; what it only tells apart lies flat by itself. */
  boolean isLaying(int side);

  /**
   * Whether the surface is cut open along an edge that one side sees on both hands.
   *
   * @param h half-edge, with an opposite one {@code g}
   */
  boolean isCut(int h, int g, int side);

  /** The piece where that side sees it, in the mesh's units. */
  Piece placed(Piece p, int side);
}
