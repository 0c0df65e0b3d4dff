package holotome.core.array;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * Things dealt out by group, each group's in their old order: a counting sort on all cores.
 *
 * <p>O(n + groups) time; 4 bytes per thing and at most 12 per group or thing while at work. The
 * result does not depend on the number of threads.
 *
 * @param start where each group begins in the order, and at the end how many things there are
 * @param order the numbers of the things
 */
public record Grouping(int[] start, int[] order) {
  private static final int GRAIN = 1 << 15;
  private static final int MOST_CHUNKS = 64;

  /**
   * Groups things.
   *
   * @param group the group of each, from 0; what is below 0 is left out
   */
  public static Grouping of(int[] group, int groups, Work work) {
    int n = group.length;
    // The counts of all chunks together are no longer than the list.
    int chunks = Math.clamp(2L * n / Math.max(1, groups), 1, MOST_CHUNKS);
    int grain = Math.max(GRAIN, (n + chunks - 1) / chunks);
    chunks = Math.max(1, Parallel.chunks(n, grain));
    int[][] counts = new int[chunks][];
    Parallel.chunked(
        n,
        grain,
        work.part(0.4, CoreWords.of("work.ordering")),
        (c, from, to) -> {
          int[] count = new int[groups];
          for (int i = from; i < to; i++) {
            if (group[i] >= 0) {
              count[group[i]]++;
            }
          }
          counts[c] = count;
        });
    int[] start = new int[groups + 1];
    int at = 0;
    for (int g = 0; g < groups; g++) {
      start[g] = at;
      for (int[] count : counts) {
        if (count != null) {
          int here = count[g];
          count[g] = at;
          at += here;
        }
      }
    }
    start[groups] = at;
    int[] order = new int[at];
    Parallel.chunked(
        n,
        grain,
        work.part(0.6, CoreWords.of("work.ordering")),
        (c, from, to) -> {
          int[] next = counts[c];
          for (int i = from; i < to; i++) {
            if (group[i] >= 0) {
              order[next[group[i]]++] = i;
            }
          }
        });
    return new Grouping(start, order);
  }
}
