package holotome.app.tool;

import java.util.Arrays;

/**
 * Lines that charts are caught by while they are moved: the sides of the square they are in, the
 * gutter within them and the middle, and the sides and middles of charts that lie beside them, with
 * the gutter between.
 */
final class CatchLines {
  /** Of charts farther than this share of the moved box beside it none catches. */
  private static final double BESIDE = 0.5;

  private final double gutter;

  /** Low u, low v, high u, high v of each chart that is not moved. */
  private final double[] boxes;

  /**
   * @param ends of the outlines of charts that are not moved, (u, v, 0) each, two an edge
   * @param chart of each edge
   */
  CatchLines(double[] ends, int[] chart, double gutter) {
    this.gutter = gutter;
    int count = Arrays.stream(chart).max().orElse(-1) + 1;
    double[] all = new double[4 * count];
    for (int c = 0; c < count; c++) {
      Arrays.fill(all, 4 * c, 4 * c + 2, Double.POSITIVE_INFINITY);
      Arrays.fill(all, 4 * c + 2, 4 * c + 4, Double.NEGATIVE_INFINITY);
    }
    for (int i = 0; i < ends.length; i += 3) {
      int c = 4 * chart[i / 6];
      for (int k = 0; k < 2; k++) {
        all[c + k] = Math.min(all[c + k], ends[i + k]);
        all[c + 2 + k] = Math.max(all[c + 2 + k], ends[i + k]);
      }
    }
    boxes = all;
  }

  /**
   * The lines of one u (0) or one v (1).
   *
   * @param low of the box that is moved, where it is now
   * @param high the same
   */
  double[] of(int axis, double[] low, double[] high) {
    double[] out = new double[5 + 5 * (boxes.length / 4)];
    double at = Math.max(0, Math.floor((low[axis] + high[axis]) / 2));
    double[] square = {at, at + gutter, at + 0.5, at + 1 - gutter, at + 1};
    System.arraycopy(square, 0, out, 0, 5);
    int n = 5;
    double[] reach = {BESIDE * (high[0] - low[0]), BESIDE * (high[1] - low[1])};
    for (int c = 0; c < boxes.length; c += 4) {
      boolean isBeside = true;
      for (int k = 0; k < 2; k++) {
        isBeside &= boxes[c + k] <= high[k] + reach[k] && boxes[c + 2 + k] >= low[k] - reach[k];
      }
      if (isBeside) {
        double a = boxes[c + axis];
        double b = boxes[c + 2 + axis];
        double[] these = {a, b, (a + b) / 2, a - gutter, b + gutter};
        System.arraycopy(these, 0, out, n, 5);
        n += 5;
      }
    }
    return Arrays.copyOf(out, n);
  }
}
