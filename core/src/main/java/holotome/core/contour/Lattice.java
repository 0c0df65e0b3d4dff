package holotome.core.contour;

import holotome.core.geometry.Box;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * A lattice of points with equal steps: numbers points, the edges to the next point along each
 * axis, and the cells, each by its lowest corner.
 *
 * @param x the first point's place
 * @param step between points, in base units
 * @param across points along x
 * @param deep points along y
 * @param high points along z
 */
public record Lattice(double x, double y, double z, double step, int across, int deep, int high) {
  /** Points that can be numbered: edges take two bits more. */
  private static final long MOST = 1L << 33;

  /**
   * A lattice around a box, with room for a few cells more on every side. It is shifted by an odd
   * part of a step, so that its lines do not lie along the edges of plain bodies.
   */
  public static Lattice around(Box box, double step, int room) {
    double[] size = {box.width(), box.depth(), box.height()};
    double[] min = box.min();
    long[] n = new long[3];
    for (int k = 0; k < 3; k++) {
      n[k] = (long) Math.ceil(size[k] / step) + 2L * room + 2;
    }
    return of(
        min[0] - step * (room + 0.3819),
        min[1] - step * (room + 0.2764),
        min[2] - step * (room + 0.4142),
        step,
        n[0],
        n[1],
        n[2]);
  }

  /** A lattice with its first point at a place; says so where there are too many points. */
  static Lattice of(double x, double y, double z, double step, long across, long deep, long high) {
    if (!(step > 0) || across > MOST || deep > MOST || (double) across * deep * high > MOST) {
      throw Failure.cannot(CoreWords.of("lattice.detail-is-too-fine"));
    }
    return new Lattice(x, y, z, step, (int) across, (int) deep, (int) high);
  }

  long point(int i, int j, int k) {
    return ((long) k * deep + j) * across + i;
  }

  /** The step in a point's number along an axis. */
  long stride(int axis) {
    return axis == 0 ? 1 : axis == 1 ? across : (long) across * deep;
  }

  int i(long point) {
    return (int) (point % across);
  }

  int j(long point) {
    return (int) (point / across % deep);
  }

  int k(long point) {
    return (int) (point / ((long) across * deep));
  }

  double placeX(long point) {
    return x + step * i(point);
  }

  double placeY(long point) {
    return y + step * j(point);
  }

  double placeZ(long point) {
    return z + step * k(point);
  }

  /** A place along an axis. */
  double place(long point, int axis) {
    return axis == 0 ? placeX(point) : axis == 1 ? placeY(point) : placeZ(point);
  }

  /** Whether a point is on the outermost layers, where there are no cells all round. */
  boolean isRim(long point) {
    int i = i(point);
    int j = j(point);
    int k = k(point);
    return i < 1 || j < 1 || k < 1 || i >= across - 2 || j >= deep - 2 || k >= high - 2;
  }

  static long edge(long point, int axis) {
    return point << 2 | axis;
  }
}
