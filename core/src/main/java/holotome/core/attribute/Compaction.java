package holotome.core.attribute;

import holotome.core.task.Parallel;
import holotome.core.task.Work;

/** Renumbers an index so that it holds no gaps. */
public final class Compaction {
  private static final int GRAIN = 1 << 16;

  private Compaction() {}

  /**
   * Renumbers an index in place to the entries it uses, in old order; O(n). Returns the new number
   * per old entry, -1 where unused, and in one more element at the end how many are used.
   */
  public static int[] of(int[] index, int entries) {
    int[] map = new int[entries + 1];
    for (int v : index) {
      map[v] = 1;
    }
    int count = 0;
    for (int v = 0; v < entries; v++) {
      map[v] = map[v] == 1 ? count++ : -1;
    }
    map[entries] = count;
    if (count < entries) {
      Parallel.range(
          index.length,
          GRAIN,
          Work.unwatched(),
          (from, to) -> {
            for (int i = from; i < to; i++) {
              index[i] = map[index[i]];
            }
          });
    }
    return map;
  }
}
