package holotome.core.touch;

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
    if (d > rim) {
      return Double.POSITIVE_INFINITY;
    }
    double[] n = first.normal();
    double[] m = second.normal();
    double facing = 0;
    for (int k = 0; k < 3; k++) {
      facing += ((1 - t) * n[k] + t * m[k]) * face[k];
    }
    if (facing < Course.AWAY) {
      return Double.POSITIVE_INFINITY;
    }
    double wx = b[0] - a[0];
    double wy = b[1] - a[1];
    double wz = b[2] - a[2];
    double leftX = n[1] * wz - n[2] * wy;
    double leftY = n[2] * wx - n[0] * wz;
    double leftZ = n[0] * wy - n[1] * wx;
    double l = Math.sqrt(leftX * leftX + leftY * leftY + leftZ * leftZ);
    double beside =
        (x - a[0] - t * wx) * leftX + (y - a[1] - t * wy) * leftY + (z - a[2] - t * wz) * leftZ;
    found[0] = course.lead() + piece + t;
    found[1] = l > 0 ? beside / (l * radius) : 0;
    return d;
  }
}
