package holotome.core.proxy;

import holotome.core.geometry.Vec;
import java.util.Arrays;
import java.util.BitSet;

/**
 * A plane in square cells, as far as a scan whose diagonal is 1 reaches, and which of them
 * triangles of the Scan cover. 128 KB at most.
 */
final class PlaneGrid {
  /** Cells along a side. */
  static final int FINE = 1024;

  static final int COARSE = 64;

  /** Everything of a scan whose diagonal is 1 lies within this of its middle. */
  private static final double REACH = 0.52;

  private final int side;
  private final double[] u;
  private final double[] v;
  private final BitSet cells;

  PlaneGrid(double[] normal, int side) {
    this.side = side;
    cells = new BitSet(side * side);
    u = Vec.perpendicular(normal);
    v = Vec.cross(normal, u);
  }

  /** How long a cell's side is. */
  static double cell(int side) {
    return 2 * REACH / side;
  }

  /** A place in cells: column and row, with fractions. */
  double column(double x, double y, double z) {
    return (x * u[0] + y * u[1] + z * u[2] + REACH) / cell(side);
  }

  double row(double x, double y, double z) {
    return (x * v[0] + y * v[1] + z * v[2] + REACH) / cell(side);
  }

  /** The cell that a place lies in, or the one nearest to it. */
  int cell(double x, double y, double z) {
    int i = Math.clamp((int) Math.floor(column(x, y, z)), 0, side - 1);
    int j = Math.clamp((int) Math.floor(row(x, y, z)), 0, side - 1);
    return j * side + i;
  }

  boolean isSet(int cell) {
    return cells.get(cell);
  }

  /** Those in the one grid or the other, of the same plane. */
  void join(PlaneGrid other) {
    cells.or(other.cells);
  }

  /**
   * Covers the cells whose middles lie in a triangle, and if asked for those of its corners too, so
   * that small ones beside each other leave nothing between them.
   */
  void cover(double[] p, boolean corners) {
    double[] x = new double[3];
    double[] y = new double[3];
    for (int i = 0; i < 3; i++) {
      x[i] = column(p[3 * i], p[3 * i + 1], p[3 * i + 2]);
      y[i] = row(p[3 * i], p[3 * i + 1], p[3 * i + 2]);
      if (corners) {
        set(cell(p[3 * i], p[3 * i + 1], p[3 * i + 2]));
      }
    }
    eachWithin(x, y, this::set);
  }

  private void set(int cell) {
    // Asking is quicker than setting anew what small triangles beside each other set already.
    if (!cells.get(cell)) {
      cells.set(cell);
    }
  }

  /** What is done with a cell. */
  interface Cell {
    void at(int cell);
  }

  /** Goes through the cells whose middles lie in a convex outline given in cells. */
  void eachWithin(double[] x, double[] y, Cell body) {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (double b : y) {
      low = Math.min(low, b);
      high = Math.max(high, b);
    }
    int last = (int) Math.min(side - 1, Math.ceil(high - 0.5) - 1);
    for (int j = (int) Math.max(0, Math.ceil(low - 0.5)); j <= last; j++) {
      double at = j + 0.5;
      double from = Double.POSITIVE_INFINITY;
      double to = Double.NEGATIVE_INFINITY;
      for (int i = 0; i < x.length; i++) {
        int k = i + 1 == x.length ? 0 : i + 1;
        if (y[i] <= at != y[k] <= at) {
          double cross = x[i] + (at - y[i]) / (y[k] - y[i]) * (x[k] - x[i]);
          from = Math.min(from, cross);
          to = Math.max(to, cross);
        }
      }
      int end = (int) Math.min(side - 1, Math.ceil(to - 0.5) - 1);
      for (int i = (int) Math.max(0, Math.ceil(from - 0.5)); i <= end; i++) {
        body.at(j * side + i);
      }
    }
  }

  /**
   * Keeps of the covered cells those that hang together with the one nearest to a place, over gaps
   * of so many cells.
   */
  void keepAround(double[] place, int gap) {
    int start = nearest(cell(place[0], place[1], place[2]));
    if (start < 0) {
      return;
    }
    BitSet reached = new BitSet(side * side);
    int[] stack = new int[256];
    int n = 0;
    stack[n++] = start;
    reached.set(start);
    while (n > 0) {
      int c = stack[--n];
      int i = c % side;
      int j = c / side;
      for (int b = Math.max(0, j - gap); b <= Math.min(side - 1, j + gap); b++) {
        int to = b * side + Math.min(side - 1, i + gap);
        int k = cells.nextSetBit(b * side + Math.max(0, i - gap));
        for (; k >= 0 && k <= to; k = cells.nextSetBit(k + 1)) {
          if (!reached.get(k)) {
            reached.set(k);
            stack = n == stack.length ? Arrays.copyOf(stack, 2 * n) : stack;
            stack[n++] = k;
          }
        }
      }
    }
    cells.and(reached);
  }

  private int nearest(int to) {
    int best = -1;
    long least = Long.MAX_VALUE;
    for (int k = cells.nextSetBit(0); k >= 0; k = cells.nextSetBit(k + 1)) {
      long dx = k % side - to % side;
      long dy = k / side - to / side;
      if (dx * dx + dy * dy < least) {
        least = dx * dx + dy * dy;
        best = k;
      }
    }
    return best;
  }
}
