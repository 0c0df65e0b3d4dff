package holotome.core.unwrap;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * From which side each triangle is laid flat: the one that faces it most, but that single triangles
 * go with those around them, so that borders run straight (iterated conditional modes: Besag, "On
 * the statistical analysis of dirty pictures", 1986), and so do scraps. O(T) a round.
 */
final class SeenSides {
  private static final int ROUNDS = 20;

  /** What a side must face still of a triangle that goes with others. */
  private static final double LEAST = 0.15;

  /** How much facing counts beside the length of borders. */
  private static final double FACING = 2;

  /** Parts below this share of the surface go with what lies around them. */
  private static final double SCRAP = 1e-3;

  private final Ground ground;
  private final Projection projection;
  private final BitSet which;
  private final int[] side;

  private SeenSides(Ground ground, Projection projection, BitSet which) {
    this.ground = ground;
    this.projection = projection;
    this.which = which;
    side = new int[ground.area().length];
  }

  /** One per triangle; -1 for those that are not looked at. */
  static int[] of(Ground ground, Projection projection, BitSet which, Work work) {
    SeenSides s = new SeenSides(ground, projection, which);
    Parallel.range(
        s.side.length,
        1 << 14,
        work,
        (from, to) -> {
          for (int t = from; t < to; t++) {
            s.side[t] = which.get(t) ? s.best(t) : -1;
          }
        });
    for (int r = 0; r < ROUNDS && s.evened(); r++) {
      work.check();
    }
    s.scraps(work);
    return s.side;
  }

  private int best(int t) {
    int best = 0;
    double most = Double.NEGATIVE_INFINITY;
    for (int k = 0; k < projection.sides(); k++) {
      double f = projection.facing(t, k);
      if (f > most) {
        most = f;
        best = k;
      }
    }
    return best;
  }

  private boolean mayGo(int t, int to) {
    return !projection.isLaying(to) || projection.facing(t, to) > LEAST;
  }

  private int near(int h) {
    int g = ground.twin()[h];
    return g < 0 ? -1 : side[g / 3];
  }

  /** One round; whether anything changed. */
  private boolean evened() {
    boolean changed = false;
    for (int t = which.nextSetBit(0); t >= 0; t = which.nextSetBit(t + 1)) {
      int now = side[t];
      boolean isAlone = false;
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        isAlone |= near(h) >= 0 && near(h) != now;
      }
      if (!isAlone) {
        continue;
      }
      int to = now;
      double least = cost(t, now);
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        int k = near(h);
        if (k >= 0 && k != now && mayGo(t, k)) {
          double c = cost(t, k);
          if (c < least * (1 - 1e-9)) {
            least = c;
            to = k;
          }
        }
      }
      side[t] = to;
      changed |= to != now;
    }
    return changed;
  }

  private double cost(int t, int k) {
    double c = FACING * Math.sqrt(ground.area()[t]) * (1 - projection.facing(t, k));
    for (int h = 3 * t; h < 3 * t + 3; h++) {
      int other = near(h);
      c += other >= 0 && other != k ? ground.seam()[h] : 0;
    }
    return c;
  }

  /** Small parts go with the neighbour that they share most of their border with. */
  private void scraps(Work work) {
    double all = 0;
    for (int t = which.nextSetBit(0); t >= 0; t = which.nextSetBit(t + 1)) {
      all += ground.area()[t];
    }
    BitSet seen = new BitSet();
    int[] queue = new int[which.cardinality()];
    for (int t = which.nextSetBit(0); t >= 0; t = which.nextSetBit(t + 1)) {
      if (seen.get(t)) {
        continue;
      }
      work.check();
      int end = 0;
      queue[end++] = t;
      seen.set(t);
      double area = 0;
      double[] border = new double[projection.sides()];
      for (int at = 0; at < end; at++) {
        area += ground.area()[queue[at]];
        for (int h = 3 * queue[at]; h < 3 * queue[at] + 3; h++) {
          int k = near(h);
          if (k >= 0 && k != side[t]) {
            border[k] += ground.length(h);
          } else if (k >= 0 && !seen.get(ground.twin()[h] / 3)) {
            seen.set(ground.twin()[h] / 3);
            queue[end++] = ground.twin()[h] / 3;
          }
        }
      }
      int to = widest(border);
      if (area < SCRAP * all && to >= 0 && mayGo(queue, end, to)) {
        for (int at = 0; at < end; at++) {
          side[queue[at]] = to;
        }
      }
    }
  }

  private static int widest(double[] border) {
    int to = -1;
    for (int k = 0; k < border.length; k++) {
      to = border[k] > (to < 0 ? 0 : border[to]) ? k : to;
    }
    return to;
  }

  /**
   * In the mean of its triangles: single ones that look away are brought round later, as are those
   * that nearly do.
   */
  private boolean mayGo(int[] these, int count, int to) {
    double sum = 0;
    for (int i = 0; i < count; i++) {
      sum += ground.area()[these[i]] * projection.facing(these[i], to);
    }
    boolean isLaid = projection.isLaying(to) && projection.isLaying(side[these[0]]);
    return !isLaid || sum > 0;
  }
}
