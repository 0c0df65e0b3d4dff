package holotome.view.buffer;

/**
 * What is seen in each pixel: depth and triangle in one number, after Burns and Hunt, "The
 * visibility buffer" (JCGT 2(2), 2013).
 *
 * <p>A cell holds the bits of the depth (a float from 0 to 1) above the number of the triangle, so
 * that the lesser of two cells is the nearer, and of two as near the one with the lower number.
 * Empty cells hold {@link #EMPTY}.
 */
public final class VisibilityBuffer {
  public static final long EMPTY = Long.MAX_VALUE;

  private final int width;
  private final int height;
  public final long[] cells;

  /** All that was drawn lies in rows y0 to y1 and columns x0 to x1, ends excluded. */
  public int x0;

  public int y0;
  public int x1;
  public int y1;

  public VisibilityBuffer(int width, int height) {
    this.width = width;
    this.height = height;
    cells = new long[width * height];
    x1 = width;
    y1 = height;
  }

  public int width() {
    return width;
  }

  public int height() {
    return height;
  }

  /** The triangle seen in a pixel; -1 for none, or outside. */
  public int triangle(int x, int y) {
    if (x < 0 || y < 0 || x >= width || y >= height) {
      return -1;
    }
    long c = cells[y * width + x];
    return c == EMPTY ? -1 : (int) c;
  }

  /** Empties all cells. */
  public void clear() {
    holotome.core.task.Parallel.range(
        cells.length,
        1 << 18,
        holotome.core.task.Work.unwatched(),
        (from, to) -> java.util.Arrays.fill(cells, from, to, EMPTY));
  }

  public static long cell(float depth, int triangle) {
    // Adding zero makes a negative zero positive: its sign bit would put it in front of all.
    return (long) Float.floatToRawIntBits(depth + 0f) << 32 | triangle;
  }

  public static float depth(long cell) {
    return Float.intBitsToFloat((int) (cell >>> 32));
  }
}
