package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.touch.Course.Dab;

/**
 * All that lies within an outline, seen square on; where it is copied, the outline is around what
 * is copied and laid where that goes.
 *
 * @param outline corners in the frame of the dab, 2 doubles each
 * @param reach how far out of the middle the outline goes
 */
record AreaForm(
    Course course, double radius, double rim, double[] outline, double reach, int[] seeds)
    implements Form {

  /**
   * @param points the outline's, in base coordinates
   * @param frame the dab that they are seen from: where they are drawn
   * @param seeds triangles that the area lies on
   */
  static AreaForm of(
      Course course, double radius, double texel, double[] points, Dab frame, int[] seeds) {
    double[] flat = new double[2 * points.length / 3];
    double reach = 0;
    for (int i = 0; i < points.length / 3; i++) {
      double[] d =
          Vec.sub(new double[] {points[3 * i], points[3 * i + 1], points[3 * i + 2]}, frame.at());
      flat[2 * i] = Vec.dot(d, frame.ahead());
      flat[2 * i + 1] = Vec.dot(d, frame.beside());
      reach = Math.max(reach, Vec.length(d));
    }
    double rim = Math.max(RIM, 1 + RIM_TEXELS * texel / radius);
    return new AreaForm(course, radius, rim, flat, reach, seeds);
  }

  @Override
  public int pieces() {
    return course.size() == 0 ? 0 : 1;
  }

  @Override
  public int[] seeds(int piece) {
    return seeds;
  }

  private double ball() {
    return reach + (rim - 1) * radius;
  }

  @Override
  public double[] balls(int piece) {
    double[] at = course.dab(0).at();
    return new double[] {at[0], at[1], at[2], ball()};
  }

  @Override
  public boolean isNear(int piece, double x, double y, double z, double of) {
    double[] at = course.dab(0).at();
    double dx = x - at[0];
    double dy = y - at[1];
    double dz = z - at[2];
    double r = ball() + of;
    return dx * dx + dy * dy + dz * dz <= r * r;
  }

  @Override
  public double far(int piece, double x, double y, double z, double[] face, double[] found) {
    Dab dab = course.dab(0);
    if (Vec.dot(dab.normal(), face) < Course.AWAY) {
      return Double.POSITIVE_INFINITY;
    }
    double[] d = {x - dab.at()[0], y - dab.at()[1], z - dab.at()[2]};
    if (Vec.length(d) > ball()) {
      return Double.POSITIVE_INFINITY;
    }
    double u = Vec.dot(d, dab.ahead());
    double v = Vec.dot(d, dab.beside());
    boolean isWithin = false;
    double near = Double.POSITIVE_INFINITY;
    int n = outline.length / 2;
    for (int i = 0, j = n - 1; i < n; j = i++) {
      double ax = outline[2 * j];
      double ay = outline[2 * j + 1];
      double bx = outline[2 * i];
      double by = outline[2 * i + 1];
      if (ay > v != by > v && u < ax + (v - ay) / (by - ay) * (bx - ax)) {
        isWithin = !isWithin;
      }
      double l = (bx - ax) * (bx - ax) + (by - ay) * (by - ay);
      double t = l > 0 ? Math.clamp(((u - ax) * (bx - ax) + (v - ay) * (by - ay)) / l, 0, 1) : 0;
      near = Math.min(near, Math.hypot(ax + t * (bx - ax) - u, ay + t * (by - ay) - v));
    }
    found[0] = 0;
    found[1] = 0;
    double far = 1 + (isWithin ? -near : near) / radius;
    return far > rim ? Double.POSITIVE_INFINITY : Math.max(0, far);
  }
}
