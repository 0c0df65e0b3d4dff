package holotome.core.proxy;

import holotome.core.geometry.Vec;
import java.util.List;

/**
 * A plane that may bound the Proxy: all places whose product with its normal is its offset.
 *
 * @param normal unit, to the outside
 * @param parts the flat parts that lie in it; none where nothing was seen and it only closes
 */
record Wall(double[] normal, double offset, List<FlatPart> parts) {

  /** How far a place, by its three coordinates, lies over it. */
  double over(double a, double b, double c) {
    return a * normal[0] + b * normal[1] + c * normal[2] - offset;
  }

  boolean isSeen() {
    return !parts.isEmpty();
  }

  double area() {
    double sum = 0;
    for (FlatPart p : parts) {
      sum += p.area();
    }
    return sum;
  }

  /** Root of the mean square distance of what lies in it, by area. */
  double rms() {
    double sum = 0;
    double area = 0;
    for (FlatPart p : parts) {
      double off = Vec.dot(normal, p.middle()) - offset;
      double rms = p.rms(normal);
      sum += p.area() * (off * off + rms * rms);
      area += p.area();
    }
    return area > 0 ? Math.sqrt(sum / area) : 0;
  }
}
