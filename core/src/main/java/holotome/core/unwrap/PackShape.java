package holotome.core.unwrap;

import java.util.Arrays;

/**
 * The pixels that a chart touches, turned one way at one scale, from its own lowest corner on; and
 * the cells of several pixels that these lie in.
 *
 * <p>A row of pixels is touched wherever an edge of the outline passes through it and, between
 * those, wherever its middle lies within by the even-odd rule: holes stay free. O(edges x rows that
 * each passes).
 */
final class PackShape {
  /** Bits of a word. */
  private static final int WORD = 64;

  final int width;
  final int height;

  /** Words in a row of pixels. */
  final int words;

  /** Pixels touched, row by row from the lowest. */
  final long[] bits;

  /** Rows of cells; the runs of touched cells of each: first and last, two and two. */
  final int[][] runs;

  /** How many cells the widest run of each row has. */
  final int[] widest;

  /** The height of the middle of its pixels. */
  final double middle;

  /**
   * @param rims the rims' edges, in pixels from the lowest corner: two ends each, x, y in turn
   */
  private PackShape(double[][] rims, double width, double height, int cell) {
    this.width = (int) width + 1;
    this.height = (int) height + 1;
    words = (this.width + WORD - 1) / WORD;
    bits = new long[words * this.height];
    for (double[] rim : rims) {
      rasterise(rim);
    }
    runs = cells(cell);
    widest = new int[runs.length];
    for (int r = 0; r < runs.length; r++) {
      for (int i = 0; i < runs[r].length; i += 2) {
        widest[r] = Math.max(widest[r], runs[r][i + 1] - runs[r][i] + 1);
      }
    }
    middle = middle();
  }

  private double middle() {
    double sum = 0;
    double count = 0;
    for (int y = 0; y < height; y++) {
      int n = 0;
      for (int w = 0; w < words; w++) {
        n += Long.bitCount(bits[y * words + w]);
      }
      sum += n * (y + 0.5);
      count += n;
    }
    return count > 0 ? sum / count : 0;
  }

  /**
   * @param rims the edges of its outlines, one or several side by side, each by itself: two ends
   *     each, x, y in turn, in its own units
   * @param angle by which it is turned, counter-clockwise
   * @param box around all of it when so turned, in its own units: low x, low y, high x, high y
   * @param scale pixels to its unit
   * @param cell pixels along a side of a cell
   * @param room pixels that it may be wide and high
   * @return null where it is wider or higher: a chart may be long out of all proportion to its area
   */
  static PackShape of(
      double[][] rims, double angle, double[] box, double scale, int cell, int room) {
    double width = scale * (box[2] - box[0]);
    double height = scale * (box[3] - box[1]);
    if (!(width < room && height < room)) {
      return null;
    }
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    double[][] at = new double[rims.length][];
    for (int r = 0; r < at.length; r++) {
      double[] rim = rims[r];
      at[r] = new double[rim.length];
      for (int i = 0; i < rim.length; i += 2) {
        at[r][i] = scale * (c * rim[i] - s * rim[i + 1] - box[0]);
        at[r][i + 1] = scale * (s * rim[i] + c * rim[i + 1] - box[1]);
      }
    }
    return new PackShape(at, width, height, cell);
  }

  private void rasterise(double[] rim) {
    int[] count = new int[height + 1];
    for (int e = 0; e < rim.length; e += 4) {
      for (int y = firstMiddle(rim, e); y <= lastMiddle(rim, e); y++) {
        count[y + 1]++;
      }
    }
    for (int y = 0; y < height; y++) {
      count[y + 1] += count[y];
    }
    double[] crossings = new double[count[height]];
    int[] fill = count.clone();
    for (int e = 0; e < rim.length; e += 4) {
      double ax = rim[e];
      double ay = rim[e + 1];
      double bx = rim[e + 2];
      double by = rim[e + 3];
      for (int y = firstMiddle(rim, e); y <= lastMiddle(rim, e); y++) {
        crossings[fill[y]++] = ax + (bx - ax) * (y + 0.5 - ay) / (by - ay);
      }
      touched(ax, ay, bx, by);
    }
    for (int y = 0; y < height; y++) {
      Arrays.sort(crossings, count[y], count[y + 1]);
      for (int i = count[y]; i + 1 < count[y + 1]; i += 2) {
        set(y, (int) crossings[i], (int) crossings[i + 1]);
      }
    }
  }

  private int firstMiddle(double[] rim, int e) {
    double low = Math.min(rim[e + 1], rim[e + 3]);
    return Math.max(0, (int) Math.ceil(low - 0.5));
  }

  /** The last row whose middle lies below the edge's upper end. */
  private int lastMiddle(double[] rim, int e) {
    double high = Math.max(rim[e + 1], rim[e + 3]);
    return Math.min(height - 1, (int) Math.ceil(high - 0.5) - 1);
  }

  private void touched(double ax, double ay, double bx, double by) {
    double low = Math.min(ay, by);
    double high = Math.max(ay, by);
    for (int y = (int) low; y <= Math.min(height - 1, (int) high); y++) {
      double from = high > low ? (Math.max(low, y) - ay) / (by - ay) : 0;
      double to = high > low ? (Math.min(high, y + 1.0) - ay) / (by - ay) : 1;
      double x0 = ax + (bx - ax) * from;
      double x1 = ax + (bx - ax) * to;
      set(y, (int) Math.max(0, Math.min(x0, x1)), (int) Math.max(x0, x1));
    }
  }

  private void set(int y, int from, int to) {
    int last = Math.min(width - 1, to);
    for (int x = from; x <= last; ) {
      int end = Math.min(last, x | WORD - 1);
      bits[y * words + x / WORD] |= -1L >>> WORD - 1 - (end - x) << x;
      x = end + 1;
    }
  }

  /** Marks the cells that any of a word's bits lies in. */
  private static void mark(long bits, int from, int cell, boolean[] used) {
    long left = bits;
    while (left != 0) {
      int c = (from + Long.numberOfTrailingZeros(left)) / cell;
      used[c] = true;
      int next = (c + 1) * cell - from;
      left = next < WORD ? left & -1L << next : 0;
    }
  }

  private int[][] cells(int cell) {
    int[][] out = new int[(height + cell - 1) / cell][];
    int across = (width + cell - 1) / cell;
    for (int r = 0; r < out.length; r++) {
      long[] all = new long[words];
      for (int y = r * cell; y < Math.min(height, (r + 1) * cell); y++) {
        for (int w = 0; w < words; w++) {
          all[w] |= bits[y * words + w];
        }
      }
      boolean[] used = new boolean[across];
      for (int w = 0; w < words; w++) {
        mark(all[w], w * WORD, cell, used);
      }
      int[] row = new int[2 * across];
      int n = 0;
      for (int x = 0; x < across; x++) {
        if (!used[x]) {
          continue;
        }
        if (x == 0 || !used[x - 1]) {
          row[n] = x;
          n += 2;
        }
        row[n - 1] = x;
      }
      out[r] = Arrays.copyOf(row, n);
    }
    return out;
  }
}
