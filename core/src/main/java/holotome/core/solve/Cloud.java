package holotome.core.solve;

import holotome.core.geometry.Vec;

/**
 * Points made ready for a fit: about their mean and of unit size, so that far-off or tiny
 * coordinates cost no digits.
 *
 * @param points 3 doubles each
 */
record Cloud(double[] points, double[] mean, double size) {

  static Cloud of(double[] points) {
    int n = points.length / 3;
    double[] mean = new double[3];
    for (int i = 0; i < points.length; i++) {
      mean[i % 3] += points[i] / n;
    }
    double sum = 0;
    for (int i = 0; i < points.length; i++) {
      double d = points[i] - mean[i % 3];
      sum += d * d;
    }
    double size = Math.sqrt(sum / Math.max(n, 1));
    double[] out = new double[points.length];
    for (int i = 0; i < points.length; i++) {
      out[i] = size > 0 ? (points[i] - mean[i % 3]) / size : 0;
    }
    return new Cloud(out, mean, size);
  }

  /** A place given in the cloud's own measure. */
  double[] back(double[] place) {
    return Vec.add(mean, Vec.mul(place, size));
  }

  /** The mean products of the coordinates, 3 x 3 by rows. */
  double[] covariance() {
    double[] c = new double[9];
    int n = points.length / 3;
    for (int i = 0; i < points.length; i += 3) {
      for (int a = 0; a < 3; a++) {
        for (int b = 0; b < 3; b++) {
          c[3 * a + b] += points[i + a] * points[i + b] / n;
        }
      }
    }
    return c;
  }
}
