package holotome.core.solve;

import java.util.Arrays;

/**
 * An {@link EdgeSystem} of many rows: ordered by {@link Dissection}, taken apart row by row with
 * the entries that come of it alone (up-looking sparse Cholesky, Davis, "Direct Methods for Sparse
 * Linear Systems", SIAM 2006, chapter 4).
 *
 * <p>With n rows for the vertices of a flat mesh some 8 n log n entries of 12 bytes, n to the 1.5
 * to take apart: 20,000 rows in some 0.1 s. For one thread.
 */
public final class DissectedSystem implements EdgeSystem {
  private final int n;

  /** The row at each place of the order. */
  private final int[] order;

  /** Columns: where each begins; its first entry is the diagonal, as what to multiply by. */
  private final int[] start;

  private final int[] row;
  private final double[] low;

  /** For the rows in order: entries before the diagonal, from {@code from[k]} on. */
  private record Upper(int[] from, int[] column, double[] value, double[] diagonal) {}

  /** See {@link EdgeSystem#of}. */
  public DissectedSystem(int n, int[] ends, double[] weight, double[] extra) {
    this.n = n;
    int[] first = new int[n + 1];
    for (int e : ends) {
      first[e + 1]++;
    }
    for (int i = 0; i < n; i++) {
      first[i + 1] += first[i];
    }
    int[] to = new int[ends.length];
    int[] fill = Arrays.copyOf(first, n);
    for (int e = 0; e < ends.length; e += 2) {
      to[fill[ends[e]]++] = ends[e + 1];
      to[fill[ends[e + 1]]++] = ends[e];
    }
    order = Dissection.order(n, first, to);
    Upper upper = upper(ends, weight, extra);
    int[] parent = tree(upper);
    start = new int[n + 1];
    int[] count = counts(upper, parent);
    for (int i = 0; i < n; i++) {
      start[i + 1] = Math.addExact(start[i], count[i]);
    }
    row = new int[start[n]];
    low = new double[start[n]];
    factor(upper, parent);
  }

  private Upper upper(int[] ends, double[] weight, double[] extra) {
    int[] place = new int[n];
    for (int k = 0; k < n; k++) {
      place[order[k]] = k;
    }
    int[] from = new int[n + 1];
    for (int e = 0; e < ends.length; e += 2) {
      from[Math.max(place[ends[e]], place[ends[e + 1]]) + 1]++;
    }
    for (int i = 0; i < n; i++) {
      from[i + 1] += from[i];
    }
    int[] column = new int[ends.length / 2];
    double[] value = new double[column.length];
    double[] diagonal = new double[n];
    for (int k = 0; k < n; k++) {
      diagonal[k] = extra[order[k]];
    }
    int[] fill = Arrays.copyOf(from, n);
    for (int e = 0; e < column.length; e++) {
      int a = place[ends[2 * e]];
      int b = place[ends[2 * e + 1]];
      diagonal[a] += weight[e];
      diagonal[b] += weight[e];
      int at = fill[Math.max(a, b)]++;
      column[at] = Math.min(a, b);
      value[at] = -weight[e];
    }
    return new Upper(from, column, value, diagonal);
  }

  /** The elimination tree (Liu 1986): the next row that each one's entries reach; -1 for none. */
  private int[] tree(Upper u) {
    int[] parent = new int[n];
    int[] ancestor = new int[n];
    Arrays.fill(parent, -1);
    Arrays.fill(ancestor, -1);
    for (int k = 0; k < n; k++) {
      for (int p = u.from[k]; p < u.from[k + 1]; p++) {
        int i = u.column[p];
        while (i != -1 && i < k) {
          int next = ancestor[i];
          ancestor[i] = k;
          if (next == -1) {
            parent[i] = k;
          }
          i = next;
        }
      }
    }
    return parent;
  }

  /** Entries of each column, the diagonal among them. */
  private int[] counts(Upper u, int[] parent) {
    int[] count = new int[n];
    int[] mark = new int[n];
    Arrays.fill(count, 1);
    Arrays.fill(mark, -1);
    for (int k = 0; k < n; k++) {
      mark[k] = k;
      for (int p = u.from[k]; p < u.from[k + 1]; p++) {
        for (int i = u.column[p]; mark[i] != k; i = parent[i]) {
          mark[i] = k;
          count[i]++;
        }
      }
    }
    return count;
  }

  private void factor(Upper u, int[] parent) {
    int[] fill = new int[n];
    int[] mark = new int[n];
    Arrays.fill(mark, -1);
    int[] path = new int[n];
    int[] reached = new int[n];
    double[] x = new double[n];
    for (int k = 0; k < n; k++) {
      mark[k] = k;
      int top = n;
      for (int p = u.from[k]; p < u.from[k + 1]; p++) {
        int length = 0;
        x[u.column[p]] += u.value[p];
        for (int i = u.column[p]; mark[i] != k; i = parent[i]) {
          path[length++] = i;
          mark[i] = k;
        }
        while (length > 0) {
          reached[--top] = path[--length];
        }
      }
      double d = u.diagonal[k];
      for (; top < n; top++) {
        int i = reached[top];
        double entry = x[i] * low[start[i]];
        x[i] = 0;
        for (int p = start[i] + 1; p < fill[i]; p++) {
          x[row[p]] -= low[p] * entry;
        }
        d -= entry * entry;
        row[fill[i]] = k;
        low[fill[i]++] = entry;
      }
      row[start[k]] = k;
      low[start[k]] = d > 0 ? 1 / Math.sqrt(d) : 0;
      fill[k] = start[k] + 1;
    }
  }

  @Override
  public void solve(double[] xy) {
    double[] p = new double[2 * n];
    for (int k = 0; k < n; k++) {
      p[2 * k] = xy[2 * order[k]];
      p[2 * k + 1] = xy[2 * order[k] + 1];
    }
    for (int j = 0; j < n; j++) {
      double x = p[2 * j] * low[start[j]];
      double y = p[2 * j + 1] * low[start[j]];
      p[2 * j] = x;
      p[2 * j + 1] = y;
      for (int q = start[j] + 1; q < start[j + 1]; q++) {
        p[2 * row[q]] -= low[q] * x;
        p[2 * row[q] + 1] -= low[q] * y;
      }
    }
    for (int j = n - 1; j >= 0; j--) {
      double x = p[2 * j];
      double y = p[2 * j + 1];
      for (int q = start[j] + 1; q < start[j + 1]; q++) {
        x -= low[q] * p[2 * row[q]];
        y -= low[q] * p[2 * row[q] + 1];
      }
      p[2 * j] = x * low[start[j]];
      p[2 * j + 1] = y * low[start[j]];
    }
    for (int k = 0; k < n; k++) {
      xy[2 * order[k]] = p[2 * k];
      xy[2 * order[k] + 1] = p[2 * k + 1];
    }
  }
}
