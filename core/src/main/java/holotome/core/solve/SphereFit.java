package holotome.core.solve;

import holotome.core.geometry.Vec;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * A sphere through points by least squares of the distances: a first guess by the linear equation
 * of the sphere (Coope, "Circle fitting by linear and nonlinear least squares", 1993), then {@link
 * Levenberg}. O(n).
 *
 * @param rms root of the mean square distance of the points
 */
public record SphereFit(double[] centre, double radius, double rms) {

  /**
   * Fits a sphere.
   *
   * @param points 3 doubles each, at least four, not in one plane
   */
  public static SphereFit of(double[] points) {
    if (points.length < 12) {
      throw Failure.cannot(CoreWords.of("sphere-fit.a-sphere-needs-at-least"));
    }
    Cloud cloud = Cloud.of(points);
    Ball guess = guess(cloud.points());
    if (guess == null) {
      throw Failure.cannot(CoreWords.of("sphere-fit.the-points-lie-in-a"));
    }
    Ball b = Levenberg.fit(cloud.points(), guess, Kind.BALL);
    return new SphereFit(
        cloud.back(Vec.of(b.x, b.y, b.z)),
        b.r * cloud.size(),
        Levenberg.rms(cloud.points(), b, Kind.BALL) * cloud.size());
  }

  private record Ball(double x, double y, double z, double r) {}

  private enum Kind implements Levenberg.Shape<Ball> {
    BALL;

    @Override
    public int unknowns() {
      return 4;
    }

    @Override
    public double distance(Ball b, double x, double y, double z, double[] slope) {
      double dx = x - b.x;
      double dy = y - b.y;
      double dz = z - b.z;
      double l = Math.sqrt(dx * dx + dy * dy + dz * dz);
      double k = l > 0 ? 1 / l : 0;
      slope[0] = -dx * k;
      slope[1] = -dy * k;
      slope[2] = -dz * k;
      slope[3] = -1;
      return l - b.r;
    }

    @Override
    public Ball changed(Ball b, double[] by) {
      return new Ball(b.x + by[0], b.y + by[1], b.z + by[2], Math.abs(b.r + by[3]));
    }
  }

  /** By 2 c · p + k = p²: linear in the centre c and k = r² - c². */
  private static Ball guess(double[] p) {
    double[] a = new double[16];
    double[] b = new double[4];
    for (int i = 0; i < p.length; i += 3) {
      double[] row = {2 * p[i], 2 * p[i + 1], 2 * p[i + 2], 1};
      double square = p[i] * p[i] + p[i + 1] * p[i + 1] + p[i + 2] * p[i + 2];
      for (int r = 0; r < 4; r++) {
        b[r] += row[r] * square;
        for (int c = 0; c < 4; c++) {
          a[4 * r + c] += row[r] * row[c];
        }
      }
    }
    double[] x = Dense.solve(a, b);
    if (x == null) {
      return null;
    }
    double r2 = x[3] + x[0] * x[0] + x[1] * x[1] + x[2] * x[2];
    return r2 > 0 ? new Ball(x[0], x[1], x[2], Math.sqrt(r2)) : null;
  }
}
