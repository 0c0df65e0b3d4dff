package holotome.view.raster;

/**
 * A triangle that reaches behind the eye: where it is in front, and how deep. Only the pixels in
 * the box of its part in front of the eye need be visited.
 */
final class ClippedTriangle {
  /** In front of the eye by this share of the farthest corner. */
  private static final double NEAR = 1e-5;

  private ClippedTriangle() {}

  /** The depth at a point in pixels; below zero where the triangle is not seen there. */
  static float depth(float[] clip, double px, double py) {
    double a = edge(clip, 1, 2, px, py);
    double b = edge(clip, 2, 0, px, py);
    double c = edge(clip, 0, 1, px, py);
    double sum = a + b + c;
    // The point in the triangle's plane that is seen here, by weights of its corners.
    if (sum == 0 || a / sum < 0 || b / sum < 0 || c / sum < 0) {
      return -1;
    }
    double w = (a * clip[3] + b * clip[7] + c * clip[11]) / sum;
    return w > 0 ? (float) ((a * clip[2] + b * clip[6] + c * clip[10]) / sum / w) : -1;
  }

  private static double edge(float[] clip, int i, int j, double px, double py) {
    double xi = clip[4 * i] - px * clip[4 * i + 3];
    double yi = clip[4 * i + 1] - py * clip[4 * i + 3];
    double xj = clip[4 * j] - px * clip[4 * j + 3];
    double yj = clip[4 * j + 1] - py * clip[4 * j + 3];
    return xi * yj - xj * yi;
  }

  /** The pixels that the part in front of the eye may reach: x0, y0, x1, y1; null for none. */
  static int[] box(float[] clip, int width, int height) {
    double most = Math.max(clip[3], Math.max(clip[7], clip[11]));
    if (!(most > 0)) {
      return null;
    }
    double near = NEAR * most;
    double[] b = {width, height, -1, -1};
    for (int i = 0; i < 3; i++) {
      int j = (i + 1) % 3;
      double wi = clip[4 * i + 3];
      double wj = clip[4 * j + 3];
      if (wi >= near) {
        grow(b, clip[4 * i] / wi, clip[4 * i + 1] / wi);
      }
      if (wi >= near != wj >= near) {
        double f = (near - wi) / (wj - wi);
        grow(
            b,
            (clip[4 * i] + f * (clip[4 * j] - clip[4 * i])) / near,
            (clip[4 * i + 1] + f * (clip[4 * j + 1] - clip[4 * i + 1])) / near);
      }
    }
    int x0 = (int) Math.max(0, Math.floor(b[0]));
    int y0 = (int) Math.max(0, Math.floor(b[1]));
    int x1 = (int) Math.min(width - 1, Math.ceil(b[2]));
    int y1 = (int) Math.min(height - 1, Math.ceil(b[3]));
    return x0 > x1 || y0 > y1 ? null : new int[] {x0, y0, x1, y1};
  }

  private static void grow(double[] b, double x, double y) {
    b[0] = Math.min(b[0], x);
    b[1] = Math.min(b[1], y);
    b[2] = Math.max(b[2], x);
    b[3] = Math.max(b[3], y);
  }
}
