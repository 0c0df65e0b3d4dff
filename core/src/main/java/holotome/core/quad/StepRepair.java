package holotome.core.quad;

import holotome.core.task.Work;
import java.util.Arrays;
import java.util.PriorityQueue;

/**
 * Makes the steps of a lattice come to nought around triangles. Where they do not although the
 * directions agree, a row of the lattice begins or ends: such places come in pairs, and a pair goes
 * when the steps of all edges on a way between the two are changed by one. The ways that change
 * least against what the steps were before rounding are found one after the other (Dijkstra 1959,
 * over triangles and the four directions a row can have there); that fewer irregular points are
 * left when rests are moved like a flow is from Huang and others ("A scalable and robust method for
 * quadrangulation", 2018, section 4), who find all ways at once. A way may also end at an edge of
 * the surface, or where directions turn about a point, which a row may run into.
 *
 * <p>No step becomes longer than one along and one across. A rest for which there is no way within
 * {@link #FARTHEST} triangles stays. One thread, so that the order is always the same.
 */
final class StepRepair {
  /** So many triangles and directions are looked at for one way. */
  private static final int FARTHEST = 20_000;

  private static final float LEAST = 0.02f;

  /** What it costs to let a row end at an irregular point or an open edge. */
  private static final float ENDING = 0.6f;

  /** What it costs to lay a triangle the wrong way round. */
  private static final float FOLD = 12;

  private final LatticeSteps steps;
  private final int[] twin;
  private final boolean[] held;

  private final float[] cost;
  private final int[] from;
  private final int[] seen;
  private int run;

  private StepRepair(LatticeSteps steps, int[] twin, boolean[] held) {
    this.steps = steps;
    this.twin = twin;
    this.held = held;
    int states = twin.length / 3 * 4;
    cost = new float[states];
    from = new int[states];
    seen = new int[states];
  }

  /**
   * Repairs.
   *
   * @param held half-edges on lines, whose steps stay on them
   * @return how many triangles are left whose steps do not come to nought though directions agree
   */
  static int run(LatticeSteps steps, int[] twin, boolean[] held, Work work) {
    StepRepair r = new StepRepair(steps, twin, held);
    int triangles = twin.length / 3;
    int left = 0;
    for (int t = 0; t < triangles; t++) {
      if (t % 1024 == 0) {
        work.check();
      }
      boolean moves = true;
      while (moves && r.isOff(t)) {
        moves = r.moveOne(t);
      }
    }
    for (int t = 0; t < triangles; t++) {
      left += r.isOff(t) ? 1 : 0;
    }
    work.advance(1);
    return left;
  }

  private boolean isOff(int t) {
    return steps.around(t) == 0 && (steps.restX(t) != 0 || steps.restY(t) != 0);
  }

  /** One step of the rest of a triangle, moved to where it ends; false if there is no way. */
  private boolean moveOne(int t) {
    for (int way = 0; way < 4; way++) {
      if (has(t, way) && carry(t, way)) {
        return true;
      }
    }
    return false;
  }

  private static int x(int way) {
    return LatticeSteps.turnedX(1, 0, way);
  }

  private static int y(int way) {
    return LatticeSteps.turnedY(1, 0, way);
  }

  /** Whether a triangle's rest has a part that way. */
  private boolean has(int t, int way) {
    return x(way) * steps.restX(t) + y(way) * steps.restY(t) > 0;
  }

  /** A triangle and the direction of what is carried through it. */
  private record Entry(float cost, int state) implements Comparable<Entry> {
    @Override
    public int compareTo(Entry o) {
      int c = Float.compare(cost, o.cost);
      return c != 0 ? c : Integer.compare(state, o.state);
    }
  }

  private boolean carry(int t, int way) {
    run++;
    PriorityQueue<Entry> queue = new PriorityQueue<>();
    reach(queue, 4 * t + way, 0, -1);
    int looked = 0;
    while (!queue.isEmpty() && looked++ < FARTHEST) {
      Entry e = queue.poll();
      if (e.state < 0) {
        return apply(stateOf(~e.state), ~e.state >> 2);
      }
      if (e.cost > cost[e.state]) {
        continue;
      }
      int at = e.state / 4;
      int now = e.state % 4;
      if (at != t && ends(at, now)) {
        return apply(e.state, -1);
      }
      for (int h = 3 * at; h < 3 * at + 3; h++) {
        int entry = from[e.state] < 0 ? -1 : twin[from[e.state] >> 2];
        if (h == entry) {
          continue;
        }
        float more = price(h, now) + (turnsOver(at, entry, h, now) ? FOLD : 0);
        if (more == Float.POSITIVE_INFINITY) {
          continue;
        }
        if (twin[h] < 0) {
          queue.add(new Entry(e.cost + more + ENDING, ~(h << 2 | now)));
          continue;
        }
        int beyond = 4 * (twin[h] / 3) + beyond(h, now);
        float sum = e.cost + more;
        // Where directions turn about a point a row can end: it costs something to let it.
        int there = twin[h] / 3;
        if (steps.around(there) != 0) {
          queue.add(new Entry(sum + ENDING, ~(h << 2 | now)));
          continue;
        }
        reach(queue, beyond, sum, h << 2 | now);
      }
    }
    return false;
  }

  private void reach(PriorityQueue<Entry> queue, int state, float sum, int through) {
    if (seen[state] != run || sum < cost[state]) {
      seen[state] = run;
      cost[state] = sum;
      from[state] = through;
      queue.add(new Entry(sum, state));
    }
  }

  /** Whether what is carried comes to nought with a triangle's own rest. */
  private boolean ends(int t, int way) {
    return steps.around(t) == 0 && has(t, way + 2 & 3);
  }

  /** The change of a half-edge's steps that takes a step that way out of its triangle's rest. */
  private int change(int h, int way) {
    return way + 2 + steps.turnsBefore(h) & 3;
  }

  /** The direction of what is taken out of a triangle through a half-edge, as it is beyond. */
  private int beyond(int h, int way) {
    // What is added here is taken away there, so that the rest there grows by what is taken here.
    int atEnd = change(h, way) + 2 + steps.turns()[h];
    return atEnd - steps.turnsBefore(twin[h]) & 3;
  }

  private float price(int h, int way) {
    int c = change(h, way);
    int x = steps.along()[h] + x(c);
    int y = steps.across()[h] + y(c);
    if (Math.abs(x) > 1 || Math.abs(y) > 1) {
      return Float.POSITIVE_INFINITY;
    }
    if (held[h] && x != 0 && y != 0) {
      return Float.POSITIVE_INFINITY;
    }
    float before = square(h, steps.along()[h], steps.across()[h]);
    return Math.max(LEAST, square(h, x, y) - before);
  }

  /** Whether a triangle lies the wrong way round once something was carried through it. */
  private boolean turnsOver(int t, int in, int out, int way) {
    int[] v = new int[4];
    for (int h = 3 * t; h < 3 * t + 2; h++) {
      int by = -steps.turnsBefore(h);
      int sign = h == in ? 1 : h == out ? -1 : 0;
      int i = 2 * (h - 3 * t);
      v[i] = LatticeSteps.turnedX(steps.along()[h], steps.across()[h], by) + sign * x(way);
      v[i + 1] = LatticeSteps.turnedY(steps.along()[h], steps.across()[h], by) + sign * y(way);
    }
    return v[0] * v[3] - v[1] * v[2] < 0;
  }

  private float square(int h, int x, int y) {
    float dx = steps.exactAlong()[h] - x;
    float dy = steps.exactAcross()[h] - y;
    return dx * dx + dy * dy;
  }

  /**
   * Changes the steps along the way that leads to a triangle, and those of the half-edge it goes
   * out through, if any; changes nothing and returns false where that cannot be.
   */
  private boolean apply(int last, int out) {
    int[] path = new int[16];
    int n = 0;
    if (out >= 0) {
      path[n++] = out << 2 | last & 3;
    }
    for (int state = last; from[state] >= 0; ) {
      if (n == path.length) {
        path = Arrays.copyOf(path, 2 * n);
      }
      path[n++] = from[state];
      state = stateOf(path[n - 1]);
    }
    for (int i = 0; i < n; i++) {
      int h = path[i] >> 2;
      // A way that crosses an edge twice may have used up what it could be changed by.
      if (price(h, path[i] & 3) == Float.POSITIVE_INFINITY) {
        for (int j = i - 1; j >= 0; j--) {
          add(path[j] >> 2, change(path[j] >> 2, path[j] & 3) + 2 & 3);
        }
        return false;
      }
      add(h, change(h, path[i] & 3));
    }
    return true;
  }

  /** The triangle of a half-edge and the direction of what is carried out of it there. */
  private static int stateOf(int through) {
    return 4 * ((through >> 2) / 3) + (through & 3);
  }

  private void add(int h, int way) {
    steps.add(h, twin[h], x(way), y(way));
  }
}
