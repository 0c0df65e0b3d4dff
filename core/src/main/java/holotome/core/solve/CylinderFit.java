package holotome.core.solve;

import holotome.core.geometry.Vec;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * A cylinder through points by least squares of the distances (Lukács, Martin and Marshall,
 * "Faithful least-squares fitting of spheres, cylinders, cones and tori", 1998): {@link Levenberg}
 * from several first guesses of the axis, the best kept. O(n).
 *
 * @param point on the axis, nearest the points' mean
 * @param axis unit
 * @param rms root of the mean square distance of the points
 */
public record CylinderFit(double[] point, double[] axis, double radius, double rms) {

  /**
   * Fits a cylinder.
   *
   * @param points 3 doubles each, at least five
   * @param normals of the surface at the points, 3 doubles each, or null: with them a narrow strip
   *     is enough
   */
  public static CylinderFit of(double[] points, double[] normals) {
    if (points.length < 15) {
      throw Failure.cannot(CoreWords.of("cylinder-fit.a-cylinder-needs-at-least"));
    }
    Cloud cloud = Cloud.of(points);
    double[][] axes = guesses(cloud, normals);
    Tube best = null;
    double least = Double.POSITIVE_INFINITY;
    for (double[] axis : axes) {
      Tube guess = around(cloud.points(), axis);
      if (guess == null) {
        continue;
      }
      Tube t = Levenberg.fit(cloud.points(), guess, Kind.TUBE);
      double rms = Levenberg.rms(cloud.points(), t, Kind.TUBE);
      if (rms < least) {
        least = rms;
        best = t;
      }
    }
    // Of a flat patch any radius is as good as a larger one.
    if (best == null || best.r > 1e4) {
      throw Failure.cannot(CoreWords.of("cylinder-fit.the-points-do-not-bend"));
    }
    double along = Vec.dot(best.point, best.axis);
    double[] nearest = Vec.sub(best.point, Vec.mul(best.axis, along));
    return new CylinderFit(
        cloud.back(nearest), best.axis, best.r * cloud.size(), least * cloud.size());
  }

  private static double[][] guesses(Cloud cloud, double[] normals) {
    double[] c = cloud.covariance();
    double[] v = Dense.eigenvectors(c, 3);
    double[][] out = new double[normals == null ? 3 : 4][];
    for (int i = 0; i < 3; i++) {
      out[i] = Vec.of(v[i], v[3 + i], v[6 + i]);
    }
    if (normals != null) {
      // Normals of a cylinder stand across its axis.
      double[] n = new double[9];
      for (int i = 0; i < normals.length; i += 3) {
        for (int a = 0; a < 3; a++) {
          for (int b = 0; b < 3; b++) {
            n[3 * a + b] += normals[i + a] * normals[i + b];
          }
        }
      }
      out[3] = Dense.least(n, 3);
    }
    return out;
  }

  private static Tube around(double[] p, double[] axis) {
    double[] u = Vec.perpendicular(axis);
    double[] v = Vec.cross(axis, u);
    double[] a = new double[9];
    double[] b = new double[3];
    for (int i = 0; i < p.length; i += 3) {
      double[] q = {p[i], p[i + 1], p[i + 2]};
      double x = Vec.dot(q, u);
      double y = Vec.dot(q, v);
      double[] row = {2 * x, 2 * y, 1};
      for (int r = 0; r < 3; r++) {
        b[r] += row[r] * (x * x + y * y);
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
    double[] point = Vec.add(Vec.mul(u, x[0]), Vec.mul(v, x[1]));
    return r2 > 0 ? new Tube(point, axis, u, v, Math.sqrt(r2)) : null;
  }

  private record Tube(double[] point, double[] axis, double[] u, double[] v, double r) {}

  private enum Kind implements Levenberg.Shape<Tube> {
    TUBE;

    @Override
    public int unknowns() {
      return 5;
    }

    @Override
    public double distance(Tube t, double x, double y, double z, double[] slope) {
      double[] w = {x - t.point[0], y - t.point[1], z - t.point[2]};
      double along = Vec.dot(w, t.axis);
      double[] q = Vec.sub(w, Vec.mul(t.axis, along));
      double l = Vec.length(q);
      double k = l > 0 ? 1 / l : 0;
      double qu = Vec.dot(q, t.u) * k;
      double qv = Vec.dot(q, t.v) * k;
      slope[0] = -qu;
      slope[1] = -qv;
      slope[2] = -along * qu;
      slope[3] = -along * qv;
      slope[4] = -1;
      return l - t.r;
    }

    @Override
    public Tube changed(Tube t, double[] by) {
      double[] point = Vec.add(t.point, Vec.add(Vec.mul(t.u, by[0]), Vec.mul(t.v, by[1])));
      double[] axis = Vec.unit(Vec.add(t.axis, Vec.add(Vec.mul(t.u, by[2]), Vec.mul(t.v, by[3]))));
      double[] u = Vec.perpendicular(axis);
      return new Tube(point, axis, u, Vec.cross(axis, u), Math.abs(t.r + by[4]));
    }
  }
}
