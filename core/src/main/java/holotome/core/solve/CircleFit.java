package holotome.core.solve;

import holotome.core.geometry.Vec;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * A circle through points in space: in the plane that fits them best, by least squares of the
 * distances (Gander, Golub and Strebel, "Least-squares fitting of circles and ellipses", 1994),
 * after a linear first guess. O(n).
 *
 * @param normal unit, of the circle's plane
 * @param rms root of the mean square distance within the plane
 * @param flatness root of the mean square distance from the plane
 */
public record CircleFit(
    double[] centre, double[] normal, double radius, double rms, double flatness) {

  /**
   * Fits a circle.
   *
   * @param points 3 doubles each, at least three, not in one line
   */
  public static CircleFit of(double[] points) {
    if (points.length < 9) {
      throw Failure.cannot(CoreWords.of("circle-fit.a-circle-needs-at-least"));
    }
    Cloud cloud = Cloud.of(points);
    double[] n = Dense.least(cloud.covariance(), 3);
    double[] u = Vec.perpendicular(n);
    double[] v = Vec.cross(n, u);
    double[] p = cloud.points();
    double[] flat = new double[p.length];
    double off = 0;
    for (int i = 0; i < p.length; i += 3) {
      double[] q = {p[i], p[i + 1], p[i + 2]};
      flat[i] = Vec.dot(q, u);
      flat[i + 1] = Vec.dot(q, v);
      double d = Vec.dot(q, n);
      off += d * d;
    }
    Ring guess = guess(flat);
    if (guess == null) {
      throw Failure.cannot(CoreWords.of("circle-fit.the-points-lie-in-a"));
    }
    Ring r = Levenberg.fit(flat, guess, Kind.RING);
    double[] c = Vec.add(Vec.mul(u, r.x), Vec.mul(v, r.y));
    return new CircleFit(
        cloud.back(c),
        n,
        r.r * cloud.size(),
        Levenberg.rms(flat, r, Kind.RING) * cloud.size(),
        Math.sqrt(off / (p.length / 3)) * cloud.size());
  }

  private record Ring(double x, double y, double r) {}

  private enum Kind implements Levenberg.Shape<Ring> {
    RING;

    @Override
    public int unknowns() {
      return 3;
    }

    @Override
    public double distance(Ring c, double x, double y, double z, double[] slope) {
      double dx = x - c.x;
      double dy = y - c.y;
      double l = Math.hypot(dx, dy);
      double k = l > 0 ? 1 / l : 0;
      slope[0] = -dx * k;
      slope[1] = -dy * k;
      slope[2] = -1;
      return l - c.r;
    }

    @Override
    public Ring changed(Ring c, double[] by) {
      return new Ring(c.x + by[0], c.y + by[1], Math.abs(c.r + by[2]));
    }
  }

  private static Ring guess(double[] p) {
    double[] a = new double[9];
    double[] b = new double[3];
    for (int i = 0; i < p.length; i += 3) {
      double[] row = {2 * p[i], 2 * p[i + 1], 1};
      double square = p[i] * p[i] + p[i + 1] * p[i + 1];
      for (int r = 0; r < 3; r++) {
        b[r] += row[r] * square;
        for (int c = 0; c < 3; c++) {
          a[3 * r + c] += row[r] * row[c];
        }
      }
    }
    double[] x = Dense.solve(a, b);
    if (x == null) {
      return null;
    }
    double r2 = x[2] + x[0] * x[0] + x[1] * x[1];
    return r2 > 0 ? new Ring(x[0], x[1], Math.sqrt(r2)) : null;
  }
}
