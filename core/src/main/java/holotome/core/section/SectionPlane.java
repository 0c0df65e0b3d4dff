package holotome.core.section;

import holotome.core.geometry.Vec;

/**
 * A plane of working space with its own two directions, so that curves in it can be drawn flat. The
 * flat origin is where the working origin falls on the plane.
 *
 * @param normal unit
 * @param offset how far the plane stands from the working origin along its normal
 * @param right unit, the flat x; with {@code up} and the normal right-handed
 * @param up unit, the flat y: upright where the plane is not level, else away from the viewer (Y)
 */
public record SectionPlane(double[] normal, double offset, double[] right, double[] up) {

  public static SectionPlane of(double[] point, double[] normal) {
    double[] n = Vec.unit(normal);
    double[] z = Math.abs(n[2]) > 0.999 ? Vec.of(0, n[2] > 0 ? 1 : -1, 0) : Vec.of(0, 0, 1);
    double[] up = Vec.unit(Vec.sub(z, Vec.mul(n, Vec.dot(z, n))));
    return new SectionPlane(n, Vec.dot(n, point), Vec.cross(up, n), up);
  }

  /** The same plane moved along its normal. */
  public SectionPlane at(double otherOffset) {
    return new SectionPlane(normal, otherOffset, right, up);
  }

  /** A flat point in working space. */
  public double[] inSpace(double x, double y) {
    return Vec.add(Vec.mul(normal, offset), Vec.add(Vec.mul(right, x), Vec.mul(up, y)));
  }
}
