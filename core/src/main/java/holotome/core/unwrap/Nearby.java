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
  private final int side;
  private final int gap;

  /**
   * @param owner per pixel the chart counted from 1; 0 for none
   * @param gap how far apart pixels are to be: so many free ones between them
   */
  Nearby(int[] owner, int side, int gap) {
    this.owner = owner;
    this.side = side;
    this.gap = gap;
  }

  BitSet found(Work work) {
    int[] least = new int[owner.length];
    for (int i = 0; i < least.length; i++) {
      least[i] = owner[i] == 0 ? Integer.MAX_VALUE : owner[i];
    }
    int[] most = owner.clone();
    lines(least, true, 1, side, work);
    lines(most, false, 1, side, work);
    lines(least, true, side, 1, work);
    lines(most, false, side, 1, work);
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

  /** The least, or the greatest, of each value and as many after it as lie too near, in place. */
  private void lines(int[] values, boolean isLeast, int step, int line, Work work) {
    Parallel.range(
        side,
        GRAIN,
        work.part(0, work.label()),
        (from, to) -> {
          int[] row = new int[side];
          for (int l = from; l < to; l++) {
            for (int i = 0; i < side; i++) {
              row[i] = values[l * line + i * step];
            }
            int wide = 1;
            while (wide < gap + 1) {
              int by = Math.min(wide, gap + 1 - wide);
              for (int i = 0; i + by < side; i++) {
                int other = row[i + by];
                row[i] = isLeast ? Math.min(row[i], other) : Math.max(row[i], other);
              }
              wide += by;
            }
            for (int i = 0; i < side; i++) {
              values[l * line + i * step] = row[i];
            }
          }
        });
  }
}
