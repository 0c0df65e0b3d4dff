package holotome.core.contour;

import holotome.core.geometry.Box;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * Lattices one within the other, each with half the step of the one before, around a box. Level 0
 * is the coarsest, with some twenty to forty cells along the longest side. Nodes of a level are
 * numbered along each axis from 0; node i of one level is node 2 i of the next. Lengths within are
 * in steps of the finest level.
 *
 * @param x the first node's place, in base units
 * @param step between nodes of the finest level, in base units
 * @param finest the number of the finest level, 1 or more
 * @param across cells of the coarsest level along x
 * @param deep cells of the coarsest level along y
 * @param high cells of the coarsest level along z
 */
record NestedLattice(
    double x, double y, double z, double step, int finest, int across, int deep, int high) {
  /** Cells of the coarsest level along the longest side, at most. */
  private static final int COARSE = 40;

  /** Room on each side, as a share of the longest one. */
  private static final double ROOM = 0.15;

  /** Room on each side in steps of the finest level, at least. */
  private static final int LEAST_ROOM = 8;

  /** By how much of a step the lattice is shifted, so that plain bodies do not lie along it. */
  private static final double[] ODD = {0.3819, 0.2764, 0.4142};

  /** Nodes along an axis that bricks can be numbered for. */
  private static final double MOST = 1 << 22;

  static NestedLattice around(Box box, double step) {
    double[] size = {box.width(), box.depth(), box.height()};
    double longest = Math.max(size[0], Math.max(size[1], size[2]));
    double room = Math.max(ROOM * longest, LEAST_ROOM * step);
    double cells = (longest + 2 * room) / step;
    if (!(step > 0) || !(cells < MOST)) {
      throw Failure.cannot(CoreWords.of("lattice.detail-is-too-fine"));
    }
    int finest = 1;
    while (cells / (1 << finest) > COARSE) {
      finest++;
    }
    double coarse = step * (1 << finest);
    int[] n = new int[3];
    double[] low = new double[3];
    for (int k = 0; k < 3; k++) {
      n[k] = (int) Math.ceil((size[k] + 2 * room) / coarse);
      low[k] = box.min()[k] + (size[k] - n[k] * coarse) / 2 - ODD[k] * step;
    }
    return new NestedLattice(low[0], low[1], low[2], step, finest, n[0], n[1], n[2]);
  }

  /** The last node of a level along an axis. */
  int last(int level, int axis) {
    return (axis == 0 ? across : axis == 1 ? deep : high) << level;
  }

  /** The step of a level, in steps of the finest. */
  double stepOf(int level) {
    return 1 << finest - level;
  }

  double toX(double place) {
    return (place - x) / step;
  }

  double toY(double place) {
    return (place - y) / step;
  }

  double toZ(double place) {
    return (place - z) / step;
  }

  /** From a box within to the nearest side of the lattice, in base units. */
  double room(Box box) {
    double[] low = {x, y, z};
    double least = Double.POSITIVE_INFINITY;
    for (int k = 0; k < 3; k++) {
      double high = low[k] + step * last(finest, k);
      least = Math.min(least, Math.min(box.min()[k] - low[k], high - box.max()[k]));
    }
    return least;
  }

  /** The part of the finest level around a box, with room for so many cells on every side. */
  Lattice window(Box box, int room) {
    double[] at = {toX(box.min()[0]), toY(box.min()[1]), toZ(box.min()[2])};
    double[] size = {box.width(), box.depth(), box.height()};
    int[] low = new int[3];
    int[] n = new int[3];
    for (int k = 0; k < 3; k++) {
      low[k] = (int) Math.max(0, Math.floor(at[k]) - room);
      long high = (long) Math.ceil(at[k] + size[k] / step) + room;
      n[k] = (int) Math.min(last(finest, k), high) - low[k] + 1;
    }
    return Lattice.of(
        x + step * low[0], y + step * low[1], z + step * low[2], step, n[0], n[1], n[2]);
  }
}
