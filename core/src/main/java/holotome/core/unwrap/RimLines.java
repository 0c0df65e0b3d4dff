package holotome.core.unwrap;

import holotome.core.array.DisjointSets;
import java.util.ArrayList;
import java.util.List;

/**
 * The outline of a chart as straight lines from corner to corner, those that are nearly level or
 * upright exactly so; all that are joined by level ones on one height.
 */
final class RimLines {
  private final Piece p;
  private final List<int[]> loops;
  private final List<int[]> corners;

  /** Of the first corner of each loop, the number among all. */
  private final int[] first;

  private final double[] x;
  private final double[] y;

  private RimLines(Piece p, List<int[]> loops, List<int[]> corners) {
    this.p = p;
    this.loops = loops;
    this.corners = corners;
    first = new int[loops.size() + 1];
    for (int l = 0; l < loops.size(); l++) {
      first[l + 1] = first[l] + corners.get(l).length;
    }
    x = new double[first[loops.size()]];
    y = new double[x.length];
    for (int l = 0; l < loops.size(); l++) {
      for (int i = 0; i < corners.get(l).length; i++) {
        x[first[l] + i] = Straight.u(p, loops.get(l), corners.get(l)[i]);
        y[first[l] + i] = Straight.v(p, loops.get(l), corners.get(l)[i]);
      }
    }
  }

  /**
   * Finds them.
   *
   * @param within how far the outline may lie from a line, beside the chart's extent
   * @param angle in degrees, of what counts as nearly level or upright
   * @return null where outlines touch
   */
  static Straight of(Piece lies, double within, double angle) {
    List<int[]> loops = RimLoops.of(lies);
    if (loops == null || loops.isEmpty()) {
      return null;
    }
    double most = within * Straight.extent(lies);
    List<int[]> corners = new ArrayList<>();
    for (int[] loop : loops) {
      corners.add(Straight.corners(lies, loop, most));
    }
    RimLines lines = new RimLines(Straight.aligned(lies, loops, corners), loops, corners);
    lines.level(angle);
    return lines.laid();
  }

  private void level(double angle) {
    double least = Math.sin(Math.toRadians(angle));
    DisjointSets sameX = new DisjointSets(x.length);
    DisjointSets sameY = new DisjointSets(x.length);
    double[] weight = new double[x.length];
    double[] weightY = new double[x.length];
    for (int l = 0; l < loops.size(); l++) {
      for (int i = first[l]; i < first[l + 1]; i++) {
        int j = i + 1 < first[l + 1] ? i + 1 : first[l];
        double length = Math.hypot(x[j] - x[i], y[j] - y[i]);
        if (Math.abs(y[j] - y[i]) <= least * length) {
          sameY.join(i, j);
          weightY[i] += length;
          weightY[j] += length;
        }
        if (Math.abs(x[j] - x[i]) <= least * length) {
          sameX.join(i, j);
          weight[i] += length;
          weight[j] += length;
        }
      }
    }
    meet(x, sameX.numbered(), weight);
    meet(y, sameY.numbered(), weightY);
  }

  /** Those of a set come to its mean; one by itself stays. */
  private static void meet(double[] at, int[] set, double[] weight) {
    double[] sum = new double[at.length];
    double[] all = new double[at.length];
    for (int i = 0; i < at.length; i++) {
      sum[set[i]] += weight[i] * at[i];
      all[set[i]] += weight[i];
    }
    for (int i = 0; i < at.length; i++) {
      at[i] = all[set[i]] > 0 ? sum[set[i]] / all[set[i]] : at[i];
    }
  }

  private Straight laid() {
    Straight out = new Straight(new boolean[p.vertices()], p.uv(), p.uv().clone());
    for (int l = 0; l < loops.size(); l++) {
      int[] at = corners.get(l);
      for (int i = 0; i < at.length; i++) {
        int j = (i + 1) % at.length;
        double[] ends = {x[first[l] + i], y[first[l] + i], x[first[l] + j], y[first[l] + j]};
        out.lay(p, loops.get(l), at[i], at[j], ends);
      }
    }
    return out;
  }
}
