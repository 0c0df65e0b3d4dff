package holotome.core.solve;

/**
 * Least squares of distances by the method of Levenberg (1944) and Marquardt (1963): Gauss-Newton
 * steps, damped where they would lead uphill. For shapes of a few unknowns through many points: O(n
 * u²) a step.
 */
final class Levenberg {
  private static final int MOST_STEPS = 100;

  private Levenberg() {}

  /** A shape that is fitted: how far points are from it, and how it takes a small change. */
  interface Shape<S> {
    /** How many numbers a change of the shape has. */
    int unknowns();

    /**
     * The signed distance of a point from a shape.
     *
     * @param slope is given how the distance grows with each unknown
     */
    double distance(S shape, double x, double y, double z, double[] slope);

    S changed(S shape, double[] by);
  }

  /** The shape with the least sum of squares near a first guess; {@code points} 3 doubles each. */
  static <S> S fit(double[] points, S guess, Shape<S> kind) {
    int u = kind.unknowns();
    S best = guess;
    double damping = 1e-3;
    double[] normal = new double[u * u];
    double[] right = new double[u];
    double sum = sums(points, best, kind, normal, right);
    for (int step = 0; step < MOST_STEPS && damping < 1e12; step++) {
      double[] damped = normal.clone();
      for (int i = 0; i < u; i++) {
        damped[i * u + i] += damping * Math.max(normal[i * u + i], 1e-30);
      }
      double[] by = Dense.solve(damped, right);
      if (by == null) {
        damping *= 10;
        continue;
      }
      S next = kind.changed(best, by);
      double[] n = new double[u * u];
      double[] r = new double[u];
      double s = sums(points, next, kind, n, r);
      if (!(s < sum)) {
        damping *= 10;
        continue;
      }
      boolean settled = sum - s <= 1e-15 * sum;
      best = next;
      sum = s;
      normal = n;
      right = r;
      damping = Math.max(damping / 10, 1e-12);
      if (settled) {
        break;
      }
    }
    return best;
  }

  private static <S> double sums(
      double[] points, S shape, Shape<S> kind, double[] normal, double[] right) {
    int u = right.length;
    double[] slope = new double[u];
    double sum = 0;
    for (int i = 0; i < points.length; i += 3) {
      double d = kind.distance(shape, points[i], points[i + 1], points[i + 2], slope);
      sum += d * d;
      for (int a = 0; a < u; a++) {
        right[a] -= slope[a] * d;
        for (int b = 0; b < u; b++) {
          normal[a * u + b] += slope[a] * slope[b];
        }
      }
    }
    return sum;
  }

  /** The root of the mean squared distance. */
  static <S> double rms(double[] points, S shape, Shape<S> kind) {
    double[] slope = new double[kind.unknowns()];
    double sum = 0;
    for (int i = 0; i < points.length; i += 3) {
      double d = kind.distance(shape, points[i], points[i + 1], points[i + 2], slope);
      sum += d * d;
    }
    return points.length == 0 ? 0 : Math.sqrt(sum / (points.length / 3));
  }
}
