package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.solve.PlaneFit;

/**
 * Three directions at right angles along which the sides of a region face: found from its normals,
 * then from the least-squares planes of its six sides, all at once: the rotation nearest to their
 * normals, by how well each is known (Procrustes; polar decomposition after Higham 1986).
 */
final class BoxAxes {
  private static final int ROUNDS = 8;

  /** Upright is left only for directions that so much more of it faces, as along a roof. */
  private static final double FREE = 1.5;

  /** A side that is rougher than this share of its size is none: a roof's two slopes are not. */
  private static final double BENT = 0.03;

  /** Directions that are tried as the leading one. */
  private static final int TRIED = 200;

  private final Region region;
  private double[][] axes;

  private BoxAxes(Region region) {
    this.region = region;
  }

  /** The directions by rows, right-handed, the third as near to upright as they come. */
  static double[][] of(Region region, double[] upright) {
    BoxAxes b = new BoxAxes(region);
    double[][] level = around(region, upright);
    double[][] free = around(region, leading(region));
    b.axes = score(region, free) > FREE * score(region, level) ? free : level;
    for (int i = 0; i < ROUNDS; i++) {
      b.refine();
    }
    return turned(b.axes, upright);
  }

  /** The direction that most of it faces, up to the sign. */
  private static double[] leading(Region region) {
    Region some = region.thinned(TRIED);
    double[] best = {0, 0, 1};
    double most = -1;
    for (int i = 0; i < some.count(); i++) {
      double sum = 0;
      for (int j = 0; j < some.count(); j++) {
        sum += Math.pow(Vec.dot(some.facing(i), some.facing(j)), 8);
      }
      if (sum > most) {
        most = sum;
        best = Vec.unit(some.facing(i));
      }
    }
    return best;
  }

  /** Axes about one of them, turned as what faces sideways has it: four times its angle. */
  private static double[][] around(Region region, double[] third) {
    double[] u = Vec.perpendicular(third);
    double[] v = Vec.cross(third, u);
    double cos = 0;
    double sin = 0;
    for (int i = 0; i < region.count(); i++) {
      double[] n = region.facing(i);
      if (Math.abs(Vec.dot(n, third)) < 0.5) {
        double angle = 4 * Math.atan2(Vec.dot(n, v), Vec.dot(n, u));
        cos += Math.cos(angle);
        sin += Math.sin(angle);
      }
    }
    double turn = Math.atan2(sin, cos) / 4;
    double[] first = Vec.add(Vec.mul(u, Math.cos(turn)), Vec.mul(v, Math.sin(turn)));
    return new double[][] {first, Vec.cross(third, first), third};
  }

  private static double score(Region region, double[][] axes) {
    double sum = 0;
    for (int i = 0; i < region.count(); i++) {
      double most = 0;
      for (double[] a : axes) {
        most = Math.max(most, Math.abs(Vec.dot(region.facing(i), a)));
      }
      sum += Math.pow(most, 8);
    }
    return sum;
  }

  private void refine() {
    double[] known = new double[3];
    double[][] sum = new double[3][3];
    for (int s = 0; s < 6; s++) {
      int k = s / 2;
      double[] outwards = s % 2 == 0 ? axes[k] : Vec.mul(axes[k], -1);
      Region.Side side = region.side(outwards);
      if (side.seen() == 0) {
        continue;
      }
      PlaneFit.Sum points = points(outwards, side);
      if (points.weight() < 6) {
        continue;
      }
      PlaneFit fit = points.fit();
      double[] n = fit.normal();
      double[] c = points.covariance();
      double spread = c[0] + c[4] + c[8];
      if (fit.rms() > BENT * Math.sqrt(spread)) {
        continue;
      }
      // A plane's direction is known the better the more of it was seen, the farther apart, and
      // the less it is rough.
      double w = points.weight() * spread / (fit.rms() * fit.rms() + 1e-12);
      known[k] += w;
      sum[k] = Vec.add(sum[k], Vec.mul(n, Vec.dot(n, axes[k]) < 0 ? -w : w));
    }
    double most = Math.max(known[0], Math.max(known[1], known[2]));
    if (!(most > 0)) {
      return;
    }
    for (int k = 0; k < 3; k++) {
      double[] d = known[k] > 0 ? Vec.unit(sum[k]) : axes[k];
      sum[k] = Vec.mul(d, Math.max(known[k] / most, 1e-3));
    }
    axes = rotation(sum);
  }

  private PlaneFit.Sum points(double[] outwards, Region.Side side) {
    PlaneFit.Sum points = new PlaneFit.Sum();
    double far = Math.max(3 * side.rms(), 1e-4);
    for (int i = 0; i < region.count(); i++) {
      double[] p = region.at(i);
      boolean isOf = Vec.dot(region.facing(i), outwards) > Region.OF_SIDE;
      if (isOf && Math.abs(Vec.dot(p, outwards) - side.at()) <= 3 * far) {
        points.add(p[0], p[1], p[2], 1);
      }
    }
    return points;
  }

  /** The rotation nearest to rows: half of it and of its inverse turned over, again and again. */
  private static double[][] rotation(double[][] rows) {
    double[][] m = rows;
    for (int i = 0; i < 60; i++) {
      double[][] c = {Vec.cross(m[1], m[2]), Vec.cross(m[2], m[0]), Vec.cross(m[0], m[1])};
      double det = Vec.dot(m[0], c[0]);
      double[][] next = new double[3][];
      double change = 0;
      for (int k = 0; k < 3; k++) {
        next[k] = Vec.mul(Vec.add(m[k], Vec.mul(c[k], 1 / det)), 0.5);
        change = Math.max(change, Vec.distance(next[k], m[k]));
      }
      m = next;
      if (change < 1e-14) {
        break;
      }
    }
    return m;
  }

  private static double[][] turned(double[][] axes, double[] upright) {
    int up = 0;
    for (int k = 1; k < 3; k++) {
      up = Math.abs(Vec.dot(axes[k], upright)) > Math.abs(Vec.dot(axes[up], upright)) ? k : up;
    }
    double[] third = Vec.dot(axes[up], upright) < 0 ? Vec.mul(axes[up], -1) : axes[up];
    double[] first = axes[(up + 1) % 3];
    return new double[][] {first, Vec.cross(third, first), third};
  }
}
