package holotome.core.mesh;

import java.util.BitSet;

/**
 * The squares of side 1 that texture coordinates lie in, side by side from the origin to the right
 * and up. In the common numbering the first is 1001, ten stand in a row, and the one above it is
 * 1011.
 *
 * @param columns how many there are side by side, 1 at least; those without charts are counted too
 * @param rows how many above one another
 * @param of per triangle its square, {@code column + columns * row}; {@link #NONE} for one that
 *     reaches over the border of its own, or lies where no square is
 * @param used those that have charts
 */
public record UvSquares(int columns, int rows, int[] of, BitSet used) {
  public static final int NONE = -1;

  /** So many stand in a row. */
  public static final int IN_ROW = 10;

  /** In each direction no more are looked at. */
  private static final int MOST = 100;

  private static final int FIRST_NUMBER = 1001;

  /** So far over a border is still within it, for roundings. */
  private static final double BEYOND = 1e-5;

  /** Finds them; O(T). */
  public static UvSquares of(Uv uv) {
    int columns = count(uv.coords(), 0);
    int rows = count(uv.coords(), 1);
    int[] of = new int[uv.corners().length / 3];
    BitSet used = new BitSet();
    for (int t = 0; t < of.length; t++) {
      of[t] = square(uv, t, columns, rows);
      if (of[t] != NONE) {
        used.set(of[t]);
      }
    }
    return new UvSquares(columns, rows, of, used);
  }

  /** How many squares coordinates reach over along an axis. */
  private static int count(float[] coords, int axis) {
    float most = 1;
    for (int i = axis; i < coords.length; i += 2) {
      // What is no number reaches nowhere.
      most = coords[i] > most ? coords[i] : most;
    }
    // What only just reaches over the rim does so by rounding.
    return (int) Math.min(MOST, Math.ceil(most - 1e-3));
  }

  private static int square(Uv uv, int triangle, int columns, int rows) {
    int column = along(uv, triangle, 0);
    int row = along(uv, triangle, 1);
    boolean isAny = column >= 0 && row >= 0 && column < columns && row < rows;
    return isAny && column < IN_ROW ? column + columns * row : NONE;
  }

  /** The square along an axis that all of a triangle lies in; {@link #NONE} for none. */
  private static int along(Uv uv, int triangle, int axis) {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (int k = 0; k < 3; k++) {
      double c = uv.coords()[2 * uv.corners()[3 * triangle + k] + axis];
      low = Math.min(low, c);
      high = Math.max(high, c);
    }
    int square = (int) Math.floor((low + high) / 2);
    return low >= square - BEYOND && high <= square + 1 + BEYOND ? square : NONE;
  }

  /** The same of a mesh that lies flat: its x and y are texture coordinates. */
  public static UvSquares ofFlat(Mesh flat) {
    float[] coords = new float[2 * flat.vertexCount()];
    for (int v = 0; v < flat.vertexCount(); v++) {
      coords[2 * v] = flat.xyz()[3 * v];
      coords[2 * v + 1] = flat.xyz()[3 * v + 1];
    }
    return of(new Uv(coords, flat.triangles()));
  }

  /** How many of them have charts, 1 at least. */
  public int count() {
    return Math.max(1, used.cardinality());
  }

  /** Whether there is no more than the first. */
  public boolean isOne() {
    return columns == 1 && rows == 1;
  }

  public int column(int square) {
    return square % columns;
  }

  public int row(int square) {
    return square / columns;
  }

  /** In the common numbering. */
  public int number(int square) {
    return number(column(square), row(square));
  }

  /** In the common numbering, which has no more than ten columns. */
  public static int number(int column, int row) {
    return FIRST_NUMBER + column + IN_ROW * row;
  }
}
