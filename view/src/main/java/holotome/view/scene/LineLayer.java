package holotome.view.scene;

import holotome.core.geometry.Box;

/**
 * Straight lines in space, hidden by what lies in front of them.
 *
 * @param ends of each line its two ends in working space: 6 doubles a line
 * @param argb opaque
 * @param width in pixels
 * @param hidden how the part behind something is drawn
 */
public record LineLayer(double[] ends, int argb, float width, Hidden hidden) implements Layer {

  public LineLayer {
    if (ends.length % 6 != 0) {
      throw new IllegalArgumentException("six numbers a line are wanted, not " + ends.length);
    }
  }

  public int count() {
    return ends.length / 6;
  }

  @Override
  public Box bounds() {
    return DotLayer.around(ends);
  }
}
