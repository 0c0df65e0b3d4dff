package holotome.view.scene;

import holotome.core.geometry.Box;

/**
 * Marks at points in space, hidden by what lies in front of them; kinds are told apart by form.
 *
 * @param xyz in working space, 3 doubles a mark
 * @param argb opaque; a rim of paper goes around it, so that it is seen on any ground
 * @param size the width of a mark in pixels
 * @param hidden how marks behind something are drawn
 */
public record DotLayer(double[] xyz, Form form, int argb, float size, Hidden hidden)
    implements Layer {

  public DotLayer {
    if (xyz.length % 3 != 0) {
      throw new IllegalArgumentException("three numbers a mark are wanted, not " + xyz.length);
    }
  }

  /** The outline of a mark. */
  public enum Form {
    DISC,
    RING,
    SQUARE,
    DIAMOND,
    TRIANGLE,
    CROSS,
    BAR
  }

  public int count() {
    return xyz.length / 3;
  }

  @Override
  public Box bounds() {
    return around(xyz);
  }

  /** What holds points, 3 doubles each. */
  static Box around(double[] xyz) {
    double[] low = {Double.MAX_VALUE, Double.MAX_VALUE, Double.MAX_VALUE};
    double[] high = {-Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
    for (int i = 0; i < xyz.length; i++) {
      // What is not a number is neither less nor more: it counts for nothing.
      if (xyz[i] < low[i % 3]) {
        low[i % 3] = xyz[i];
      }
      if (xyz[i] > high[i % 3]) {
        high[i % 3] = xyz[i];
      }
    }
    return low[0] > high[0] || low[1] > high[1] || low[2] > high[2]
        ? Box.EMPTY
        : new Box(low[0], low[1], low[2], high[0], high[1], high[2]);
  }
}
