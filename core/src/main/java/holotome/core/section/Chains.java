package holotome.core.section;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Joins pieces that share an end into chains. */
final class Chains {
  private Chains() {}

  /**
   * Joins pieces by the keys of their ends, as directed where they agree.
   *
   * @param ends the keys of the start and the end of each piece in turn
   * @return chains of indices into {@code ends}, one per point; the last equals the first where the
   *     chain is closed. Closed ones and open ones in the order of their first pieces
   */
  static int[][] of(long[] ends) {
    int[] partner = partners(ends);
    int n = ends.length / 2;
    boolean[] used = new boolean[n];
    List<int[]> chains = new ArrayList<>();
    // Open chains first, from their loose starts; then what is left is closed.
    for (int pass = 0; pass < 3; pass++) {
      for (int s = 0; s < n; s++) {
        if (used[s]) {
          continue;
        }
        if (pass == 0 && partner[2 * s] < 0) {
          chains.add(walk(2 * s, partner, used));
        } else if (pass == 1 && partner[2 * s + 1] < 0) {
          chains.add(walk(2 * s + 1, partner, used));
        } else if (pass == 2) {
          chains.add(walk(2 * s, partner, used));
        }
      }
    }
    return chains.toArray(int[][]::new);
  }

  /** From an end of a piece along as far as it goes. */
  private static int[] walk(int from, int[] partner, boolean[] used) {
    int[] chain = new int[16];
    int size = 0;
    int at = from;
    while (true) {
      if (size + 2 > chain.length) {
        chain = Arrays.copyOf(chain, 2 * chain.length);
      }
      used[at >> 1] = true;
      chain[size++] = at;
      int far = at ^ 1;
      int next = partner[far];
      if (next < 0) {
        chain[size++] = far;
        break;
      }
      if (used[next >> 1]) {
        chain[size++] = from;
        break;
      }
      at = next;
    }
    return Arrays.copyOf(chain, size);
  }

  /** For each end of a piece the end of another that it goes on with; -1 for none. */
  private static int[] partners(long[] ends) {
    int[] sorted = sortedByKey(ends);
    int[] partner = new int[ends.length];
    Arrays.fill(partner, -1);
    for (int i = 0; i < sorted.length; ) {
      int j = i + 1;
      while (j < sorted.length && ends[sorted[j]] == ends[sorted[i]]) {
        j++;
      }
      pair(sorted, i, j, partner);
      i = j;
    }
    return partner;
  }

  /** Of the ends at one edge first a start with an end, in order; then what is left. */
  private static void pair(int[] sorted, int from, int to, int[] partner) {
    for (int pass = 0; pass < 2; pass++) {
      for (int i = from; i < to; i++) {
        for (int j = i + 1; j < to && partner[sorted[i]] < 0; j++) {
          int a = sorted[i];
          int b = sorted[j];
          boolean fits = pass == 1 || ((a ^ b) & 1) == 1;
          if (partner[b] < 0 && fits && a >> 1 != b >> 1) {
            partner[a] = b;
            partner[b] = a;
          }
        }
      }
    }
  }

  private static int[] sortedByKey(long[] ends) {
    int n = ends.length;
    int[] order = new int[n];
    for (int i = 0; i < n; i++) {
      order[i] = i;
    }
    int[] spare = new int[n];
    // By halves, merged: the order of equal keys is kept.
    for (int width = 1; width < n; width *= 2) {
      for (int lo = 0; lo < n; lo += 2 * width) {
        int mid = Math.min(lo + width, n);
        int hi = Math.min(lo + 2 * width, n);
        int a = lo;
        int b = mid;
        for (int k = lo; k < hi; k++) {
          boolean left = a < mid && (b >= hi || ends[order[a]] <= ends[order[b]]);
          spare[k] = left ? order[a++] : order[b++];
        }
      }
      int[] swap = order;
      order = spare;
      spare = swap;
    }
    return order;
  }

  private record Place(double x, double y) {}

  /** Joins open curves whose ends are at the very same place: along seams of doubled vertices. */
  static List<Curve> joinOpen(List<Curve> curves) {
    List<Curve> out = new ArrayList<>();
    List<Curve> open = new ArrayList<>();
    for (Curve c : curves) {
      (c.closed() ? out : open).add(c);
    }
    Map<Place, Long> keys = new HashMap<>();
    long[] ends = new long[2 * open.size()];
    for (int i = 0; i < open.size(); i++) {
      double[] p = open.get(i).xy();
      ends[2 * i] = keys.computeIfAbsent(new Place(p[0], p[1]), k -> (long) keys.size());
      ends[2 * i + 1] =
          keys.computeIfAbsent(
              new Place(p[p.length - 2], p[p.length - 1]), k -> (long) keys.size());
    }
    for (int[] chain : of(ends)) {
      out.add(joined(open, chain));
    }
    return out;
  }

  private static Curve joined(List<Curve> open, int[] chain) {
    int pieces = chain.length - 1;
    int points = 1;
    for (int i = 0; i < pieces; i++) {
      points += open.get(chain[i] >> 1).size() - 1;
    }
    double[] xy = new double[2 * points];
    int at = 0;
    for (int i = 0; i < pieces; i++) {
      Curve c = open.get(chain[i] >> 1);
      boolean forth = (chain[i] & 1) == 0;
      for (int k = i == 0 ? 0 : 1; k < c.size(); k++) {
        int from = forth ? k : c.size() - 1 - k;
        xy[2 * at] = c.xy()[2 * from];
        xy[2 * at + 1] = c.xy()[2 * from + 1];
        at++;
      }
    }
    boolean closed = points > 3 && xy[0] == xy[2 * at - 2] && xy[1] == xy[2 * at - 1];
    return new Curve(Arrays.copyOf(xy, closed ? 2 * at - 2 : 2 * at), closed);
  }
}
