package holotome.core.solve;

import java.util.Arrays;

/**
 * An {@link EdgeSystem} of few rows: Cholesky within the envelope, rows ordered by Cuthill and
 * McKee ("Reducing the bandwidth of sparse symmetric matrices", ACM 1969), reversed.
 *
 * <p>With n rows and a bandwidth of b (about the root of n for the vertices of a flat mesh) it
 * takes n b doubles, n b² to take apart and n b to solve.
 */
public final class SkylineSystem implements EdgeSystem {
  private final int n;

  /** Place of each row in the order that is solved in. */
  private final int[] place;

  /** First column held of each placed row; its entries up to the diagonal begin at {@link #at}. */
  private final int[] first;

  private final long[] at;
  private final double[] low;

  /** See {@link EdgeSystem#of}. */
  public SkylineSystem(int n, int[] ends, double[] weight, double[] extra) {
    this.n = n;
    int[] start = new int[n + 1];
    for (int e : ends) {
      start[e + 1]++;
    }
    for (int i = 0; i < n; i++) {
      start[i + 1] += start[i];
    }
    int[] to = new int[ends.length];
    int[] fill = Arrays.copyOf(start, n);
    for (int e = 0; e < ends.length; e += 2) {
      to[fill[ends[e]]++] = ends[e + 1];
      to[fill[ends[e + 1]]++] = ends[e];
    }
    place = reversed(start, to);
    first = new int[n];
    Arrays.setAll(first, i -> i);
    for (int i = 0; i < n; i++) {
      for (int k = start[i]; k < start[i + 1]; k++) {
        first[place[i]] = Math.min(first[place[i]], place[to[k]]);
      }
    }
    at = new long[n + 1];
    for (int i = 0; i < n; i++) {
      at[i + 1] = at[i] + i - first[i] + 1;
    }
    low = new double[Math.toIntExact(at[n])];
    for (int i = 0; i < n; i++) {
      low[index(place[i], place[i])] += extra[i];
    }
    for (int e = 0; e < weight.length; e++) {
      int a = place[ends[2 * e]];
      int b = place[ends[2 * e + 1]];
      low[index(a, a)] += weight[e];
      low[index(b, b)] += weight[e];
      low[index(Math.max(a, b), Math.min(a, b))] -= weight[e];
    }
    factor();
  }

  private int index(int row, int column) {
    return (int) at[row] + column - first[row];
  }

  /** Cuthill and McKee's order, reversed, each connected part from an end of it. */
  private int[] reversed(int[] start, int[] to) {
    int[] order = new int[n];
    boolean[] seen = new boolean[n];
    int count = 0;
    for (int i = 0; i < n; i++) {
      if (seen[i]) {
        continue;
      }
      // Twice from the last one reached: an end of the part, nearly.
      int from = i;
      for (int pass = 0; pass < 2; pass++) {
        int end = flood(from, start, to, order, count, seen);
        from = order[end - 1];
        for (int k = count; k < end; k++) {
          seen[order[k]] = false;
        }
      }
      count = flood(from, start, to, order, count, seen);
    }
    int[] out = new int[n];
    for (int k = 0; k < n; k++) {
      out[order[k]] = n - 1 - k;
    }
    return out;
  }

  private static int flood(int from, int[] start, int[] to, int[] order, int at, boolean[] seen) {
    int end = at;
    order[end++] = from;
    seen[from] = true;
    for (int k = at; k < end; k++) {
      int v = order[k];
      int begin = end;
      for (int j = start[v]; j < start[v + 1]; j++) {
        if (!seen[to[j]]) {
          seen[to[j]] = true;
          // Those of few neighbours first.
          int w = to[j];
          int degree = start[w + 1] - start[w];
          int x = end++;
          while (x > begin && start[order[x - 1] + 1] - start[order[x - 1]] > degree) {
            order[x] = order[x - 1];
            x--;
          }
          order[x] = w;
        }
      }
    }
    return end;
  }

  private void factor() {
    for (int i = 0; i < n; i++) {
      int row = (int) at[i] - first[i];
      for (int j = first[i]; j < i; j++) {
        int other = (int) at[j] - first[j];
        double s = low[row + j] - dot(row, other, Math.max(first[i], first[j]), j);
        low[row + j] = s * low[other + j];
      }
      double d = low[row + i] - dot(row, row, first[i], i);
      // The diagonal is kept as what to multiply by.
      low[row + i] = d > 0 ? 1 / Math.sqrt(d) : 0;
    }
  }

  /** Four sums side by side: a single one would wait for itself at every step. */
  private double dot(int a, int b, int from, int to) {
    double s0 = 0;
    double s1 = 0;
    double s2 = 0;
    double s3 = 0;
    int k = from;
    for (; k + 3 < to; k += 4) {
      s0 += low[a + k] * low[b + k];
      s1 += low[a + k + 1] * low[b + k + 1];
      s2 += low[a + k + 2] * low[b + k + 2];
      s3 += low[a + k + 3] * low[b + k + 3];
    }
    for (; k < to; k++) {
      s0 += low[a + k] * low[b + k];
    }
    return s0 + s1 + (s2 + s3);
  }

  @Override
  public void solve(double[] xy) {
    double[] p = new double[2 * n];
    for (int i = 0; i < n; i++) {
      p[2 * place[i]] = xy[2 * i];
      p[2 * place[i] + 1] = xy[2 * i + 1];
    }
    for (int i = 0; i < n; i++) {
      int row = (int) at[i] - first[i];
      double x = p[2 * i];
      double y = p[2 * i + 1];
      for (int k = first[i]; k < i; k++) {
        x -= low[row + k] * p[2 * k];
        y -= low[row + k] * p[2 * k + 1];
      }
      p[2 * i] = x * low[row + i];
      p[2 * i + 1] = y * low[row + i];
    }
    for (int i = n - 1; i >= 0; i--) {
      int row = (int) at[i] - first[i];
      double x = p[2 * i] * low[row + i];
      double y = p[2 * i + 1] * low[row + i];
      p[2 * i] = x;
      p[2 * i + 1] = y;
      for (int k = first[i]; k < i; k++) {
        p[2 * k] -= low[row + k] * x;
        p[2 * k + 1] -= low[row + k] * y;
      }
    }
    for (int i = 0; i < n; i++) {
      xy[2 * i] = p[2 * place[i]];
      xy[2 * i + 1] = p[2 * place[i] + 1];
    }
  }
}
