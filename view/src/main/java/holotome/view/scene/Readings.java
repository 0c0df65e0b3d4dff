package holotome.view.scene;

/**
 * A number for each vertex of a mesh, or for each triangle, drawn by colour: what lies below nought
 * and what above are told apart by hue, how far by darkness, in steps that can be read off a
 * legend.
 *
 * @param values one per vertex, or per triangle; NaN where there is none
 * @param isOfTriangles whether there is one per triangle
 * @param range what is as far as this from nought, or farther, has the last colour; above 0
 * @param within what is no farther than this from nought is as good as nought; 0 for nothing
 */
public record Readings(float[] values, boolean isOfTriangles, double range, double within) {

  /** So many steps of colour lie to either side of nought. */
  public static final int STEPS = 6;

  private static final int PLAIN = 0xffefece4;
  private static final int UNKNOWN = 0xff8f8f8f;

  /** From nought to the end of the range; of one lightness step by step on both sides. */
  private static final int[] ABOVE = {
    0xffe9dcc4, 0xffe3c08b, 0xffd79c58, 0xffc0713f, 0xff98452f, 0xff642420
  };

  private static final int[] BELOW = {
    0xffcfe2dc, 0xff9dcabf, 0xff67aa9f, 0xff35857b, 0xff1a6059, 0xff0d3c3b
  };

  public Readings {
    if (!(range > 0) || !(within >= 0)) {
      throw new IllegalArgumentException("a range above 0 is wanted: " + range + ", " + within);
    }
  }

  /** One per vertex. */
  public Readings(float[] ofVertex, double range, double within) {
    this(ofVertex, false, range, within);
  }

  /** The colour of a reading, opaque. */
  public int colour(double value) {
    if (Double.isNaN(value)) {
      return UNKNOWN;
    }
    double off = Math.abs(value);
    if (off <= within) {
      return PLAIN;
    }
    int step = (int) Math.min(STEPS - 1, off / range * STEPS);
    return (value < 0 ? BELOW : ABOVE)[step];
  }

  /** The reading inside a triangle, by the weights of its second and third corner. */
  double at(int[] triangles, int t, double u, double v) {
    return isOfTriangles
        ? values[t]
        : (1 - u - v) * values[triangles[3 * t]]
            + u * values[triangles[3 * t + 1]]
            + v * values[triangles[3 * t + 2]];
  }

  /** The colour inside a triangle, by the weights of its second and third corner. */
  public int colour(int[] triangles, int t, double u, double v) {
    return colour(at(triangles, t, u, v));
  }

  /** Readings of the same with another range. */
  public Readings withRange(double other) {
    return new Readings(values, isOfTriangles, other, within);
  }
}
