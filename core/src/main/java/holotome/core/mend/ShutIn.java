package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Which islands are shut in within others: from none of a few of their triangles does a straight
 * line along an axis, to either side, get out without meeting another island. All triangles are
 * gone over once an axis, each asked only for the lines it may meet; O(T log S) for S lines. How
 * often each line is met is kept, so that after a small change only what changed is gone over.
 */
final class ShutIn {
  /** Triangles of an island that lines begin at. */
  private static final int SAMPLES = 4;

  private static final int GRAIN = 1 << 14;

  private final int islands;

  /** Where lines begin: 3 floats each, the triangle they begin on, and its island. */
  private final float[] at;

  private final int[] on;
  private final int[] island;

  /**
   * How often each line meets other islands: 6 a line, along each axis after and before its begin.
   */
  private final int[] met;

  private ShutIn(int islands, float[] at, int[] on, int[] island, int[] met) {
    this.islands = islands;
    this.at = at;
    this.on = on;
    this.island = island;
    this.met = met;
  }

  /** Looks at all islands of a mesh. */
  static ShutIn of(Mesh mesh, Islands islands, Work work) {
    if (islands.count() < 2) {
      work.advance(1);
      return new ShutIn(islands.count(), new float[0], new int[0], new int[0], new int[0]);
    }
    ShutIn s = begun(mesh, islands);
    for (int axis = 0; axis < 3; axis++) {
      s.along(
          axis,
          mesh,
          islands.ofTriangle(),
          1,
          work.part(1.0 / 3, CoreWords.of("work.finding-shells")));
    }
    return s;
  }

  /** Per island whether it is. */
  boolean[] islands() {
    boolean[] out = new boolean[islands];
    Arrays.fill(out, on.length > 0);
    for (int i = 0; i < on.length; i++) {
      for (int k = 6 * i; k < 6 * i + 6; k++) {
        out[island[i]] &= met[k] > 0;
      }
    }
    return out;
  }

  /**
   * After a small change.
   *
   * @param mesh as it is now
   * @param oldIslands per triangle of the region before its island, numbered as before
   * @param newIslands per triangle of the region after its island, numbered as now
   * @param rank the number now of each island; -1 where it is gone
   * @param count of islands now
   * @return null where lines begin elsewhere now, or an island is new: then all is to be looked at
   */
  ShutIn after(
      Mesh mesh,
      ChangedRegion region,
      int[] oldIslands,
      int[] newIslands,
      int[] rank,
      int count,
      Work work) {
    int n = 0;
    int left = 0;
    for (int r : rank) {
      left += r < 0 ? 0 : 1;
    }
    for (int i = 0; i < on.length; i++) {
      if (rank[island[i]] >= 0) {
        if (region.to(on[i]) < 0) {
          return null;
        }
        n++;
      }
    }
    if (count < 2) {
      return new ShutIn(count, new float[0], new int[0], new int[0], new int[0]);
    }
    if (left < count || on.length == 0) {
      return null;
    }
    ShutIn s = new ShutIn(count, new float[3 * n], new int[n], new int[n], new int[6 * n]);
    n = 0;
    for (int i = 0; i < on.length; i++) {
      if (rank[island[i]] >= 0) {
        System.arraycopy(at, 3 * i, s.at, 3 * n, 3);
        System.arraycopy(met, 6 * i, s.met, 6 * n, 6);
        s.on[n] = region.to(on[i]);
        s.island[n++] = rank[island[i]];
      }
    }
    if (s.isDisplaced(mesh, region.after(), newIslands, region.fresh())) {
      return null;
    }
    int[] were = Arrays.stream(oldIslands).map(i -> rank[i]).toArray();
    for (int axis = 0; axis < 3; axis++) {
      s.along(axis, region.before().mesh(), were, -1, work.part(1.0 / 6, work.label()));
      s.along(axis, region.after().mesh(), newIslands, 1, work.part(1.0 / 6, work.label()));
    }
    return s;
  }

  /** Whether a line would now begin on one of the new triangles. */
  private boolean isDisplaced(Mesh mesh, ChangedRegion.Side side, int[] of, BitSet fresh) {
    int[] lines = new int[islands];
    int[] most = new int[islands];
    Arrays.fill(most, Integer.MIN_VALUE);
    for (int i = 0; i < on.length; i++) {
      lines[island[i]]++;
      most[island[i]] = Math.max(most[island[i]], hash(mesh, on[i]));
    }
    for (int i = 0; i < of.length; i++) {
      int t = side.triangles()[i];
      if (fresh.get(t) && (lines[of[i]] < SAMPLES || hash(mesh, t) <= most[of[i]])) {
        return true;
      }
    }
    return false;
  }

  /**
   * Lines that have met nothing yet. They begin on the triangles whose places have the least hash:
   * scattered all over, and for the most part the same ones after a change.
   */
  private static ShutIn begun(Mesh mesh, Islands islands) {
    int[] of = islands.ofTriangle();
    int[] start = new int[islands.count() + 1];
    for (int i = 0; i < islands.count(); i++) {
      start[i + 1] = start[i] + Math.min(SAMPLES, islands.sizes()[i]);
    }
    int total = start[islands.count()];
    // Per island its least so far, rising.
    long[] least = new long[total];
    Arrays.fill(least, Long.MAX_VALUE);
    for (int t = 0; t < of.length; t++) {
      long key = (long) hash(mesh, t) << 32 | t;
      int at = start[of[t] + 1] - 1;
      if (key < least[at]) {
        while (at > start[of[t]] && key < least[at - 1]) {
          least[at] = least[--at];
        }
        least[at] = key;
      }
    }
    ShutIn s =
        new ShutIn(
            islands.count(),
            new float[3 * total],
            new int[total],
            new int[total],
            new int[6 * total]);
    float[] p = mesh.xyz();
    int[] tri = mesh.triangles();
    for (int i = 0; i < total; i++) {
      int t = (int) least[i];
      for (int k = 0; k < 3; k++) {
        s.at[3 * i + k] =
            (p[3 * tri[3 * t] + k] + p[3 * tri[3 * t + 1] + k] + p[3 * tri[3 * t + 2] + k]) / 3;
      }
      s.on[i] = t;
      s.island[i] = of[t];
    }
    return s;
  }

  private static int hash(Mesh mesh, int t) {
    int h = 0;
    for (int c = 3 * t; c < 3 * t + 2; c++) {
      for (int k = 0; k < 3; k++) {
        h = (h ^ Float.floatToRawIntBits(mesh.xyz()[3 * mesh.triangles()[c] + k])) * 0x9E3779B1;
        h ^= h >>> 15;
      }
    }
    return h;
  }

  /**
   * Counts where lines are met along an axis.
   *
   * @param of island per triangle
   * @param times how often each counts
   */
  private void along(int axis, Mesh mesh, int[] of, int times, Work work) {
    int u = (axis + 1) % 3;
    float[] p = mesh.xyz();
    int[] tri = mesh.triangles();
    Integer[] order = new Integer[island.length];
    Arrays.setAll(order, i -> i);
    Arrays.sort(order, (a, b) -> Float.compare(at[3 * a + u], at[3 * b + u]));
    float[] keys = new float[order.length];
    for (int i = 0; i < keys.length; i++) {
      keys[i] = at[3 * order[i] + u];
    }
    int[][] parts = new int[Parallel.chunks(of.length, GRAIN)][];
    Parallel.chunked(
        of.length,
        GRAIN,
        work,
        (c, from, to) -> {
          int[] hits = new int[0];
          int n = 0;
          for (int t = from; t < to; t++) {
            float lo =
                Math.min(
                    p[3 * tri[3 * t] + u],
                    Math.min(p[3 * tri[3 * t + 1] + u], p[3 * tri[3 * t + 2] + u]));
            float hi =
                Math.max(
                    p[3 * tri[3 * t] + u],
                    Math.max(p[3 * tri[3 * t + 1] + u], p[3 * tri[3 * t + 2] + u]));
            int first = Arrays.binarySearch(keys, lo);
            first = first < 0 ? -1 - first : first;
            while (first > 0 && keys[first - 1] == lo) {
              first--;
            }
            for (int i = first; i < keys.length && keys[i] <= hi; i++) {
              int line = order[i];
              int side = island[line] == of[t] ? -1 : meets(p, tri, t, line, axis);
              if (side >= 0) {
                hits = n == hits.length ? Arrays.copyOf(hits, Math.max(16, 2 * n)) : hits;
                hits[n++] = 6 * line + 2 * axis + side;
              }
            }
          }
          parts[c] = Arrays.copyOf(hits, n);
        });
    for (int[] hits : parts) {
      for (int h : hits) {
        met[h] += times;
      }
    }
  }

  /** 0 where a triangle lies on a line after its begin, 1 before, -1 beside. */
  private int meets(float[] p, int[] tri, int t, int line, int axis) {
    int u = (axis + 1) % 3;
    int v = (axis + 2) % 3;
    double x = at[3 * line + u];
    double y = at[3 * line + v];
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    double area =
        ((double) p[b + u] - p[a + u]) * ((double) p[c + v] - p[a + v])
            - ((double) p[c + u] - p[a + u]) * ((double) p[b + v] - p[a + v]);
    if (area == 0) {
      return -1;
    }
    double wa = ((p[b + u] - x) * (p[c + v] - y) - (p[c + u] - x) * (p[b + v] - y)) / area;
    double wb = ((p[c + u] - x) * (p[a + v] - y) - (p[a + u] - x) * (p[c + v] - y)) / area;
    double wc = 1 - wa - wb;
    if (wa < 0 || wb < 0 || wc < 0) {
      return -1;
    }
    double z = wa * p[a + axis] + wb * p[b + axis] + wc * p[c + axis];
    return z > at[3 * line + axis] ? 0 : 1;
  }
}
