package holotome.core.trim;

import holotome.core.cut.Knife;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.select.Region;
import java.util.function.IntConsumer;

/** The six faces of a box; facet 2 k is where axis k begins, 2 k + 1 where it ends. */
final class BoxKnife implements Knife {
  private final double[] centre;
  private final double[][] axis = new double[3][];
  private final double[] half = new double[3];

  BoxKnife(Region region, Frame frame) {
    Similarity back = frame.toWork().inverse();
    centre = back.apply(region.centre());
    double[] axes = region.axes();
    for (int k = 0; k < 3; k++) {
      axis[k] =
          Vec.unit(back.direction(new double[] {axes[3 * k], axes[3 * k + 1], axes[3 * k + 2]}));
      half[k] = region.size()[k] * back.scale() / 2;
    }
  }

  /** The outward normal of a facet. */
  double[] normal(int facet) {
    return facet % 2 == 0 ? Vec.mul(axis[facet / 2], -1) : axis[facet / 2];
  }

  /** The middle of a facet. */
  double[] point(int facet) {
    return Vec.add(centre, Vec.mul(normal(facet), half[facet / 2]));
  }

  private double along(int k, double x, double y, double z) {
    double[] a = axis[k];
    return (x - centre[0]) * a[0] + (y - centre[1]) * a[1] + (z - centre[2]) * a[2];
  }

  @Override
  public int facets() {
    return 6;
  }

  @Override
  public double side(int facet, double x, double y, double z) {
    double d = along(facet / 2, x, y, z);
    return (facet % 2 == 0 ? -d : d) - half[facet / 2];
  }

  @Override
  public boolean meets(int facet, double[] t) {
    for (int k = 0; k < 3; k++) {
      double a = along(k, t[0], t[1], t[2]);
      double b = along(k, t[3], t[4], t[5]);
      double c = along(k, t[6], t[7], t[8]);
      double low = Math.min(a, Math.min(b, c));
      double high = Math.max(a, Math.max(b, c));
      if (low > half[k] || high < -half[k]) {
        return false;
      }
      if (k == facet / 2) {
        double at = facet % 2 == 0 ? -half[k] : half[k];
        if (low > at || high < at) {
          return false;
        }
      }
    }
    return true;
  }

  @Override
  public void facetsOf(double[] nine, IntConsumer each) {
    for (int f = 0; f < 6; f++) {
      if (meets(f, nine)) {
        each.accept(f);
      }
    }
  }

  @Override
  public boolean contains(double x, double y, double z) {
    return Math.abs(along(0, x, y, z)) <= half[0]
        && Math.abs(along(1, x, y, z)) <= half[1]
        && Math.abs(along(2, x, y, z)) <= half[2];
  }
}
