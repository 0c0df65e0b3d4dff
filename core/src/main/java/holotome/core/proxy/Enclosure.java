package holotome.core.proxy;

import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Where the room ends that walls are looked at in: axes that most of the walls stand square to, and
 * planes across them where what was seen ends, to close sides that nobody saw.
 */
final class Enclosure {
  /** The room is so many times as large as the Scan: all that lies beyond is outside. */
  private static final double ROOM = 2;

  private final double[][] axes;
  private final double[] low = new double[3];
  private final double[] high = new double[3];
  private final LocalScan scan;
  private final List<Wall> walls;

  /**
   * @param upright working space's vertical, unit
   * @param angle in radians, by which walls may be off from square
   */
  Enclosure(LocalScan scan, List<Wall> walls, double[] upright, double angle) {
    this.scan = scan;
    this.walls = walls;
    axes = axes(walls, upright, Math.max(angle, Math.toRadians(1)));
    Arrays.fill(low, Double.POSITIVE_INFINITY);
    Arrays.fill(high, Double.NEGATIVE_INFINITY);
    double[] p = new double[9];
    for (Wall w : walls) {
      for (FlatPart part : w.parts()) {
        for (int t = part.triangles().nextSetBit(0);
            t >= 0;
            t = part.triangles().nextSetBit(t + 1)) {
          scan.corners(t, p);
          for (int k = 0; k < 3; k++) {
            for (int i = 0; i < 9; i += 3) {
              double along = p[i] * axes[k][0] + p[i + 1] * axes[k][1] + p[i + 2] * axes[k][2];
              low[k] = Math.min(low[k], along);
              high[k] = Math.max(high[k], along);
            }
          }
        }
      }
    }
  }

  /** Of the axes along walls those with the most area across them, an upright one if there is. */
  private static double[][] axes(List<Wall> walls, double[] upright, double angle) {
    List<double[]> candidates = new ArrayList<>();
    candidates.add(upright);
    walls.forEach(w -> candidates.add(w.normal()));
    double limit = Math.sin(angle);
    double[][] best = null;
    double most = -1;
    for (int i = 0; i < candidates.size(); i++) {
      for (int j = i + 1; j < candidates.size(); j++) {
        double[] a = candidates.get(j);
        double[] b = candidates.get(i);
        if (Math.abs(Vec.dot(a, b)) > limit) {
          continue;
        }
        double[] second = Vec.unit(Vec.sub(b, Vec.mul(a, Vec.dot(a, b))));
        double[][] own = {a, second, Vec.cross(a, second)};
        double area = 0;
        for (Wall w : walls) {
          for (double[] axis : own) {
            area += Math.abs(Vec.dot(axis, w.normal())) >= Math.cos(angle) ? w.area() : 0;
          }
        }
        // One that stands upright as the work does is worth any area.
        area += i == 0 ? 1e6 : 0;
        if (area > most) {
          most = area;
          best = own;
        }
      }
    }
    if (best != null) {
      return best;
    }
    double[] n = walls.get(0).normal();
    double[] u = Vec.perpendicular(n);
    return new double[][] {n, u, Vec.cross(n, u)};
  }

  /** The room, not parted yet. */
  Arrangement room() {
    double[] from = new double[3];
    double[] to = new double[3];
    for (int k = 0; k < 3; k++) {
      double middle = (low[k] + high[k]) / 2;
      from[k] = middle - ROOM / 2;
      to[k] = middle + ROOM / 2;
    }
    return new Arrangement(axes, from, to);
  }

  /** A plane on each side of what was seen where there is no wall. */
  List<Wall> closing() {
    List<Wall> out = new ArrayList<>();
    for (int k = 0; k < 3; k++) {
      add(out, Vec.mul(axes[k], -1), -low[k]);
      add(out, axes[k], high[k]);
    }
    return out;
  }

  private void add(List<Wall> out, double[] normal, double offset) {
    for (Wall w : walls) {
      double within = 3 * w.parts().get(0).within();
      double c = Vec.dot(w.normal(), normal);
      if (Math.abs(c) > 0.9998 && offset - Math.signum(c) * w.offset() < within) {
        return;
      }
    }
    out.add(new Wall(normal, offset, List.of()));
  }

  LocalScan scan() {
    return scan;
  }
}
