package holotome.core.cut;

import holotome.core.geometry.Vec;
import java.util.function.IntConsumer;

/**
 * A right prism over a regular polygon, as of a hole that is drilled: its sides, then its foot and
 * its top.
 */
public final class PrismKnife implements Knife {
  private final double[] foot;
  private final double[] up;
  private final double[][] out;
  private final double radius;
  private final double within;
  private final double length;

  /**
   * @param foot the middle of its foot
   * @param up towards its top, of length 1
   * @param length from foot to top
   * @param radius of the circle around its corners
   * @param sides how many sides it has
   */
  public PrismKnife(double[] foot, double[] up, double length, double radius, int sides) {
    this.foot = foot.clone();
    this.up = up.clone();
    this.length = length;
    this.radius = radius;
    within = radius * Math.cos(Math.PI / sides);
    double[] u = Vec.perpendicular(up);
    double[] v = Vec.cross(up, u);
    out = new double[sides][];
    for (int i = 0; i < sides; i++) {
      double a = 2 * Math.PI * i / sides;
      out[i] = Vec.add(Vec.mul(u, Math.cos(a)), Vec.mul(v, Math.sin(a)));
    }
  }

  @Override
  public int facets() {
    return out.length + 2;
  }

  private static double along(double[] n, double[] from, double x, double y, double z) {
    return (x - from[0]) * n[0] + (y - from[1]) * n[1] + (z - from[2]) * n[2];
  }

  @Override
  public double side(int facet, double x, double y, double z) {
    if (facet < out.length) {
      return along(out[facet], foot, x, y, z) - within;
    }
    double h = along(up, foot, x, y, z);
    return facet == out.length ? -h : h - length;
  }

  @Override
  public boolean meets(int facet, double[] t) {
    return isNear(t) && straddles(facet, t);
  }

  private boolean straddles(int facet, double[] t) {
    double a = side(facet, t[0], t[1], t[2]);
    double b = side(facet, t[3], t[4], t[5]);
    double c = side(facet, t[6], t[7], t[8]);
    return Math.min(a, Math.min(b, c)) <= 0 && Math.max(a, Math.max(b, c)) >= 0;
  }

  /**
   * Whether a triangle's box reaches into the ball around the prism, and no side has it outside.
   */
  private boolean isNear(double[] t) {
    double reach = Math.hypot(radius, length / 2);
    double away = 0;
    for (int k = 0; k < 3; k++) {
      double middle = foot[k] + up[k] * length / 2;
      double low = Math.min(t[k], Math.min(t[3 + k], t[6 + k]));
      double high = Math.max(t[k], Math.max(t[3 + k], t[6 + k]));
      double d = Math.max(0, Math.max(low - middle, middle - high));
      away += d * d;
    }
    if (away > reach * reach) {
      return false;
    }
    for (int f = 0; f < facets(); f++) {
      if (side(f, t[0], t[1], t[2]) > 0
          && side(f, t[3], t[4], t[5]) > 0
          && side(f, t[6], t[7], t[8]) > 0) {
        return false;
      }
    }
    return true;
  }

  @Override
  public void facetsOf(double[] nine, IntConsumer each) {
    if (!isNear(nine)) {
      return;
    }
    for (int f = 0; f < facets(); f++) {
      if (straddles(f, nine)) {
        each.accept(f);
      }
    }
  }

  @Override
  public boolean contains(double x, double y, double z) {
    for (int facet = 0; facet < facets(); facet++) {
      if (side(facet, x, y, z) > 0) {
        return false;
      }
    }
    return true;
  }
}
