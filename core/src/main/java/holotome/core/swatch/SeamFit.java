package holotome.core.swatch;

import java.util.Arrays;

/**
 * How well a window of the ground would tile: what the cheapest way through the strips costs that
 * its opposite sides share ({@link SeamPath}), per line, as a share of what places that have
 * nothing to do with each other would cost. O(cells of the strips).
 */
final class SeamFit {
  /** A trait that is farther off shows no more than this, squared. */
  private static final float MOST = 9;

  /** What two values of unit variance differ by in the mean, squared. */
  private static final double UNRELATED = 2;

  private final GroundTraits traits;
  private final int columns;
  private float[] sum = new float[0];
  private float[] next = new float[0];
  private float[] own = new float[0];

  SeamFit(GroundTraits traits, int columns) {
    this.traits = traits;
    this.columns = columns;
  }

  /**
   * A window in cells of the grid.
   *
   * @param x its left side
   * @param y its lower side
   * @param over what is taken in beyond its left side
   * @param under and beyond its lower one
   */
  record Window(int x, int y, int wide, int high, int over, int under) {
    static Window of(int x, int y, int wide, int high, double apron) {
      return new Window(
          x, y, wide, high, (int) Math.ceil(apron * wide), (int) Math.ceil(apron * high));
    }

    boolean isWithin(int columns, int rows) {
      return x >= over && y >= under && x + wide <= columns && y + high <= rows;
    }
  }

  /** Both ways together, 0 for a perfect one. */
  double of(Window w) {
    return across(w) + up(w);
  }

  /** From the left side to the right one. */
  double across(Window w) {
    int from = (w.y - w.under) * columns + w.x - w.over;
    return cheapest(from, w.high + w.under, columns, w.over, 1, w.wide);
  }

  /** From the lower side to the upper one. */
  double up(Window w) {
    int from = (w.y - w.under) * columns + w.x;
    return cheapest(from, w.wide, 1, w.under, columns, w.high * columns);
  }

  /**
   * @param from where the strip begins
   * @param lines it has, each so far from the last
   * @param width of it, each place so far from the last
   * @param other how far what is compared lies
   */
  private double cheapest(int from, int lines, int line, int width, int place, int other) {
    if (sum.length < width + 2) {
      sum = new float[width + 2];
      next = new float[width + 2];
      own = new float[width + 2];
    }
    // Beyond both ends nothing goes through.
    Arrays.fill(sum, Float.POSITIVE_INFINITY);
    Arrays.fill(next, Float.POSITIVE_INFINITY);
    Arrays.fill(sum, 1, width + 1, 0);
    for (int l = 0; l < lines; l++) {
      int at = from + l * line;
      for (int i = 1; i <= width; i++, at += place) {
        own[i] = differing(at, at + other);
        next[i] = own[i] + Math.min(sum[i], Math.min(sum[i - 1], sum[i + 1]));
      }
      for (int i = 2; i <= width; i++) {
        next[i] = Math.min(next[i], next[i - 1] + own[i]);
      }
      for (int i = width - 1; i > 0; i--) {
        next[i] = Math.min(next[i], next[i + 1] + own[i]);
      }
      float[] swap = sum;
      sum = next;
      next = swap;
    }
    float least = Float.POSITIVE_INFINITY;
    for (int i = 1; i <= width; i++) {
      least = Math.min(least, sum[i]);
    }
    return least / (lines * UNRELATED);
  }

  private float differing(int a, int b) {
    float all = 0;
    for (float[] v : traits.values) {
      float d = v[a] - v[b];
      all += Math.min(MOST, d * d);
    }
    return all / GroundTraits.COUNT;
  }
}
