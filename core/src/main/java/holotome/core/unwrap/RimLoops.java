package holotome.core.unwrap;

import holotome.core.topology.Adjacency;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** The outlines of a chart, loop by loop. */
final class RimLoops {
  private RimLoops() {}

  /** The outline's half-edges, loop by loop in their order; null where loops touch in a vertex. */
  static List<int[]> of(Piece p) {
    int[] outline = ChartOutline.of(p.corners());
    int[] from = new int[p.vertices()];
    Arrays.fill(from, -1);
    for (int h : outline) {
      if (from[p.corners()[h]] >= 0) {
        return null;
      }
      from[p.corners()[h]] = h;
    }
    List<int[]> out = new ArrayList<>();
    for (int h : outline) {
      if (from[p.corners()[h]] < 0) {
        continue;
      }
      int[] loop = new int[16];
      int n = 0;
      for (int g = h; g >= 0 && from[p.corners()[g]] >= 0; ) {
        from[p.corners()[g]] = -1;
        loop = n == loop.length ? Arrays.copyOf(loop, 2 * n) : loop;
        loop[n++] = g;
        g = from[p.corners()[Adjacency.next(g)]];
      }
      out.add(Arrays.copyOf(loop, n));
    }
    return out;
  }

  /** The length of a half-edge on the surface. */
  static double edge(Piece p, int h) {
    double l = p.rest()[h / 3 * 3];
    double x = p.rest()[h / 3 * 3 + 1];
    double y = p.rest()[h / 3 * 3 + 2];
    return switch (h % 3) {
      case 0 -> l;
      case 1 -> Math.hypot(x - l, y);
      default -> Math.hypot(x, y);
    };
  }
}
