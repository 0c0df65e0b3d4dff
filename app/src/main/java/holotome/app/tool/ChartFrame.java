package holotome.app.tool;

/**
 * The box around charts that are chosen, and what is taken hold of at it in the flat pane: a corner
 * scales, the ring above turns.
 *
 * @param low u, v
 * @param high u, v
 */
record ChartFrame(double[] low, double[] high) {
  /** How near a handle is taken, in pixels; how far above the box the ring stands. */
  private static final double NEAR = 8;

  private static final double ABOVE = 24;

  /** What is taken hold of. */
  enum Grip {
    NONE,
    CORNER,
    RING
  }

  /** Around the ends of edges, (u, v, 0) each; null for none. */
  static ChartFrame of(double[] ends) {
    if (ends.length == 0) {
      return null;
    }
    double[] low = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
    double[] high = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
    for (int i = 0; i < ends.length; i += 3) {
      for (int k = 0; k < 2; k++) {
        low[k] = Math.min(low[k], ends[i + k]);
        high[k] = Math.max(high[k], ends[i + k]);
      }
    }
    return new ChartFrame(low, high);
  }

  double[] middle() {
    return new double[] {(low[0] + high[0]) / 2, (low[1] + high[1]) / 2};
  }

  /** The corners and the ring in pixels: x, y in turn, the ring last. */
  double[] handles(FlatPort pane) {
    double[] a = pane.project(low[0], low[1]);
    double[] b = pane.project(high[0], high[1]);
    double top = Math.min(a[1], b[1]) - ABOVE;
    return new double[] {a[0], a[1], b[0], a[1], b[0], b[1], a[0], b[1], (a[0] + b[0]) / 2, top};
  }

  Grip grip(FlatPort pane, double x, double y) {
    double[] h = handles(pane);
    for (int i = 0; i < h.length; i += 2) {
      if (Math.hypot(x - h[i], y - h[i + 1]) <= NEAR) {
        return i == h.length - 2 ? Grip.RING : Grip.CORNER;
      }
    }
    return Grip.NONE;
  }

  /**
   * By how much more a box is to be moved so that a side or its middle comes to lie on one of some
   * lines, where one is near enough; 0 where none is.
   *
   * @param axis 0 for lines of one u, 1 for those of one v
   * @param by how far it is moved already
   * @param lines places of the lines
   * @param near how near is near enough
   */
  double snap(int axis, double by, double[] lines, double near) {
    double best = 0;
    double least = near;
    for (double line : lines) {
      for (double own : new double[] {low[axis], high[axis], middle()[axis]}) {
        double off = line - own - by;
        if (Math.abs(off) < least) {
          least = Math.abs(off);
          best = off;
        }
      }
    }
    return best;
  }
}
