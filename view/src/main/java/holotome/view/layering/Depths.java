package holotome.view.layering;

/**
 * The depths that lines and dots are held against.
 *
 * @param values 0 to 1 by rows, 1 for nothing there
 */
record Depths(float[] values, int width, int height) {

  /** What a float loses on its way here. */
  private static final float SLACK = 2e-6f;

  /**
   * Whether something at a depth lies behind the surface seen in a pixel. What lies on the surface
   * does not: it is held against the farthest of the pixel and its neighbours, so that a slope seen
   * from the side hides nothing of what is drawn on it.
   */
  boolean hide(int x, int y, float depth) {
    float farthest = 0;
    for (int j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1); j++) {
      for (int i = Math.max(0, x - 1); i <= Math.min(width - 1, x + 1); i++) {
        farthest = Math.max(farthest, values[j * width + i]);
      }
    }
    return depth > farthest + SLACK;
  }
}
