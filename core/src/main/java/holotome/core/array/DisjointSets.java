package holotome.core.array;

import java.util.Arrays;

/**
 * Sets of whole numbers that are joined two by two: union-find with path halving (Tarjan, 1975).
 * Each set stands under its lowest number, in whatever order they were joined. 4 bytes a number;
 * not for several threads.
 */
public final class DisjointSets {
  private final int[] parent;

  /** Each of the numbers 0 to n - 1 a set of its own. */
  public DisjointSets(int n) {
    parent = new int[n];
    Arrays.setAll(parent, i -> i);
  }

  /** The lowest number of a number's set. */
  public int find(int of) {
    int at = of;
    while (parent[at] != at) {
      parent[at] = parent[parent[at]];
      at = parent[at];
    }
    return at;
  }

  /** Joins the sets of two numbers; false where they were one already. */
  public boolean join(int a, int b) {
    int x = find(a);
    int y = find(b);
    parent[Math.max(x, y)] = Math.min(x, y);
    return x != y;
  }

  /** For each number that of its set, the sets counted from 0 in the order of their lowest. */
  public int[] numbered() {
    int[] out = new int[parent.length];
    int count = 0;
    for (int i = 0; i < out.length; i++) {
      int s = find(i);
      out[i] = s == i ? count++ : out[s];
    }
    return out;
  }
}
