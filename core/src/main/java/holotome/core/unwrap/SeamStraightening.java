package holotome.core.unwrap;

import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Straightens the borders between charts: at each vertex that two charts meet in, the triangles
 * that one of them has there go over to the other where that makes the border shorter. What hangs
 * together stays so, and no chart gets or loses a hole. O(vertices of borders x rounds).
 */
final class SeamStraightening {
  private static final int ROUNDS = 40;

  /** A gain of less than this share of what was there is none: rounding never goes in circles. */
  private static final double GAIN = 1e-6;

  private final int[] tri;
  private final int[] twin;
  private final float[] weight;
  private final int[] chart;
  private final int[] size;
  private final BitSet pinned;
  private int[] fan = new int[32];

  /**
   * @param chart one per triangle; changed in place
   * @param pinned vertices where borders stay
   */
  SeamStraightening(Ground ground, int[] chart, int charts, BitSet pinned) {
    tri = ground.mesh().triangles();
    twin = ground.twin();
    weight = ground.seam();
    this.chart = chart;
    this.pinned = pinned;
    size = new int[charts];
    for (int c : chart) {
      size[c]++;
    }
  }

  void run(Work work) {
    int[] todo = new int[1024];
    int count = 0;
    for (int h = 0; h < twin.length; h++) {
      if (isBorder(h)) {
        todo = room(todo, count);
        todo[count++] = h;
      }
    }
    BitSet next = new BitSet(twin.length);
    for (int r = 0; r < ROUNDS && count > 0; r++) {
      work.check();
      next.clear();
      for (int i = 0; i < count; i++) {
        if (isBorder(todo[i])) {
          move(todo[i], next);
        }
      }
      count = 0;
      for (int h = next.nextSetBit(0); h >= 0; h = next.nextSetBit(h + 1)) {
        if (isBorder(h)) {
          todo = room(todo, count);
          todo[count++] = h;
        }
      }
    }
  }

  private static int[] room(int[] list, int count) {
    return count < list.length ? list : Arrays.copyOf(list, 2 * count);
  }

  private boolean isBorder(int h) {
    return twin[h] >= 0 && chart[h / 3] != chart[twin[h] / 3];
  }

  /** Gives the triangles at the start of a border edge to the chart beyond, if that is shorter. */
  private void move(int h, BitSet changed) {
    int own = chart[h / 3];
    int other = chart[twin[h] / 3];
    int vertex = tri[h];
    if (pinned.get(vertex)) {
      return;
    }
    int n = 0;
    double link = 0;
    int at = h;
    while (true) {
      int opposite = Adjacency.next(at);
      if (twin[opposite] < 0 || chart[twin[opposite] / 3] != own) {
        return;
      }
      if (n == fan.length) {
        fan = Arrays.copyOf(fan, 2 * n);
      }
      fan[n++] = at / 3;
      link += weight[opposite];
      int back = Adjacency.previous(at);
      if (twin[back] < 0) {
        return;
      }
      if (chart[twin[back] / 3] != own) {
        if (chart[twin[back] / 3] != other) {
          return;
        }
        double now = (double) weight[h] + weight[back];
        if (link >= now - GAIN * now || n >= size[own]) {
          return;
        }
        if (!isOtherAround(twin[back], other, twin[h]) || !isInner(h, n, own)) {
          return;
        }
        break;
      }
      at = twin[back];
    }
    for (int i = 0; i < n; i++) {
      int t = fan[i];
      chart[t] = other;
      for (int k = 3 * t; k < 3 * t + 3; k++) {
        changed.set(k);
        if (twin[k] >= 0) {
          changed.set(twin[k]);
          changed.set(Adjacency.next(twin[k]));
          changed.set(Adjacency.previous(twin[k]));
        }
      }
    }
    size[own] -= n;
    size[other] += n;
  }

  /** Whether all around a vertex from one of its half-edges to another belongs to a chart. */
  private boolean isOtherAround(int from, int other, int end) {
    int at = from;
    // The half-edge leaves the vertex; its opposite one of the last triangle arrives there.
    while (chart[at / 3] == other) {
      int back = Adjacency.previous(at);
      if (back == end) {
        return true;
      }
      if (twin[back] < 0) {
        return false;
      }
      at = twin[back];
    }
    return false;
  }

  /** Whether the vertices that the border would go through lie within the chart it takes from. */
  private boolean isInner(int h, int n, int own) {
    int at = h;
    for (int i = 0; i + 1 < n; i++) {
      // The far end of the edge between this triangle of the fan and the next.
      int back = Adjacency.previous(at);
      int round = back;
      do {
        if (chart[round / 3] != own || pinned.get(tri[round])) {
          return false;
        }
        round = twin[Adjacency.previous(round)];
        if (round < 0) {
          return false;
        }
      } while (round != back);
      at = twin[back];
    }
    return true;
  }
}
