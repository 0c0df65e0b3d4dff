package holotome.core.unwrap;

import holotome.core.mesh.UvSquares;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Charts that stay where they are while others are packed around them.
 *
 * @param charts in the texture's own units
 * @param scale length in the texture to one of the others' units, as these charts have it
 */
record Staying(List<Charts.Chart> charts, double scale) {
  static final Staying NONE = new Staying(List.of(), 0);

  /** So far out of the square is still within it, for roundings. */
  private static final double BEYOND = 1e-6;

  boolean isEmpty() {
    return charts.isEmpty();
  }

  /** The share of the square that they cover. */
  double area() {
    double s = 0;
    for (Charts.Chart c : charts) {
      s += Math.abs(c.area());
    }
    return s;
  }

  /** Those that lie in some of the squares of the texture, where they lie. */
  Staying in(PackSquares squares) {
    List<Charts.Chart> out = new ArrayList<>();
    for (Charts.Chart c : charts) {
      int at = square(c) - squares.first();
      if (at >= 0 && at < squares.count()) {
        out.add(c);
      }
    }
    return new Staying(List.copyOf(out), scale);
  }

  /**
   * The square that a chart lies in, from 0 in the common numbering.
   *
   * @throws Failure where it reaches over its border, or lies in none
   */
  private static int square(Charts.Chart chart) {
    double[] b = box(chart.rim());
    int column = (int) Math.floor((b[0] + b[2]) / 2);
    int row = (int) Math.floor((b[1] + b[3]) / 2);
    boolean isIn =
        b[0] >= column - BEYOND
            && b[1] >= row - BEYOND
            && b[2] <= column + 1 + BEYOND
            && b[3] <= row + 1 + BEYOND;
    if (!isIn || column < 0 || row < 0 || column >= UvSquares.IN_ROW) {
      throw Failure.cannot(CoreWords.of("packing.stays-outside"));
    }
    return column + UvSquares.IN_ROW * row;
  }

  /** Low x, low y, high x, high y. */
  private static double[] box(double[] rim) {
    double[] b = {1e300, 1e300, -1e300, -1e300};
    for (int k = 0; k < rim.length; k += 2) {
      b[0] = Math.min(b[0], rim[k]);
      b[1] = Math.min(b[1], rim[k + 1]);
      b[2] = Math.max(b[2], rim[k]);
      b[3] = Math.max(b[3], rim[k + 1]);
    }
    return b;
  }

  /** As pixels, and the places of their lowest corners. */
  record Shapes(List<PackShape> shapes, List<PackGrid.Spot> spots) {
    void take(PackGrid grid) {
      for (int i = 0; i < shapes.size(); i++) {
        grid.take(shapes.get(i), spots.get(i));
      }
    }
  }

  /**
   * Their pixels in the picture of a square, for those that lie in one.
   *
   * @param cell pixels along a side of a cell
   */
  Shapes shapes(int size, int cell) {
    PackShape[] shapes = new PackShape[charts.size()];
    PackGrid.Spot[] spots = new PackGrid.Spot[shapes.length];
    for (int i = 0; i < shapes.length; i++) {
      double[] rim = charts.get(i).rim();
      int square = square(charts.get(i));
      for (int k = 0; k < rim.length; k += 2) {
        rim[k] -= square % UvSquares.IN_ROW;
        rim[k + 1] -= square / UvSquares.IN_ROW;
      }
      double[] b = box(rim);
      // From a whole pixel on, so that those touched are those of its own place.
      int x = (int) Math.floor(Math.max(0, b[0]) * size);
      int y = (int) Math.floor(Math.max(0, b[1]) * size);
      b[0] = (double) x / size;
      b[1] = (double) y / size;
      shapes[i] = PackShape.of(new double[][] {rim}, 0, b, size, cell, size + 2);
      spots[i] = new PackGrid.Spot(x, y, y);
    }
    return new Shapes(List.of(shapes), List.of(spots));
  }
}
