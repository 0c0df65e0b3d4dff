package holotome.core.solve;

import holotome.core.geometry.Vec;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * The axis of a turned body: the line that the surface's normals all meet, by least squares in line
 * coordinates (Pottmann and Randrup, "Rotational and helical surface approximation for reverse
 * engineering", Computing 60, 1998), weighted anew a few times so that what is not turned (a
 * handle, a chip) counts little. O(n).
 *
 * @param point on the axis, nearest the points' mean
 * @param axis unit
 * @param off the median of how far normals pass from the axis, as a sine: 0 for a perfect body
 */
public record TurnedAxis(double[] point, double[] axis, double off) {
  private static final int ROUNDS = 12;

  /**
   * Finds the axis.
   *
   * @param points 3 doubles each
   * @param normals unit, 3 doubles each
   */
  public static TurnedAxis of(double[] points, double[] normals) {
    int n = points.length / 3;
    if (n < 6) {
      throw Failure.cannot(CoreWords.of("turned-axis.a-turned-body-needs-more"));
    }
    Cloud cloud = Cloud.of(points);
    double[] p = cloud.points();
    double[] weight = new double[n];
    Arrays.fill(weight, 1);
    double[] best = null;
    double off = 1;
    for (int round = 0; round < ROUNDS; round++) {
      double[] line = line(p, normals, weight);
      if (line == null) {
        break;
      }
      double[] away = misses(p, normals, line);
      double[] sorted = away.clone();
      Arrays.sort(sorted);
      off = sorted[n / 2];
      best = line;
      // Tukey's weights: what misses by more than some deviations counts nothing.
      double reach = Math.max(6 * off, 1e-9);
      for (int i = 0; i < n; i++) {
        double x = away[i] / reach;
        weight[i] = x < 1 ? (1 - x * x) * (1 - x * x) : 0;
      }
    }
    if (best == null) {
      throw Failure.cannot(CoreWords.of("turned-axis.no-axis-can-be-told"));
    }
    double[] axis = Vec.of(best[0], best[1], best[2]);
    double[] point = Vec.cross(axis, Vec.of(best[3], best[4], best[5]));
    return new TurnedAxis(cloud.back(point), axis, off);
  }

  /**
   * The line (direction, moment) for which the sum of squared moments of the normals about it is
   * least, with a direction of unit length: the moment is eliminated, the direction is the least
   * eigenvector of what is left.
   */
  private static double[] line(double[] p, double[] n, double[] weight) {
    double[] a = new double[9];
    double[] b = new double[9];
    double[] c = new double[9];
    for (int i = 0; i < p.length; i += 3) {
      double w = weight[i / 3];
      double[] g = {n[i], n[i + 1], n[i + 2]};
      double[] h = Vec.cross(Vec.of(p[i], p[i + 1], p[i + 2]), g);
      for (int r = 0; r < 3; r++) {
        for (int k = 0; k < 3; k++) {
          a[3 * r + k] += w * h[r] * h[k];
          b[3 * r + k] += w * h[r] * g[k];
          c[3 * r + k] += w * g[r] * g[k];
        }
      }
    }
    double trace = c[0] + c[4] + c[8];
    for (int k = 0; k < 3; k++) {
      c[4 * k] += 1e-9 * trace;
    }
    // For a direction d the best moment is -C⁻¹ Bᵀ d, and d A d - d B C⁻¹ Bᵀ d remains.
    double[] s = a.clone();
    double[][] columns = new double[3][];
    for (int k = 0; k < 3; k++) {
      columns[k] = Dense.solve(c, Vec.of(b[3 * k], b[3 * k + 1], b[3 * k + 2]));
      if (columns[k] == null) {
        return null;
      }
    }
    for (int r = 0; r < 3; r++) {
      for (int k = 0; k < 3; k++) {
        for (int j = 0; j < 3; j++) {
          s[3 * r + k] -= b[3 * r + j] * columns[k][j];
        }
      }
    }
    for (int r = 0; r < 3; r++) {
      for (int k = 0; k < r; k++) {
        double mean = (s[3 * r + k] + s[3 * k + r]) / 2;
        s[3 * r + k] = mean;
        s[3 * k + r] = mean;
      }
    }
    double[] d = Dense.least(s, 3);
    double[] m = new double[3];
    for (int k = 0; k < 3; k++) {
      m = Vec.sub(m, Vec.mul(columns[k], d[k]));
    }
    // A line's moment stands across its direction; the rest would be the pitch of a screw.
    m = Vec.sub(m, Vec.mul(d, Vec.dot(m, d)));
    return new double[] {d[0], d[1], d[2], m[0], m[1], m[2]};
  }

  /** How far each normal passes from the line, against the point's distance from it, as a sine. */
  private static double[] misses(double[] p, double[] n, double[] line) {
    double[] d = {line[0], line[1], line[2]};
    double[] m = {line[3], line[4], line[5]};
    double[] at = Vec.cross(d, m);
    double[] out = new double[p.length / 3];
    for (int i = 0; i < p.length; i += 3) {
      double[] q = Vec.sub(Vec.of(p[i], p[i + 1], p[i + 2]), at);
      double[] across = Vec.sub(q, Vec.mul(d, Vec.dot(q, d)));
      double l = Vec.length(across);
      double[] round = Vec.cross(d, across);
      double s = Vec.dot(round, Vec.of(n[i], n[i + 1], n[i + 2]));
      out[i / 3] = l > 1e-12 ? Math.abs(s) / l : 0;
    }
    return out;
  }
}
