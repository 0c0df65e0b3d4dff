package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.solve.TurnedAxis;
import java.util.Arrays;
import java.util.BitSet;

/**
 * The axis that a surface lies around.
 *
 * @param point on it
 * @param axis unit
 */
record TubeAxis(double[] point, double[] axis) {
  /**
   * By the normals of a sample of triangles.
   *
   * @param given its direction, unit; null where that is found too
   * @throws holotome.core.task.Failure where none can be told
   */
  static TubeAxis of(Ground ground, BitSet which, double[] given, int sample) {
    if (given == null) {
      TurnedAxis found = turned(ground, which, sample);
      return new TubeAxis(found.point(), found.axis());
    }
    double[][] of = sample(ground, which, sample);
    return new TubeAxis(passed(of[0], of[1], given), given);
  }

  /** The axis found, and how well. */
  static TurnedAxis turned(Ground ground, BitSet which, int sample) {
    double[][] of = sample(ground, which, sample);
    return TurnedAxis.of(of[0], of[1]);
  }

  /** Middles of triangles and their normals. */
  private static double[][] sample(Ground ground, BitSet which, int sample) {
    int every = Math.max(1, which.cardinality() / sample);
    double[] points = new double[3 * (which.cardinality() / every + 1)];
    double[] normals = new double[points.length];
    int n = 0;
    int i = 0;
    for (int t = which.nextSetBit(0); t >= 0; t = which.nextSetBit(t + 1)) {
      if (i++ % every == 0 && ground.area()[t] > 0) {
        for (int k = 0; k < 3; k++) {
          for (int c = 0; c < 3; c++) {
            points[n] += ground.mesh().xyz()[3 * ground.mesh().triangles()[3 * t + c] + k] / 3.0;
          }
          normals[n++] = ground.normal()[3 * t + k];
        }
      }
    }
    return new double[][] {Arrays.copyOf(points, n), Arrays.copyOf(normals, n)};
  }

  /** The point that the normals, seen along the axis, pass nearest; their middle where none is. */
  private static double[] passed(double[] points, double[] normals, double[] axis) {
    double[] x = Vec.perpendicular(axis);
    double[] y = Vec.cross(axis, x);
    double[] mean = new double[3];
    for (int i = 0; i < points.length; i++) {
      mean[i % 3] += points[i] * 3 / points.length;
    }
    double aa = 0;
    double ab = 0;
    double bb = 0;
    double ra = 0;
    double rb = 0;
    for (int i = 0; i < points.length; i += 3) {
      double[] n = {normals[i], normals[i + 1], normals[i + 2]};
      double[] d = {points[i] - mean[0], points[i + 1] - mean[1], points[i + 2] - mean[2]};
      // Square to the normal in the plane; it passes the point c where (c - d) . a = 0.
      double a = -Vec.dot(n, y);
      double b = Vec.dot(n, x);
      double r = a * Vec.dot(d, x) + b * Vec.dot(d, y);
      aa += a * a;
      ab += a * b;
      bb += b * b;
      ra += a * r;
      rb += b * r;
    }
    double det = aa * bb - ab * ab;
    if (!(det > 1e-9 * (aa + bb) * (aa + bb))) {
      return mean;
    }
    double u = (bb * ra - ab * rb) / det;
    double v = (aa * rb - ab * ra) / det;
    return Vec.add(mean, Vec.add(Vec.mul(x, u), Vec.mul(y, v)));
  }
}
