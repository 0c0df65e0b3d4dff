package holotome.core.unwrap;

import java.util.List;

/**
 * The outer outline of a chart as a rectangle: its corners those that lie farthest out that way,
 * its sides as long as opposite ones are on the surface in the mean.
 */
final class RimRectangle {
  /** Lines of the outline that tell how it is turned: how far from it, beside its extent. */
  private static final double WITHIN = 0.05;

  /** Towards its corners, counter-clockwise. */
  private static final int[][] TOWARDS = {{-1, -1}, {1, -1}, {1, 1}, {-1, 1}};

  private RimRectangle() {}

  /** Null where outlines touch, or corners do not lie around the outline one after the other. */
  static Straight of(Piece lies) {
    List<int[]> loops = RimLoops.of(lies);
    if (loops == null || loops.isEmpty()) {
      return null;
    }
    int[] outer = outer(lies, loops);
    int[] lines = Straight.corners(lies, outer, WITHIN * Straight.extent(lies));
    Piece p = Straight.aligned(lies, List.of(outer), List.of(lines));
    int[] at = new int[4];
    for (int c = 0; c < 4; c++) {
      at[c] = farthest(p, outer, TOWARDS[c]);
    }
    int round = 0;
    double[] side = new double[4];
    for (int c = 0; c < 4; c++) {
      int to = at[(c + 1) % 4];
      if (to == at[c]) {
        return null;
      }
      round += (to - at[c] + outer.length) % outer.length;
      for (int i = at[c]; i != to; i = (i + 1) % outer.length) {
        side[c] += RimLoops.edge(p, outer[i]);
      }
    }
    if (round != outer.length) {
      return null;
    }
    double w = (side[0] + side[2]) / 4;
    double h = (side[1] + side[3]) / 4;
    double x = middle(p, outer, true);
    double y = middle(p, outer, false);
    Straight out = new Straight(new boolean[p.vertices()], p.uv(), p.uv().clone());
    for (int c = 0; c < 4; c++) {
      int[] a = TOWARDS[c];
      int[] b = TOWARDS[(c + 1) % 4];
      double[] ends = {x + a[0] * w, y + a[1] * h, x + b[0] * w, y + b[1] * h};
      out.lay(p, outer, at[c], at[(c + 1) % 4], ends);
    }
    return out;
  }

  private static int[] outer(Piece p, List<int[]> loops) {
    int[] best = loops.getFirst();
    double most = -1;
    for (int[] loop : loops) {
      double s = 0;
      for (int h : loop) {
        s += RimLoops.edge(p, h);
      }
      if (s > most) {
        most = s;
        best = loop;
      }
    }
    return best;
  }

  private static int farthest(Piece p, int[] loop, int[] towards) {
    int best = 0;
    double most = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < loop.length; i++) {
      double d = towards[0] * Straight.u(p, loop, i) + towards[1] * Straight.v(p, loop, i);
      if (d > most) {
        most = d;
        best = i;
      }
    }
    return best;
  }

  private static double middle(Piece p, int[] loop, boolean isU) {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < loop.length; i++) {
      double d = isU ? Straight.u(p, loop, i) : Straight.v(p, loop, i);
      low = Math.min(low, d);
      high = Math.max(high, d);
    }
    return (low + high) / 2;
  }
}
