package holotome.core.touch;

/** What a touch covers on the surface, in pieces that are looked for one after the other. */
sealed interface Form permits StrokeForm, AreaForm {
  /** Beyond so many radii, and so many texels beyond the radius, nothing is of interest. */
  double RIM = 1.4;

  double RIM_TEXELS = 3;

  int pieces();

  /** Triangles that a piece certainly lies on. */
  int[] seeds(int piece);

  /** Balls that hold a piece with its rim: x, y, z and radius each. */
  double[] balls(int piece);

  /** Whether a piece with its rim comes near to a ball. */
  boolean isNear(int piece, double x, double y, double z, double reach);

  /**
   * How far out of the middle of a piece a place lies: up to 1 within, up to {@link #rim} in the
   * rim; infinite beyond, or where the surface turns away.
   *
   * @param face unit normal of its triangle
   * @param found set to: the number of the dab and how far on to the next; how far to the left of
   *     the line, in radii
   */
  double far(int piece, double x, double y, double z, double[] face, double[] found);

  /** Where the rim ends, in radii. */
  double rim();

  Course course();
}
