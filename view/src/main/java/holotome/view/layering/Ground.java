package holotome.view.layering;

/**
 * A picture of meshes that lines and marks are drawn over.
 *
 * @param pixels by rows, changed
 * @param depths of what hides, 0 to 1 by rows, 1 for nothing there
 * @param toPixels as {@link holotome.view.camera.Camera#toPixels}
 * @param clip as {@link holotome.view.scene.Setting#clip}
 * @param scale pixels to one of those that layers give widths and sizes in
 */
public record Ground(
    int[] pixels, float[] depths, int width, double[] toPixels, double[] clip, double scale) {

  /** What a float loses on its way here. */
  private static final float SLACK = 2e-6f;

  int height() {
    return pixels.length / width;
  }

  /**
   * Whether something at a depth lies behind the surface seen in a pixel. What lies on the surface
   * does not: it is held against the farthest of the pixel and its neighbours, so that a slope seen
   * from the side hides nothing of what is drawn on it.
   */
  boolean hides(int x, int y, float depth) {
    float farthest = 0;
    for (int j = Math.max(0, y - 1); j <= Math.min(height() - 1, y + 1); j++) {
      for (int i = Math.max(0, x - 1); i <= Math.min(width - 1, x + 1); i++) {
        farthest = Math.max(farthest, depths[j * width + i]);
      }
    }
    return depth > farthest + SLACK;
  }

  /** Below zero for a place of working space that the clipping plane leaves out. */
  double beyondClip(double x, double y, double z) {
    return clip == null ? 1 : clip[0] * x + clip[1] * y + clip[2] * z + clip[3];
  }
}
