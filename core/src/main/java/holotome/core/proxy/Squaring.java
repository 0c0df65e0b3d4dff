package holotome.core.proxy;

import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.List;

/**
 * Makes walls of flat parts: those that are parallel or square to each other but for a small angle
 * are made exactly so, the larger ones leading, and those that lie in one plane become one wall. A
 * wall goes through the mean of its points, which is where least squares put it for its direction.
 */
final class Squaring {
  /** Parts whose planes differ by less than this are one wall even if nothing is made square. */
  private static final double SAME = Math.cos(Math.toRadians(0.5));

  /** Turns by less than this, in radians, are rounding. */
  private static final double SEEN = 1e-6;

  private final double angle;

  /** A direction that several parts share, up to its sign. */
  private static final class Direction {
    double[] sum;
    double area;
    double[] unit;
    final List<FlatPart> parts = new ArrayList<>();

    double[] mean() {
      return Vec.unit(sum);
    }
  }

  /**
   * @param angle in radians, by which parts may be off and are made parallel or square; 0 for none
   */
  Squaring(double angle) {
    this.angle = angle;
  }

  /** The walls, in the order of the parts they begin with, and how many were turned. */
  record Squared(List<Wall> walls, int turned, double most) {}

  Squared of(List<FlatPart> parts) {
    List<FlatPart> bySize = new ArrayList<>(parts);
    bySize.sort(Comparator.comparingDouble(p -> -p.area()));
    List<Direction> directions = new ArrayList<>();
    for (FlatPart p : bySize) {
      gather(directions, p);
    }
    directions.sort(Comparator.comparingDouble(d -> -d.area));
    List<double[]> fixed = new ArrayList<>();
    for (Direction d : directions) {
      d.unit = angle > 0 ? square(d.mean(), fixed) : d.mean();
      fixed.add(d.unit);
    }
    int turned = 0;
    double most = 0;
    List<Wall> walls = new ArrayList<>();
    for (FlatPart p : parts) {
      double[] n = p.normal();
      for (Direction d : directions) {
        if (d.parts.contains(p)) {
          n = Vec.dot(d.unit, n) < 0 ? Vec.mul(d.unit, -1) : d.unit;
        }
      }
      double by = Math.acos(Math.clamp(Vec.dot(n, p.normal()), -1.0, 1.0));
      turned += by > SEEN ? 1 : 0;
      most = Math.max(most, by);
      add(walls, p, n);
    }
    return new Squared(walls, turned, most);
  }

  private void gather(List<Direction> all, FlatPart p) {
    Direction best = null;
    double most = Math.cos(angle);
    for (Direction d : all) {
      double c = Math.abs(Vec.dot(d.mean(), p.normal()));
      if (angle > 0 && c >= most) {
        most = c;
        best = d;
      }
    }
    if (best == null) {
      best = new Direction();
      best.sum = new double[3];
      all.add(best);
    }
    double sign = best.area > 0 && Vec.dot(best.sum, p.normal()) < 0 ? -1 : 1;
    best.sum = Vec.add(best.sum, Vec.mul(p.normal(), sign * p.area()));
    best.area += p.area();
    best.parts.add(p);
  }

  /** Square to those that are fixed and that it nearly is square to. */
  private double[] square(double[] n, List<double[]> fixed) {
    double limit = Math.sin(angle);
    List<double[]> to = new ArrayList<>();
    for (double[] f : fixed) {
      boolean isNew = to.size() < 2 && (to.isEmpty() || Math.abs(Vec.dot(to.get(0), f)) < 0.99);
      if (Math.abs(Vec.dot(f, n)) < limit && isNew) {
        to.add(f);
      }
    }
    double[] out = n;
    if (to.size() == 1) {
      out = Vec.unit(Vec.sub(n, Vec.mul(to.get(0), Vec.dot(n, to.get(0)))));
    } else if (to.size() == 2) {
      out = Vec.unit(Vec.cross(to.get(0), to.get(1)));
      out = Vec.dot(out, n) < 0 ? Vec.mul(out, -1) : out;
    }
    return Math.abs(Vec.dot(out, n)) >= Math.cos(2 * angle) ? out : n;
  }

  /** To the wall that it lies in, or as one of its own. */
  private static void add(List<Wall> walls, FlatPart p, double[] n) {
    for (int i = 0; i < walls.size(); i++) {
      Wall w = walls.get(i);
      double within = Math.max(p.within(), w.parts().get(0).within());
      boolean isOne =
          Math.abs(Vec.dot(w.normal(), n)) >= SAME
              && Math.abs(Vec.dot(w.normal(), p.middle()) - w.offset()) <= within;
      boolean isAgain =
          w.parts().stream().anyMatch(o -> o.triangles().intersects(p.triangles()) && isOne);
      if (isAgain && isMostly(w, p)) {
        return;
      }
      if (isOne) {
        List<FlatPart> all = new ArrayList<>(w.parts());
        all.add(p);
        double sum = 0;
        double area = 0;
        for (FlatPart q : all) {
          sum += q.area() * Vec.dot(w.normal(), q.middle());
          area += q.area();
        }
        walls.set(i, new Wall(w.normal(), sum / area, List.copyOf(all)));
        return;
      }
    }
    walls.add(new Wall(n, Vec.dot(n, p.middle()), List.of(p)));
  }

  /** Whether most of a part lies in the wall already: the same was pointed at twice. */
  private static boolean isMostly(Wall w, FlatPart p) {
    for (FlatPart o : w.parts()) {
      BitSet both = (BitSet) o.triangles().clone();
      both.and(p.triangles());
      if (2 * both.cardinality()
          > Math.min(o.triangles().cardinality(), p.triangles().cardinality())) {
        return true;
      }
    }
    return false;
  }
}
