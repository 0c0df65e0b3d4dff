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

  /** How much higher than its lower side it counts as lying. */
  final int lift;

  /** Words in a row of pixels. */
  final int words;

  /** Pixels touched, row by row from the lowest. */
  final long[] bits;

  /** Rows of cells; the runs of touched cells of each: first and last, two and two. */
  final int[][] runs;

  /** The place of each vertex, in pixels: x, y in turn. */
  final double[] place;

  private PackShape(double[] place, double[] extent, int[] edges, int cell, double byTop) {
    this.place = place;
    width = (int) extent[0] + 1;
    height = (int) extent[1] + 1;
    words = (width + WORD - 1) / WORD;
    bits = new long[words * height];
    rasterise(edges);
    runs = cells(cell);
    lift = (int) Math.round(byTop * height + (1 - byTop) * middle());
  }

  /** The height of the middle of its pixels. */
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
    return sum / count;
  }

  /**
   * @param uv the chart's vertices, x, y in turn
   * @param edges of its outline, two vertices each
   * @param angle by which it is turned, counter-clockwise
   * @param scale pixels to its unit
   * @param cell pixels along a side of a cell
   * @param room pixels that it may be wide and high
   * @param byTop 1 where it counts as lying as high as its upper side, 0 for its middle
   * @return null where it is wider or higher: a chart may be long out of all proportion to its area
   */
  static PackShape of(
      double[] uv, int[] edges, double angle, double scale, int cell, int room, double byTop) {
    double[] place = turned(uv, angle, scale);
    double[] extent = new double[2];
    for (int i = 0; i < place.length; i++) {
      extent[i % 2] = Math.max(extent[i % 2], place[i]);
    }
    boolean fits = extent[0] < room && extent[1] < room;
    return fits ? new PackShape(place, extent, edges, cell, byTop) : null;
  }

  private static double[] turned(double[] uv, double angle, double scale) {
    double c = scale * Math.cos(angle);
    double s = scale * Math.sin(angle);
    double[] out = new double[uv.length];
    double lowX = Double.POSITIVE_INFINITY;
    double lowY = Double.POSITIVE_INFINITY;
    for (int i = 0; i < uv.length; i += 2) {
      out[i] = c * uv[i] - s * uv[i + 1];
      out[i + 1] = s * uv[i] + c * uv[i + 1];
      lowX = Math.min(lowX, out[i]);
      lowY = Math.min(lowY, out[i + 1]);
    }
    for (int i = 0; i < uv.length; i += 2) {
      out[i] -= lowX;
      out[i + 1] -= lowY;
    }
    return out;
  }

  private void rasterise(int[] edges) {
    int[] count = new int[height + 1];
    for (int e = 0; e < edges.length; e += 2) {
      for (int y = firstMiddle(edges, e); y <= lastMiddle(edges, e); y++) {
        count[y + 1]++;
      }
    }
    for (int y = 0; y < height; y++) {
      count[y + 1] += count[y];
    }
    double[] crossings = new double[count[height]];
    int[] fill = count.clone();
    for (int e = 0; e < edges.length; e += 2) {
      double ax = place[2 * edges[e]];
      double ay = place[2 * edges[e] + 1];
      double bx = place[2 * edges[e + 1]];
      double by = place[2 * edges[e + 1] + 1];
      for (int y = firstMiddle(edges, e); y <= lastMiddle(edges, e); y++) {
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

  private int firstMiddle(int[] edges, int e) {
    double low = Math.min(place[2 * edges[e] + 1], place[2 * edges[e + 1] + 1]);
    return Math.max(0, (int) Math.ceil(low - 0.5));
  }

  /** The last row whose middle lies below the edge's upper end. */
  private int lastMiddle(int[] edges, int e) {
    double high = Math.max(place[2 * edges[e] + 1], place[2 * edges[e + 1] + 1]);
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
      for (int x = 0; x < across; x++) {
        used[x] = PackGrid.any(all, x * cell, Math.min(width, (x + 1) * cell));
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
