package holotome.core.unwrap;

import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Makes every chart hang together: what does not hang with the largest part of its chart goes to
 * the neighbour that it shares most border with, or becomes a chart of its own where it has none.
 * O(T) a round, of which there are a few: a part may have gone to one that went elsewhere itself.
 */
final class WholeCharts {
  private static final int ROUNDS = 4;

  private static final int OFTEN = 0xFFFF;

  private final Ground ground;
  private final int[] chart;
  private final Work work;
  private int charts;

  /** Triangles part by part, and where each part begins. */
  private final int[] queue;

  private int[] begin = new int[1024];
  private int parts;

  private WholeCharts(Ground ground, int[] chart, int charts, Work work) {
    this.ground = ground;
    this.chart = chart;
    this.charts = charts;
    this.work = work;
    queue = new int[chart.length];
  }

  /**
   * @param chart of each triangle, below 0 for none; changed in place
   * @return how many charts there are then, some of them empty
   */
  static int make(Ground ground, int[] chart, int charts, Work work) {
    WholeCharts w = new WholeCharts(ground, chart, charts, work);
    boolean isWhole = false;
    for (int round = 0; !isWhole; round++) {
      isWhole = w.gathered(round < ROUNDS);
    }
    return w.charts;
  }

  /**
   * One round.
   *
   * @param joins whether parts go to neighbours, or all become charts of their own
   * @return whether every chart did hang together
   */
  private boolean gathered(boolean joins) {
    findParts();
    int[] largest = new int[charts];
    Arrays.fill(largest, -1);
    for (int k = 0; k < parts; k++) {
      int c = chart[queue[begin[k]]];
      if (c >= 0 && (largest[c] < 0 || size(k) > size(largest[c]))) {
        largest[c] = k;
      }
    }
    boolean isWhole = true;
    for (int k = 0; k < parts; k++) {
      int c = chart[queue[begin[k]]];
      if (c >= 0 && largest[c] == k) {
        continue;
      }
      isWhole = false;
      int into = joins ? neighbour(k, c) : -1;
      into = into < 0 ? charts++ : into;
      for (int i = begin[k]; i < begin[k + 1]; i++) {
        chart[queue[i]] = into;
      }
    }
    return isWhole;
  }

  private int size(int part) {
    return begin[part + 1] - begin[part];
  }

  private void findParts() {
    int n = chart.length;
    int[] twin = ground.twin();
    boolean[] isSeen = new boolean[n];
    parts = 0;
    int end = 0;
    for (int t = 0; t < n; t++) {
      if (isSeen[t]) {
        continue;
      }
      begin = parts + 1 < begin.length ? begin : Arrays.copyOf(begin, 2 * begin.length);
      begin[parts] = end;
      isSeen[t] = true;
      queue[end++] = t;
      for (int at = begin[parts]; at < end; at++) {
        if ((at & OFTEN) == 0) {
          work.check();
        }
        for (int h = 3 * queue[at]; h < 3 * queue[at] + 3; h++) {
          int u = twin[h] < 0 ? t : twin[h] / 3;
          if (!isSeen[u] && chart[u] == chart[t]) {
            isSeen[u] = true;
            queue[end++] = u;
          }
        }
      }
      begin[++parts] = end;
    }
  }

  /** The chart that a part shares most border with; -1 for none. */
  private int neighbour(int part, int own) {
    SharedBorder border = new SharedBorder();
    for (int i = begin[part]; i < begin[part + 1]; i++) {
      for (int h = 3 * queue[i]; h < 3 * queue[i] + 3; h++) {
        int g = ground.twin()[h];
        if (g >= 0 && chart[g / 3] >= 0 && chart[g / 3] != own) {
          border.add(chart[g / 3], ground.seam()[h]);
        }
      }
    }
    return border.longest();
  }
}
