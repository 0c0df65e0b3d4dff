package holotome.core.contour;

/** What hat functions over the nodes of a lattice have in common. */
final class Hats {
  /** The integral of a hat's squared gradient, in steps. */
  static final float SELF = 8f / 3;

  /** That of the gradients of two hats side by side along two axes. */
  static final float EDGE = -1f / 6;

  /** That of the gradients of two hats side by side along all axes. */
  static final float CORNER = -1f / 12;

  private Hats() {}

  /**
   * The shares that the corners of a cell have in a place within.
   *
   * @param data the place from {@code at} on, 0 to 1 along each axis
   * @param out 8, corner bits 1, 2 and 4 for x, y and z
   */
  static void shares(float[] data, int at, float[] out) {
    float x = data[at];
    float y = data[at + 1];
    float z = data[at + 2];
    float xy = x * y;
    out[3] = xy * (1 - z);
    out[7] = xy * z;
    out[1] = (x - xy) * (1 - z);
    out[5] = (x - xy) * z;
    out[2] = (y - xy) * (1 - z);
    out[6] = (y - xy) * z;
    float none = 1 - x - y + xy;
    out[0] = none * (1 - z);
    out[4] = none * z;
  }
}
