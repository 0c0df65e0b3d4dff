package holotome.core.proxy;

import java.util.ArrayList;
import java.util.List;

/** Flat outlines, each point x, y, counter-clockwise: the smallest rectangle, fewer corners. */
final class Outline {
  private Outline() {}

  /** Twice the area; below 0 for one that runs clockwise. */
  static double area(double[][] p) {
    double sum = 0;
    for (int i = 0; i < p.length; i++) {
      double[] a = p[i];
      double[] b = p[(i + 1) % p.length];
      sum += a[0] * b[1] - a[1] * b[0];
    }
    return sum;
  }

  /** Whether no two sides cross or touch but neighbours in their corner. O(n²). */
  static boolean isSimple(double[][] p) {
    int n = p.length;
    for (int i = 0; i < n; i++) {
      for (int j = i + 1; j < n; j++) {
        boolean isNext = j == i + 1 || i == 0 && j == n - 1;
        if (!isNext && meet(p[i], p[(i + 1) % n], p[j], p[(j + 1) % n])) {
          return false;
        }
      }
    }
    return Math.abs(area(p)) > 0;
  }

  private static boolean meet(double[] a, double[] b, double[] c, double[] d) {
    double s = turn(a, b, c);
    double t = turn(a, b, d);
    double u = turn(c, d, a);
    double v = turn(c, d, b);
    return s * t <= 0 && u * v <= 0;
  }

  private static double turn(double[] a, double[] b, double[] q) {
    return (b[0] - a[0]) * (q[1] - a[1]) - (b[1] - a[1]) * (q[0] - a[0]);
  }

  /**
   * The direction of one side of the smallest rectangle around a convex outline, unit: one of its
   * sides lies on one of the outline's (Freeman and Shapira 1975). O(n²).
   */
  static double[] along(double[][] convex) {
    double[] best = {1, 0};
    double least = Double.POSITIVE_INFINITY;
    for (int i = 0; i < convex.length; i++) {
      double[] a = convex[i];
      double[] b = convex[(i + 1) % convex.length];
      double l = Math.hypot(b[0] - a[0], b[1] - a[1]);
      if (l > 0) {
        double[] d = {(b[0] - a[0]) / l, (b[1] - a[1]) / l};
        double[] e = extent(convex, d);
        double size = (e[1] - e[0]) * (e[3] - e[2]);
        if (size < least) {
          least = size;
          best = e[1] - e[0] >= e[3] - e[2] ? d : new double[] {-d[1], d[0]};
        }
      }
    }
    return best;
  }

  /** From where to where points reach along a direction, and across it to the left. */
  static double[] extent(double[][] points, double[] d) {
    double[] out = {
      Double.POSITIVE_INFINITY,
      Double.NEGATIVE_INFINITY,
      Double.POSITIVE_INFINITY,
      Double.NEGATIVE_INFINITY
    };
    for (double[] p : points) {
      double u = p[0] * d[0] + p[1] * d[1];
      double v = p[1] * d[0] - p[0] * d[1];
      out[0] = Math.min(out[0], u);
      out[1] = Math.max(out[1], u);
      out[2] = Math.min(out[2], v);
      out[3] = Math.max(out[3], v);
    }
    return out;
  }

  /**
   * A convex outline around another one with fewer sides: the side goes whose neighbours, made
   * longer until they meet, add the least area, until as few are left as are wanted. O(n²).
   */
  static double[][] around(double[][] convex, int sides) {
    List<double[]> p = new ArrayList<>(List.of(convex));
    while (p.size() > sides) {
      int best = -1;
      double least = Double.POSITIVE_INFINITY;
      double[] at = null;
      for (int i = 0; i < p.size(); i++) {
        double[] a = get(p, i);
        double[] b = get(p, i + 1);
        double[] tip = tip(get(p, i - 1), a, b, get(p, i + 2));
        if (tip != null) {
          double more = turn(a, tip, b);
          if (more < least) {
            least = more;
            best = i;
            at = tip;
          }
        }
      }
      if (best < 0) {
        break;
      }
      p.set(best, at);
      p.remove((best + 1) % p.size());
    }
    return p.toArray(double[][]::new);
  }

  private static double[] get(List<double[]> p, int i) {
    return p.get(Math.floorMod(i, p.size()));
  }

  /** Where the side that leads to a and the one that leaves b meet beyond them; null if nowhere. */
  private static double[] tip(double[] before, double[] a, double[] b, double[] after) {
    double ux = a[0] - before[0];
    double uy = a[1] - before[1];
    double vx = b[0] - after[0];
    double vy = b[1] - after[1];
    double by = ux * vy - uy * vx;
    if (Math.abs(by) <= 1e-9 * Math.hypot(ux, uy) * Math.hypot(vx, vy)) {
      return null;
    }
    double t = ((b[0] - a[0]) * vy - (b[1] - a[1]) * vx) / by;
    return t >= 0 ? new double[] {a[0] + t * ux, a[1] + t * uy} : null;
  }
}
