package holotome.core.unwrap;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
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

  /** As pixels, and the places of their lowest corners. */
  record Shapes(List<PackShape> shapes, List<PackGrid.Spot> spots) {
    void take(PackGrid grid) {
      for (int i = 0; i < shapes.size(); i++) {
        grid.take(shapes.get(i), spots.get(i));
      }
    }
  }

  /**
   * Their pixels in a picture.
   *
   * @param cell pixels along a side of a cell
   * @throws Failure where one reaches out of the square
   */
  Shapes shapes(int size, int cell) {
    PackShape[] shapes = new PackShape[charts.size()];
    PackGrid.Spot[] spots = new PackGrid.Spot[shapes.length];
    for (int i = 0; i < shapes.length; i++) {
      double[] rim = charts.get(i).rim();
      double[] b = {1e300, 1e300, -1e300, -1e300};
      for (int k = 0; k < rim.length; k += 2) {
        b[0] = Math.min(b[0], rim[k]);
        b[1] = Math.min(b[1], rim[k + 1]);
        b[2] = Math.max(b[2], rim[k]);
        b[3] = Math.max(b[3], rim[k + 1]);
      }
      if (b[0] < -BEYOND || b[1] < -BEYOND || b[2] > 1 + BEYOND || b[3] > 1 + BEYOND) {
        throw Failure.cannot(CoreWords.of("packing.stays-outside"));
      }
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
