package holotome.core.geometry;

import java.math.BigDecimal;

/**
 * On which side of a plane or a line a point lies, told exactly for the floats as they are given.
 *
 * <p>A filter in double precision answers nearly always; what it cannot tell is computed exactly:
 * by expansions (Shewchuk, "Adaptive precision floating-point arithmetic and fast robust geometric
 * predicates", 1997) where the differences of coordinates are exact in doubles, else in decimal
 * numbers of any length. About 10 ns a call, 1 µs where it is close, 10 µs in the last case. Not a
 * number or infinite coordinates are not allowed.
 */
public final class Predicates {
  private static final double EPSILON = 0x1p-53;
  private static final double VOLUME_BOUND = (7 + 56 * EPSILON) * EPSILON;
  private static final double AREA_BOUND = (3 + 16 * EPSILON) * EPSILON;

  private Predicates() {}

  /**
   * The sign of the volume of a tetrahedron: 1 where vertex d lies below the plane through a, b, c
   * (a, b, c run against the clock seen from above), -1 where above, 0 where in it.
   *
   * @param p 3 floats a vertex
   */
  public static int side(float[] p, int a, int b, int c, int d) {
    int i = 3 * a;
    int j = 3 * b;
    int k = 3 * c;
    int l = 3 * d;
    double ax = (double) p[i] - p[l];
    double ay = (double) p[i + 1] - p[l + 1];
    double az = (double) p[i + 2] - p[l + 2];
    double bx = (double) p[j] - p[l];
    double by = (double) p[j + 1] - p[l + 1];
    double bz = (double) p[j + 2] - p[l + 2];
    double cx = (double) p[k] - p[l];
    double cy = (double) p[k + 1] - p[l + 1];
    double cz = (double) p[k + 2] - p[l + 2];
    double bycz = by * cz;
    double bzcy = bz * cy;
    double bzcx = bz * cx;
    double bxcz = bx * cz;
    double bxcy = bx * cy;
    double bycx = by * cx;
    double det = ax * (bycz - bzcy) + ay * (bzcx - bxcz) + az * (bxcy - bycx);
    double most =
        Math.abs(ax) * (Math.abs(bycz) + Math.abs(bzcy))
            + Math.abs(ay) * (Math.abs(bzcx) + Math.abs(bxcz))
            + Math.abs(az) * (Math.abs(bxcy) + Math.abs(bycx));
    // Differences that are themselves rounded are within the bound of three more roundings.
    if (Math.abs(det) > 2 * VOLUME_BOUND * most) {
      return det > 0 ? 1 : -1;
    }
    if (most == 0) {
      // Products of differences of floats are too large to vanish unless a factor is nought.
      return 0;
    }
    if (exact(p, i, l) && exact(p, j, l) && exact(p, k, l)) {
      double[] sum = new double[26];
      int n = 0;
      n = product(ax, by, cz, sum, n);
      n = product(-ax, bz, cy, sum, n);
      n = product(ay, bz, cx, sum, n);
      n = product(-ay, bx, cz, sum, n);
      n = product(az, bx, cy, sum, n);
      n = product(-az, by, cx, sum, n);
      return n == 0 ? 0 : (int) Math.signum(sum[n - 1]);
    }
    return decimal(p, i, j, k, l);
  }

  /**
   * The sign of the area of a triangle seen along an axis: 1 where a, b, c run against the clock in
   * the plane of the two coordinates {@code x} and {@code y} (0, 1, 2), -1 with it, 0 on one line.
   */
  public static int turn(float[] p, int a, int b, int c, int x, int y) {
    double ax = (double) p[3 * a + x] - p[3 * c + x];
    double ay = (double) p[3 * a + y] - p[3 * c + y];
    double bx = (double) p[3 * b + x] - p[3 * c + x];
    double by = (double) p[3 * b + y] - p[3 * c + y];
    double left = ax * by;
    double right = ay * bx;
    double det = left - right;
    double most = Math.abs(left) + Math.abs(right);
    if (Math.abs(det) > 2 * AREA_BOUND * most) {
      return det > 0 ? 1 : -1;
    }
    if (exact(p[3 * a + x], p[3 * c + x])
        && exact(p[3 * a + y], p[3 * c + y])
        && exact(p[3 * b + x], p[3 * c + x])
        && exact(p[3 * b + y], p[3 * c + y])) {
      double leftRest = Math.fma(ax, by, -left);
      double rightRest = Math.fma(ay, bx, -right);
      if (det == 0) {
        return Double.compare(leftRest, rightRest);
      }
      if (Math.abs(det) > Math.abs(leftRest) + Math.abs(rightRest)) {
        return det > 0 ? 1 : -1;
      }
    }
    BigDecimal exact =
        difference(p[3 * a + x], p[3 * c + x])
            .multiply(difference(p[3 * b + y], p[3 * c + y]))
            .subtract(
                difference(p[3 * a + y], p[3 * c + y])
                    .multiply(difference(p[3 * b + x], p[3 * c + x])));
    return exact.signum();
  }

  /** Whether the three differences of two points are exact in doubles. */
  private static boolean exact(float[] p, int a, int d) {
    return exact(p[a], p[d]) && exact(p[a + 1], p[d + 1]) && exact(p[a + 2], p[d + 2]);
  }

  /** Whether the difference of two numbers is exact in doubles. */
  private static boolean exact(double x, double y) {
    double difference = x - y;
    double back = x - difference;
    return back == y && difference + back == x;
  }

  /** Adds x y z to an expansion of n parts, smallest first; returns how many parts it has then. */
  private static int product(double x, double y, double z, double[] sum, int n) {
    double xy = x * y;
    double rest = Math.fma(x, y, -xy);
    double a = rest * z;
    double b = Math.fma(rest, z, -a);
    double c = xy * z;
    double d = Math.fma(xy, z, -c);
    int m = n;
    m = grow(sum, m, b);
    m = grow(sum, m, a);
    m = grow(sum, m, d);
    return grow(sum, m, c);
  }

  /** Adds one number to an expansion, leaving out parts that are nought. */
  private static int grow(double[] e, int n, double b) {
    double q = b;
    int m = 0;
    for (int i = 0; i < n; i++) {
      double s = q + e[i];
      double v = s - q;
      double rest = (q - (s - v)) + (e[i] - v);
      if (rest != 0) {
        e[m++] = rest;
      }
      q = s;
    }
    if (q != 0) {
      e[m++] = q;
    }
    return m;
  }

  private static int decimal(float[] p, int i, int j, int k, int l) {
    BigDecimal[] a = differences(p, i, l);
    BigDecimal[] b = differences(p, j, l);
    BigDecimal[] c = differences(p, k, l);
    return a[0].multiply(b[1].multiply(c[2]).subtract(b[2].multiply(c[1])))
        .add(a[1].multiply(b[2].multiply(c[0]).subtract(b[0].multiply(c[2]))))
        .add(a[2].multiply(b[0].multiply(c[1]).subtract(b[1].multiply(c[0]))))
        .signum();
  }

  private static BigDecimal[] differences(float[] p, int a, int d) {
    BigDecimal[] out = new BigDecimal[3];
    for (int k = 0; k < 3; k++) {
      out[k] = difference(p[a + k], p[d + k]);
    }
    return out;
  }

  private static BigDecimal difference(float x, float y) {
    return new BigDecimal(x).subtract(new BigDecimal(y));
  }
}
