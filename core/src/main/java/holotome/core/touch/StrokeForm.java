package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.touch.Course.Dab;

/** All that is within the radius of a brush's way; a piece is what lies between two dabs. */
record StrokeForm(Course course, double radius, double rim) implements Form {

  static StrokeForm of(Course course, double radius, double texel) {
    return new StrokeForm(course, radius, Math.max(RIM, 1 + RIM_TEXELS * texel / radius));
  }

  /** One less than there are dabs, but for a brush that only dabs once. */
  @Override
  public int pieces() {
    int n = course.size() - course.lead();
    return n < 2 ? n : n - 1;
  }

  private Dab first(int piece) {
    return course.dab(course.lead() + piece);
  }

  private Dab second(int piece) {
    return course.dab(Math.min(course.lead() + piece + 1, course.size() - 1));
  }

  @Override
  public int[] seeds(int piece) {
    return new int[] {first(piece).triangle(), second(piece).triangle()};
  }

  @Override
  public double[] balls(int piece) {
    double[] a = first(piece).at();
    double[] b = second(piece).at();
    double r = radius * rim;
    return new double[] {a[0], a[1], a[2], r, b[0], b[1], b[2], r};
  }

  /** The share of the way from the first to the second dab that is nearest to a place. */
  private double along(double[] a, double[] b, double x, double y, double z) {
    double dx = b[0] - a[0];
    double dy = b[1] - a[1];
    double dz = b[2] - a[2];
    double l = dx * dx + dy * dy + dz * dz;
    double t = (x - a[0]) * dx + (y - a[1]) * dy + (z - a[2]) * dz;
    return l > 0 ? Math.clamp(t / l, 0, 1) : 0;
  }

  private static double square(double[] a, double[] b, double t, double x, double y, double z) {
    double dx = a[0] + t * (b[0] - a[0]) - x;
    double dy = a[1] + t * (b[1] - a[1]) - y;
    double dz = a[2] + t * (b[2] - a[2]) - z;
    return dx * dx + dy * dy + dz * dz;
  }

  @Override
  public boolean isNear(int piece, double x, double y, double z, double reach) {
    double[] a = first(piece).at();
    double[] b = second(piece).at();
    double r = radius * rim + reach;
    return square(a, b, along(a, b, x, y, z), x, y, z) <= r * r;
  }

  @Override
  public double far(int piece, double x, double y, double z, double[] face, double[] found) {
    Dab first = first(piece);
    Dab second = second(piece);
    double[] a = first.at();
    double[] b = second.at();
    double t = along(a, b, x, y, z);
    double d = Math.sqrt(square(a, b, t, x, y, z)) / radius;
    double facing = (1 - t) * Vec.dot(first.normal(), face) + t * Vec.dot(second.normal(), face);
    if (d > rim || facing < Course.AWAY) {
      return Double.POSITIVE_INFINITY;
    }
    double[] way = Vec.sub(b, a);
    double[] left = Vec.cross(first.normal(), way);
    double l = Vec.length(left);
    double[] from = {x - a[0] - t * way[0], y - a[1] - t * way[1], z - a[2] - t * way[2]};
    found[0] = course.lead() + piece + t;
    found[1] = l > 0 ? Vec.dot(from, left) / (l * radius) : 0;
    return d;
  }
}
