package holotome.core.unwrap;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * Which charts have pixels within some distance of another's, rows and columns each counted by
 * themselves: the least and the greatest owner in every square of that size, put together from
 * halves. O(pixels x log distance).
 */
final class Nearby {
  private static final int GRAIN = 64;

  private final int[] owner;
  private final int width;
  private final int height;
  private final int gap;

  /**
   * @param owner per pixel the chart counted from 1; 0 for none
   * @param gap how far apart pixels are to be: so many free ones between them
   */
  Nearby(int[] owner, int width, int gap) {
    this.owner = owner;
    this.width = width;
    height = owner.length / width;
    this.gap = gap;
  }

  BitSet found(Work work) {
    int[] least = new int[owner.length];
    for (int i = 0; i < least.length; i++) {
      least[i] = owner[i] == 0 ? Integer.MAX_VALUE : owner[i];
    }
    int[] most = owner.clone();
    rows(least, true, work);
    rows(most, false, work);
    columns(least, true, work);
    columns(most, false, work);
    work.advance(0.9);
    BitSet out = new BitSet();
    for (int i = 0; i < least.length; i++) {
      if (most[i] > 0 && least[i] != most[i]) {
        out.set(least[i] - 1);
        out.set(most[i] - 1);
      }
    }
    return out;
  }

  private void rows(int[] values, boolean isLeast, Work work) {
    lines(values, isLeast, height, width, 1, width, work);
  }

  private void columns(int[] values, boolean isLeast, Work work) {
    lines(values, isLeast, width, height, width, 1, work);
  }

  /** The least, or the greatest, of each value and as many after it as lie too near, in place. */
  private void lines(
      int[] values, boolean isLeast, int count, int length, int step, int line, Work work) {
    Parallel.range(
        count,
        GRAIN,
        work.part(0, work.label()),
        (from, to) -> {
          int[] row = new int[length];
          for (int l = from; l < to; l++) {
            for (int i = 0; i < length; i++) {
              row[i] = values[l * line + i * step];
            }
            int wide = 1;
            while (wide < gap + 1) {
              int by = Math.min(wide, gap + 1 - wide);
              for (int i = 0; i + by < length; i++) {
                int other = row[i + by];
                row[i] = isLeast ? Math.min(row[i], other) : Math.max(row[i], other);
              }
              wide += by;
            }
            for (int i = 0; i < length; i++) {
              values[l * line + i * step] = row[i];
            }
          }
        });
  }
}
