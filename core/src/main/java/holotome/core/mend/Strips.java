package holotome.core.mend;

import holotome.core.geometry.Vec;

/**
 * Strips of triangles between two runs of points, of the least area (Fuchs, Kedem and Uselton,
 * "Optimal surface reconstruction from planar contours", 1977, by dynamic programming), O(n m);
 * between runs of very many points by the shorter diagonal each time, O(n + m).
 */
final class Strips {
  /** Pairs of points that are all looked at. */
  private static final long MOST = 4_000_000;

  private Strips() {}

  /**
   * @param p points of the one run
   * @param q of the other, beginning on the same side
   * @return triangles, 3 corners each: below p's length those of p, from there on those of q
   */
  static int[] between(double[][] p, double[][] q) {
    int m = p.length;
    int n = q.length;
    if ((long) m * n > MOST) {
      return byDiagonals(p, q);
    }
    double[][] cost = new double[m][n];
    boolean[][] byP = new boolean[m][n];
    for (int i = 0; i < m; i++) {
      for (int j = 0; j < n; j++) {
        double overP = i > 0 ? cost[i - 1][j] + area(p[i - 1], p[i], q[j]) : Double.MAX_VALUE;
        double overQ = j > 0 ? cost[i][j - 1] + area(p[i], q[j - 1], q[j]) : Double.MAX_VALUE;
        byP[i][j] = overP <= overQ;
        cost[i][j] = i + j == 0 ? 0 : Math.min(overP, overQ);
      }
    }
    int[] out = new int[3 * (m + n - 2)];
    int i = m - 1;
    int j = n - 1;
    for (int at = out.length - 3; at >= 0; at -= 3) {
      if (byP[i][j]) {
        set(out, at, i - 1, m + j, i);
        i--;
      } else {
        set(out, at, i, m + j - 1, m + j);
        j--;
      }
    }
    return out;
  }

  private static int[] byDiagonals(double[][] p, double[][] q) {
    int m = p.length;
    int n = q.length;
    int[] out = new int[3 * (m + n - 2)];
    int i = 0;
    int j = 0;
    for (int at = 0; at < out.length; at += 3) {
      boolean overP =
          j == n - 1 || i < m - 1 && Vec.distance(p[i + 1], q[j]) <= Vec.distance(p[i], q[j + 1]);
      if (overP) {
        set(out, at, i, m + j, i + 1);
        i++;
      } else {
        set(out, at, i, m + j, m + j + 1);
        j++;
      }
    }
    return out;
  }

  private static void set(int[] out, int at, int a, int b, int c) {
    out[at] = a;
    out[at + 1] = b;
    out[at + 2] = c;
  }

  private static double area(double[] a, double[] b, double[] c) {
    return Vec.length(Vec.cross(Vec.sub(b, a), Vec.sub(c, a)));
  }

  /** How far along a run each of its points lies, from 0 to 1. */
  static double[] shares(double[][] p) {
    double[] out = new double[p.length];
    for (int i = 1; i < p.length; i++) {
      out[i] = out[i - 1] + Vec.distance(p[i - 1], p[i]);
    }
    double all = out[p.length - 1];
    for (int i = 1; i < p.length; i++) {
      out[i] = all > 0 ? out[i] / all : (double) i / (p.length - 1);
    }
    return out;
  }
}
