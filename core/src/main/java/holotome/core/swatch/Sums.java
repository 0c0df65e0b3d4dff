package holotome.core.swatch;

/** Sums over any box of a grid in constant time, by a summed-area table (Crow 1984). */
final class Sums {
  private final double[] table;
  private final int wide;

  /**
   * @param values row by row; what is no number counts as 0
   */
  Sums(float[] values, int columns, int rows) {
    wide = columns + 1;
    table = new double[wide * (rows + 1)];
    for (int j = 0; j < rows; j++) {
      double row = 0;
      for (int i = 0; i < columns; i++) {
        float v = values[j * columns + i];
        row += Float.isNaN(v) ? 0 : v;
        table[(j + 1) * wide + i + 1] = table[j * wide + i + 1] + row;
      }
    }
  }

  /** From a column and row up to, and without, others. */
  double of(int left, int low, int right, int high) {
    return table[high * wide + right]
        - table[low * wide + right]
        - table[high * wide + left]
        + table[low * wide + left];
  }
}
