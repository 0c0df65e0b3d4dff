package holotome.core.unwrap;

import java.util.ArrayDeque;
import java.util.BitSet;
import java.util.List;

/**
 * Where some vertices of a chart are to lie.
 *
 * @param held whether a vertex is to lie there
 * @param from 2 per vertex: where it lies before, turned as it is to be
 * @param uv 2 per vertex; of those that are not held the same
 */
record Straight(boolean[] held, double[] from, double[] uv) {

  /** The chart turned so that lines of its outline that are nearly level or upright become so. */
  static Piece aligned(Piece p, List<int[]> loops, List<int[]> corners) {
    double c = 0;
    double s = 0;
    for (int l = 0; l < loops.size(); l++) {
      int[] at = corners.get(l);
      for (int i = 0; i < at.length; i++) {
        int a = 2 * p.corners()[loops.get(l)[at[i]]];
        int b = 2 * p.corners()[loops.get(l)[at[(i + 1) % at.length]]];
        double du = p.uv()[b] - p.uv()[a];
        double dv = p.uv()[b + 1] - p.uv()[a + 1];
        double angle = 4 * Math.atan2(dv, du);
        double length = Math.hypot(du, dv);
        c += length * Math.cos(angle);
        s += length * Math.sin(angle);
      }
    }
    return turned(p, -Math.atan2(s, c) / 4);
  }

  /** Turned about the origin, counter-clockwise. */
  static Piece turned(Piece p, double angle) {
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    double[] uv = new double[2 * p.vertices()];
    for (int i = 0; i < uv.length; i += 2) {
      uv[i] = c * p.uv()[i] - s * p.uv()[i + 1];
      uv[i + 1] = s * p.uv()[i] + c * p.uv()[i + 1];
    }
    return p.at(uv);
  }

  /**
   * The corners of a loop: no vertex between two of them is farther than so much from the line that
   * joins them (Douglas and Peucker, "Algorithms for the reduction of the number of points required
   * to represent a digitized line", 1973).
   *
   * @param loop half-edges in their order
   * @return places in the loop, rising
   */
  static int[] corners(Piece p, int[] loop, double within) {
    int first = farthest(p, loop, 0);
    int second = farthest(p, loop, first);
    BitSet kept = new BitSet();
    kept.set(first);
    kept.set(second);
    int n = loop.length;
    split(p, loop, first, second + (second < first ? n : 0), within, kept);
    split(p, loop, second, first + (first <= second ? n : 0), within, kept);
    return kept.stream().toArray();
  }

  private static int farthest(Piece p, int[] loop, int from) {
    int best = from == 0 ? loop.length / 2 : 0;
    double most = -1;
    for (int i = 0; i < loop.length; i++) {
      double d = Math.hypot(u(p, loop, i) - u(p, loop, from), v(p, loop, i) - v(p, loop, from));
      if (d > most && i != from) {
        most = d;
        best = i;
      }
    }
    return best;
  }

  /** From a place to a later one, which may lie beyond the end. */
  private static void split(Piece p, int[] loop, int from, int to, double within, BitSet kept) {
    ArrayDeque<int[]> todo = new ArrayDeque<>();
    todo.add(new int[] {from, to});
    while (!todo.isEmpty()) {
      int[] part = todo.poll();
      double ax = u(p, loop, part[0]);
      double ay = v(p, loop, part[0]);
      double dx = u(p, loop, part[1]) - ax;
      double dy = v(p, loop, part[1]) - ay;
      double length = Math.hypot(dx, dy);
      double most = within;
      int best = -1;
      for (int i = part[0] + 1; i < part[1]; i++) {
        double x = u(p, loop, i) - ax;
        double y = v(p, loop, i) - ay;
        double d = length > 0 ? Math.abs(x * dy - y * dx) / length : Math.hypot(x, y);
        if (d > most) {
          most = d;
          best = i;
        }
      }
      if (best >= 0) {
        kept.set(best % loop.length);
        todo.add(new int[] {part[0], best});
        todo.add(new int[] {best, part[1]});
      }
    }
  }

  static double u(Piece p, int[] loop, int i) {
    return p.uv()[2 * p.corners()[loop[i % loop.length]]];
  }

  static double v(Piece p, int[] loop, int i) {
    return p.uv()[2 * p.corners()[loop[i % loop.length]] + 1];
  }

  /** The diagonal of the box around a chart. */
  static double extent(Piece p) {
    double[] b = {1e300, 1e300, -1e300, -1e300};
    for (int i = 0; i < p.uv().length; i += 2) {
      b[0] = Math.min(b[0], p.uv()[i]);
      b[1] = Math.min(b[1], p.uv()[i + 1]);
      b[2] = Math.max(b[2], p.uv()[i]);
      b[3] = Math.max(b[3], p.uv()[i + 1]);
    }
    return Math.hypot(b[2] - b[0], b[3] - b[1]);
  }

  /** Lays what lies between two places of a loop along a line, by its lengths on the surface. */
  void lay(Piece p, int[] loop, int from, int to, double[] ends) {
    int n = loop.length;
    int count = (to - from + n) % n;
    count = count == 0 ? n : count;
    double all = 0;
    for (int i = 0; i < count; i++) {
      all += RimLoops.edge(p, loop[(from + i) % n]);
    }
    double so = 0;
    for (int i = 0; i <= count; i++) {
      int v = p.corners()[loop[(from + i) % n]];
      double s = i == count ? 1 : so / all;
      uv[2 * v] = ends[0] + s * (ends[2] - ends[0]);
      uv[2 * v + 1] = ends[1] + s * (ends[3] - ends[1]);
      held[v] = true;
      so += RimLoops.edge(p, loop[(from + i) % n]);
    }
  }
}
