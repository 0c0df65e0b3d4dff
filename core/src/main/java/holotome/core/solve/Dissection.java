package holotome.core.solve;

import java.util.ArrayDeque;

/**
 * An order for the rows of a system of a flat mesh that leaves few entries when it is taken apart:
 * halved over and over by a line of vertices, which come last (nested dissection, George, "Nested
 * dissection of a regular finite element mesh", SIAM Journal on Numerical Analysis 1973; lines from
 * the levels of a breadth-first search, George and Liu 1978). O(edges x log n).
 */
final class Dissection {
  /** Parts of so many rows are left in the order they come. */
  private static final int LEAF = 40;

  private final int[] start;
  private final int[] to;
  private final int[] list;

  /** The part that each row is in, by a number that only grows. */
  private final int[] part;

  private final int[] seen;
  private final int[] queue;

  /** Where each level of the search begins in the queue, and how many there are. */
  private final int[] level;

  private int levels;
  private int stamp;

  private record Range(int from, int to) {}

  private Dissection(int n, int[] start, int[] to) {
    this.start = start;
    this.to = to;
    list = new int[n];
    part = new int[n];
    seen = new int[n];
    queue = new int[n];
    level = new int[n + 1];
    for (int i = 0; i < n; i++) {
      list[i] = i;
    }
  }

  /**
   * The rows in their order.
   *
   * @param start where the neighbours of each row begin in {@code to}, and one more
   */
  static int[] order(int n, int[] start, int[] to) {
    Dissection d = new Dissection(n, start, to);
    ArrayDeque<Range> open = new ArrayDeque<>();
    open.push(new Range(0, n));
    int number = 0;
    while (!open.isEmpty()) {
      Range r = open.pop();
      if (r.to - r.from > LEAF) {
        number++;
        for (int i = r.from; i < r.to; i++) {
          d.part[d.list[i]] = number;
        }
        d.split(r, number, open);
      }
    }
    return d.list;
  }

  private void split(Range r, int number, ArrayDeque<Range> open) {
    int size = r.to - r.from;
    int found = search(list[r.from], number);
    if (found < size) {
      apart(r, found, open);
      return;
    }
    search(queue[found - 1], number);
    int middle = 0;
    while (level[middle + 1] < size / 2) {
      middle++;
    }
    if (middle + 1 >= levels) {
      // All rows know one another, nearly: there is no line between them.
      return;
    }
    int near = r.from;
    int last = r.to;
    int[] moved = new int[size];
    int kept = 0;
    for (int i = 0; i < level[middle]; i++) {
      list[near++] = queue[i];
    }
    stamp++;
    for (int i = level[middle + 1]; i < size; i++) {
      moved[kept++] = queue[i];
      seen[queue[i]] = stamp;
    }
    for (int i = level[middle]; i < level[middle + 1]; i++) {
      if (knows(queue[i], stamp)) {
        list[--last] = queue[i];
      } else {
        list[near++] = queue[i];
      }
    }
    System.arraycopy(moved, 0, list, near, kept);
    open.push(new Range(r.from, near));
    open.push(new Range(near, near + kept));
  }

  /** What a search found and what it did not reach know nothing of each other. */
  private void apart(Range r, int found, ArrayDeque<Range> open) {
    int at = r.from + found;
    int[] rest = new int[r.to - at];
    int n = 0;
    for (int i = r.from; i < r.to; i++) {
      if (seen[list[i]] != stamp) {
        rest[n++] = list[i];
      }
    }
    System.arraycopy(queue, 0, list, r.from, found);
    System.arraycopy(rest, 0, list, at, n);
    open.push(new Range(r.from, at));
    open.push(new Range(at, r.to));
  }

  private boolean knows(int row, int mark) {
    for (int k = start[row]; k < start[row + 1]; k++) {
      if (seen[to[k]] == mark) {
        return true;
      }
    }
    return false;
  }

  /** Breadth first from a row within its part; how many it reaches. */
  private int search(int from, int number) {
    stamp++;
    int end = 0;
    levels = 0;
    queue[end++] = from;
    seen[from] = stamp;
    int next = 0;
    while (next < end) {
      level[levels++] = next;
      int stop = end;
      for (; next < stop; next++) {
        int row = queue[next];
        for (int k = start[row]; k < start[row + 1]; k++) {
          int other = to[k];
          if (part[other] == number && seen[other] != stamp) {
            seen[other] = stamp;
            queue[end++] = other;
          }
        }
      }
    }
    level[levels] = end;
    return end;
  }
}
