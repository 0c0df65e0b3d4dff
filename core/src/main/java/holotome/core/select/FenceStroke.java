package holotome.core.select;

import java.util.Arrays;

/**
 * Tells which points lie within a distance of a stroke, an open line of straight pieces.
 *
 * <p>The pieces are sorted into square cells as wide as twice the reach, each piece into every cell
 * that its surroundings touch, so that a question meets the pieces of one cell.
 */
final class FenceStroke {
  private static final int MOST_CELLS = 1 << 20;

  private final double[] stroke;
  private final double reach;
  private final double minX;
  private final double minY;
  private final double cell;
  private final int columns;
  private final int rows;

  /** Pieces of cell c: {@code pieces[start[c]] ... pieces[start[c + 1] - 1]}, first corners. */
  private final int[] start;

  private final int[] pieces;

  FenceStroke(double[] stroke, double reach) {
    this.stroke = stroke;
    this.reach = reach;
    double x0 = stroke[0];
    double y0 = stroke[1];
    double x1 = x0;
    double y1 = y0;
    for (int i = 2; i < stroke.length; i += 2) {
      x0 = Math.min(x0, stroke[i]);
      x1 = Math.max(x1, stroke[i]);
      y0 = Math.min(y0, stroke[i + 1]);
      y1 = Math.max(y1, stroke[i + 1]);
    }
    minX = x0 - reach;
    minY = y0 - reach;
    double width = x1 - x0 + 2 * reach;
    double height = y1 - y0 + 2 * reach;
    cell = Math.max(2 * reach, Math.sqrt(width * height / MOST_CELLS));
    columns = (int) (width / cell) + 1;
    rows = (int) (height / cell) + 1;
    start = new int[columns * rows + 1];
    sort((c, i) -> start[c + 1]++);
    for (int c = 0; c < columns * rows; c++) {
      start[c + 1] += start[c];
    }
    pieces = new int[start[columns * rows]];
    int[] at = Arrays.copyOf(start, columns * rows);
    sort((c, i) -> pieces[at[c]++] = i);
  }

  private interface Into {
    void put(int cell, int piece);
  }

  private void sort(Into into) {
    int last = Math.max(2, stroke.length - 2);
    for (int i = 0; i < last; i += 2) {
      int j = Math.min(i + 2, stroke.length - 2);
      int fromX = (int) ((Math.min(stroke[i], stroke[j]) - reach - minX) / cell);
      int toX = (int) ((Math.max(stroke[i], stroke[j]) + reach - minX) / cell);
      int fromY = (int) ((Math.min(stroke[i + 1], stroke[j + 1]) - reach - minY) / cell);
      int toY = (int) ((Math.max(stroke[i + 1], stroke[j + 1]) + reach - minY) / cell);
      for (int y = Math.max(0, fromY); y <= Math.min(rows - 1, toY); y++) {
        for (int x = Math.max(0, fromX); x <= Math.min(columns - 1, toX); x++) {
          into.put(y * columns + x, i);
        }
      }
    }
  }

  boolean contains(double x, double y) {
    double cx = (x - minX) / cell;
    double cy = (y - minY) / cell;
    if (!(cx >= 0 && cy >= 0 && cx < columns && cy < rows)) {
      return false;
    }
    int c = (int) cy * columns + (int) cx;
    for (int k = start[c]; k < start[c + 1]; k++) {
      if (within(pieces[k], x, y)) {
        return true;
      }
    }
    return false;
  }

  private boolean within(int i, double x, double y) {
    int j = Math.min(i + 2, stroke.length - 2);
    double dx = stroke[j] - stroke[i];
    double dy = stroke[j + 1] - stroke[i + 1];
    double l2 = dx * dx + dy * dy;
    double f =
        l2 > 0 ? Math.clamp(((x - stroke[i]) * dx + (y - stroke[i + 1]) * dy) / l2, 0, 1) : 0;
    double ex = x - stroke[i] - f * dx;
    double ey = y - stroke[i + 1] - f * dy;
    return ex * ex + ey * ey <= reach * reach;
  }
}
