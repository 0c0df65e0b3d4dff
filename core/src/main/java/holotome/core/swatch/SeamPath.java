package holotome.core.swatch;

import java.util.Arrays;

/**
 * The way through a strip where two pictures differ least: the minimum error boundary cut of image
 * quilting (Efros and Freeman 2001), which here may also run along a line, as joints of paving do,
 * where it costs what each place does that it runs over. It is the least cut of the strip's graph
 * (Kwatra and others 2003) among ways that never turn back. By dynamic programming, O(lines x
 * width).
 */
final class SeamPath {
  private final float[] cost;
  private final int width;
  private final int lines;

  /**
   * @param cost of going through each place, line by line, none below 0
   */
  SeamPath(float[] cost, int width) {
    this.cost = cost;
    this.width = width;
    lines = cost.length / width;
  }

  /** From the first line to the last. */
  int[] open() {
    return way(0, lines, -1, -1);
  }

  /** One that ends where it begins, so that it goes on in the next copy of the strip. */
  int[] closed() {
    // Twice around: in the middle it is not held by where it began.
    int[] twice = way(0, 2 * lines, -1, -1);
    int at = twice[lines];
    int[] out = way(0, lines + 1, at, at);
    return Arrays.copyOf(out, lines);
  }

  /**
   * @param first where it begins; -1 for anywhere
   * @param last where it ends; -1 for anywhere
   */
  private int[] way(int from, int count, int first, int last) {
    double[] sum = new double[width];
    int[] came = new int[width * count];
    for (int i = 0; i < width; i++) {
      boolean isOpen = first < 0 || i == first;
      sum[i] = isOpen ? at(from, i) : Double.POSITIVE_INFINITY;
    }
    double[] next = new double[width];
    for (int l = 1; l < count; l++) {
      for (int i = 0; i < width; i++) {
        int best = 0;
        // Straight on where it costs the same.
        for (int d = -1; d <= 1; d += 2) {
          int k = i + d;
          if (k >= 0 && k < width && sum[k] < sum[i + best]) {
            best = d;
          }
        }
        came[l * width + i] = i + best;
        next[i] = sum[i + best] + at(from + l, i);
      }
      for (int i = 1; i < width; i++) {
        along(next, came, l, i, i - 1, at(from + l, i));
      }
      for (int i = width - 2; i >= 0; i--) {
        along(next, came, l, i, i + 1, at(from + l, i));
      }
      double[] swap = sum;
      sum = next;
      next = swap;
    }
    int end = last;
    for (int i = 0; i < width && last < 0; i++) {
      end = end < 0 || sum[i] < sum[end] ? i : end;
    }
    int[] out = new int[count];
    out[count - 1] = end;
    for (int l = count - 1; l > 0; l--) {
      out[l - 1] = came[l * width + out[l]];
    }
    return out;
  }

  /** Comes from beside where that is cheaper: from where the place beside was come to. */
  private void along(double[] sum, int[] came, int line, int i, int beside, double cost) {
    if (sum[beside] + cost < sum[i]) {
      sum[i] = sum[beside] + cost;
      came[line * width + i] = came[line * width + beside];
    }
  }

  private double at(int line, int place) {
    return cost[line % lines * width + place];
  }
}
