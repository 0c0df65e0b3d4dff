package holotome.core.proxy;

import holotome.core.geometry.Vec;
import java.util.BitSet;

/**
 * A flat part of the Scan, in the coordinates of a {@link LocalScan}.
 *
 * @param normal unit, to the Scan's outside
 * @param middle the mean of its points, which its plane goes through
 * @param spread the covariance of the points, 3 x 3 by rows
 * @param area of the Scan that lies in it
 * @param within how far from the plane its points lie at most
 * @param triangles of the Scan that lie in it
 */
record FlatPart(
    double[] normal,
    double[] middle,
    double[] spread,
    double area,
    double within,
    BitSet triangles) {

  /** Root of the mean square distance of its points from a plane through its middle. */
  double rms(double[] direction) {
    double sum = 0;
    for (int i = 0; i < 3; i++) {
      for (int j = 0; j < 3; j++) {
        sum += direction[i] * spread[3 * i + j] * direction[j];
      }
    }
    return Math.sqrt(Math.max(0, sum));
  }

  /** How far a place lies over its plane. */
  double over(double[] place) {
    return Vec.dot(normal, Vec.sub(place, middle));
  }
}
