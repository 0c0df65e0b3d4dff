package holotome.core.unwrap;

import java.util.Arrays;

/**
 * Which pixels of a square picture are taken by charts and the gutter around them, and which cells
 * of several pixels have any of those.
 *
 * <p>A free place is found among the cells and then moved down and to the left pixel by pixel. For
 * each cell the next taken and the next free one in its row are known, so that places are passed
 * over by whole stretches.
 */
final class PackGrid {
  private static final int WORD = 64;

  private final int size;
  private final int gutter;
  private final int cell;
  private final int cells;
  private final int words;
  private final long[] taken;

  /** The next taken cell at or after each, row by row; {@link #cells} where there is none. */
  private final short[] next;

  /** The next free one, likewise. */
  private final short[] free;

  /** How many cells lie free side by side in each row, at most. */
  private final short[] gap;

  /**
   * Where a shape comes to lie.
   *
   * @param x of its lowest corner, in pixels
   * @param level how high it lies there; of two places the lower one is better
   */
  record Spot(int x, int y, int level) {}

  PackGrid(int size, int gutter, int cell) {
    this.size = size;
    this.gutter = gutter;
    this.cell = cell;
    // What begins within the gutter of the upper and right sides is no place.
    cells = Math.max(0, (size - 2 * gutter) / cell);
    words = (size + WORD - 1) / WORD;
    taken = new long[words * size];
    next = new short[cells * cells];
    Arrays.fill(next, (short) cells);
    free = new short[next.length];
    for (int c = 0; c < cells; c++) {
      free[c] = (short) c;
    }
    for (int r = 1; r < cells; r++) {
      System.arraycopy(free, 0, free, r * cells, cells);
    }
    gap = new short[cells];
    Arrays.fill(gap, (short) cells);
  }

  /** The cells lie within the gutter around the picture. */
  private int pixel(int cellNumber) {
    return gutter + cellNumber * cell;
  }

  /**
   * The lowest place where a shape lies below a level, and of these the one farthest to the left;
   * null for none.
   *
   * @param lift how much higher than its lower side the shape counts as lying
   */
  Spot find(PackShape s, int lift, int below) {
    int rows = s.runs.length;
    for (int y = 0; y + rows <= cells && pixel(y) + lift < below; y++) {
      int x = hasGaps(s, y) ? fits(s, y) : -1;
      if (x >= 0) {
        return settled(s, pixel(x), pixel(y), lift);
      }
    }
    return null;
  }

  /** Whether every row from one on has a stretch as wide as the shape's widest there. */
  private boolean hasGaps(PackShape s, int y) {
    for (int row = 0; row < s.widest.length; row++) {
      if (s.widest[row] > gap[y + row]) {
        return false;
      }
    }
    return true;
  }

  /** The first cell of a row from which on a shape is free; -1 for none. */
  private int fits(PackShape s, int y) {
    int most = cells - (s.width + cell - 1) / cell;
    int x = 0;
    int row = 0;
    int good = 0;
    int n = s.runs.length;
    while (x <= most && good < n) {
      int[] runs = s.runs[row];
      int at = (y + row) * cells;
      int go = x;
      for (int i = 0; i < runs.length; i += 2) {
        // Past what is in the way: from there on the run's first cell comes to lie behind it.
        int hit = next[at + go + runs[i]];
        if (hit <= go + runs[i + 1]) {
          go = Math.max(go + 1, free[at + hit] - runs[i]);
          if (go > most) {
            return -1;
          }
          i = -2;
        }
      }
      good = go == x ? good + 1 : 1;
      x = go;
      row = row + 1 == n ? 0 : row + 1;
    }
    return x <= most ? x : -1;
  }

  /** Moved down and to the left as far as it goes, no farther than two cells each way. */
  private Spot settled(PackShape s, int fromX, int fromY, int lift) {
    int x = fromX;
    int y = fromY;
    boolean isMoved = true;
    while (isMoved) {
      isMoved = false;
      while (y > gutter && fromY - y < 2 * cell && isFree(s, x, y - 1)) {
        y--;
        isMoved = true;
      }
      while (x > gutter && fromX - x < 2 * cell && isFree(s, x - 1, y)) {
        x--;
        isMoved = true;
      }
    }
    return new Spot(x, y, y + lift);
  }

  private boolean isFree(PackShape s, int x, int y) {
    int shift = x % WORD;
    for (int r = 0; r < s.height; r++) {
      int at = (y + r) * words + x / WORD;
      for (int w = 0; w < s.words; w++) {
        long m = s.bits[r * s.words + w];
        if ((taken[at + w] & m << shift) != 0) {
          return false;
        }
        if (shift > 0
            && at + w + 1 < taken.length
            && (taken[at + w + 1] & m >>> WORD - shift) != 0) {
          return false;
        }
      }
    }
    return true;
  }

  /** Takes a shape's place, and the gutter around it. */
  void take(PackShape s, Spot at) {
    int w = s.width + 2 * gutter;
    int rowWords = (w + WORD - 1) / WORD;
    long[] wide = new long[rowWords * s.height];
    long[] row = new long[rowWords];
    for (int r = 0; r < s.height; r++) {
      Arrays.fill(row, 0);
      System.arraycopy(s.bits, r * s.words, row, 0, s.words);
      spread(row, 2 * gutter);
      System.arraycopy(row, 0, wide, r * rowWords, rowWords);
    }
    int x = at.x - gutter;
    for (int r = -gutter; r < s.height + gutter; r++) {
      Arrays.fill(row, 0);
      for (int k = Math.max(0, r - gutter); k <= Math.min(s.height - 1, r + gutter); k++) {
        for (int i = 0; i < rowWords; i++) {
          row[i] |= wide[k * rowWords + i];
        }
      }
      put(row, x, at.y + r);
    }
    renew(at.y - gutter, at.y + s.height + gutter);
  }

  /** Each bit and so many above it. */
  private static void spread(long[] row, int by) {
    int done = 0;
    while (done < by) {
      int step = Math.min(by - done, done + 1);
      for (int i = row.length - 1; i >= 0; i--) {
        long moved = 0;
        int from = i - step / WORD;
        int shift = step % WORD;
        if (from >= 0) {
          moved = row[from] << shift;
          if (shift > 0 && from > 0) {
            moved |= row[from - 1] >>> WORD - shift;
          }
        }
        row[i] |= moved;
      }
      done += step;
    }
  }

  /** Takes the pixels of a row from a place on; what lies outside of the picture is left out. */
  private void put(long[] row, int x, int y) {
    if (y < 0 || y >= size) {
      return;
    }
    int shift = Math.floorMod(x, WORD);
    int at = y * words + Math.floorDiv(x, WORD);
    int first = y * words;
    int end = first + words;
    for (int i = 0; i < row.length; i++) {
      if (at + i >= first && at + i < end) {
        taken[at + i] |= row[i] << shift;
      }
      if (shift > 0 && at + i + 1 >= first && at + i + 1 < end) {
        taken[at + i + 1] |= row[i] >>> WORD - shift;
      }
    }
  }

  /** Looks anew which cells have taken pixels, in the rows that lie between two of pixels. */
  private void renew(int fromY, int toY) {
    int from = Math.max(0, Math.floorDiv(fromY - gutter, cell));
    int to = Math.min(cells - 1, Math.floorDiv(toY - gutter, cell));
    long[] all = new long[words];
    for (int r = from; r <= to; r++) {
      Arrays.fill(all, 0);
      for (int y = pixel(r); y < pixel(r) + cell; y++) {
        for (int i = 0; i < words; i++) {
          all[i] |= taken[y * words + i];
        }
      }
      int takenNext = cells;
      int freeNext = cells;
      int most = 0;
      for (int c = cells - 1; c >= 0; c--) {
        if (any(all, pixel(c), pixel(c) + cell)) {
          takenNext = c;
        } else {
          freeNext = c;
        }
        next[r * cells + c] = (short) takenNext;
        free[r * cells + c] = (short) freeNext;
        most = Math.max(most, takenNext - c);
      }
      gap[r] = (short) most;
    }
  }

  /** Whether any bit is set from one on and before another. */
  private static boolean any(long[] row, int from, int to) {
    for (int x = from; x < to; ) {
      int end = Math.min(to - 1, x | WORD - 1);
      if ((row[x / WORD] & -1L >>> WORD - 1 - (end - x) << x) != 0) {
        return true;
      }
      x = end + 1;
    }
    return false;
  }
}
