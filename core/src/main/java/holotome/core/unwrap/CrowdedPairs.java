package holotome.core.unwrap;

import holotome.core.topology.Adjacency;
import java.util.Arrays;

/**
 * Which triangles go on into each other where more than two share an edge: of those that run
 * opposite ways the two that are flattest to each other, then of the rest. O(n log n) for n
 * half-edges of such edges.
 */
final class CrowdedPairs {
  /** What is folded back onto itself, by the cosine, does not go on. */
  private static final double FOLDED = -0.9;

  /** Of so many half-edges of one edge all are held against each other. */
  private static final int MOST = 64;

  private final int[] tri;
  private final int[] twin;
  private final double[] normal;

  private CrowdedPairs(int[] tri, int[] twin, double[] normal) {
    this.tri = tri;
    this.twin = twin;
    this.normal = normal;
  }

  /**
   * Puts each other's half-edges in place of {@link Adjacency#CROWDED}, and {@link
   * Adjacency#BORDER} where a triangle ends.
   *
   * @param twin one per half-edge; changed
   * @param normal 3 per triangle, of length 1 or 0
   * @return all half-edges of such edges, those of one edge one after the other
   */
  static int[] join(int[] tri, int[] twin, double[] normal) {
    return new CrowdedPairs(tri, twin, normal).run();
  }

  private int[] run() {
    long[] byLower = new long[tri.length];
    int n = 0;
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] == Adjacency.CROWDED) {
        byLower[n++] = (long) Math.min(tri[h], tri[Adjacency.next(h)]) << Integer.SIZE | h;
        twin[h] = Adjacency.BORDER;
      }
    }
    byLower = Arrays.copyOf(byLower, n);
    Arrays.parallelSort(byLower);
    long[] byUpper = new long[n];
    for (int from = 0; from < n; ) {
      int to = from;
      while (to < n && byLower[to] >> Integer.SIZE == byLower[from] >> Integer.SIZE) {
        int h = (int) byLower[to];
        byUpper[to++] = (long) Math.max(tri[h], tri[Adjacency.next(h)]) << Integer.SIZE | h;
      }
      Arrays.sort(byUpper, from, to);
      from = to;
    }
    for (int from = 0; from < n; ) {
      int to = from;
      while (to < n && isSameEdge(tri, (int) byUpper[from], (int) byUpper[to])) {
        to++;
      }
      for (int i = from; i < to; i += MOST) {
        joinAll(byUpper, i, Math.min(to, i + MOST));
      }
      from = to;
    }
    int[] out = new int[n];
    for (int i = 0; i < n; i++) {
      out[i] = (int) byUpper[i];
    }
    return out;
  }

  /** Whether two half-edges join the same vertices, either way round. */
  static boolean isSameEdge(int[] tri, int g, int h) {
    int a = tri[g];
    int b = tri[Adjacency.next(g)];
    int c = tri[h];
    int d = tri[Adjacency.next(h)];
    return a == c && b == d || a == d && b == c;
  }

  /** Pairs up the half-edges of one edge, in the low halves of what is given. */
  private void joinAll(long[] halves, int from, int to) {
    boolean isPair = tri[(int) halves[from]] != tri[Adjacency.next((int) halves[from])];
    while (isPair) {
      int one = -1;
      int other = -1;
      double flattest = FOLDED;
      for (int i = from; i < to; i++) {
        for (int j = i + 1; j < to; j++) {
          int g = (int) halves[i];
          int h = (int) halves[j];
          boolean isFree = twin[g] < 0 && twin[h] < 0 && g / 3 != h / 3;
          if (isFree && tri[g] != tri[h] && cosine(g / 3, h / 3) > flattest) {
            flattest = cosine(g / 3, h / 3);
            one = g;
            other = h;
          }
        }
      }
      isPair = one >= 0;
      if (isPair) {
        twin[one] = other;
        twin[other] = one;
      }
    }
  }

  private double cosine(int t, int u) {
    return normal[3 * t] * normal[3 * u]
        + normal[3 * t + 1] * normal[3 * u + 1]
        + normal[3 * t + 2] * normal[3 * u + 2];
  }
}
