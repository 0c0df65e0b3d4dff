package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Which islands are shut in within others: from none of a few of their triangles does a straight
 * line along an axis, to either side, get out without meeting another island. All triangles are
 * gone over once an axis, each asked only for the lines it may meet; O(T log S) for S lines.
 */
final class ShutIn {
  /** Triangles of an island that lines begin at. */
  private static final int SAMPLES = 4;

  private static final int GRAIN = 1 << 14;

  private final float[] p;
  private final int[] tri;
  private final int[] of;

  /** Where lines begin: 3 floats each, and the island they belong to. */
  private final float[] at;

  private final int[] island;

  /** Per line the sides on which it was stopped: bits 2 axis and 2 axis + 1. */
  private final byte[] stopped;

  private ShutIn(Mesh mesh, Islands islands) {
    p = mesh.xyz();
    tri = mesh.triangles();
    of = islands.ofTriangle();
    int[] count = new int[islands.count()];
    int total = 0;
    for (int i = 0; i < count.length; i++) {
      total += Math.min(SAMPLES, islands.sizes()[i]);
    }
    at = new float[3 * total];
    island = new int[total];
    stopped = new byte[total];
    int[] seen = new int[islands.count()];
    int n = 0;
    for (int t = 0; t < of.length; t++) {
      int i = of[t];
      int wanted = Math.min(SAMPLES, islands.sizes()[i]);
      // Evenly over the island's triangles, as they come.
      if (count[i] < wanted && (long) seen[i] * wanted >= (long) count[i] * islands.sizes()[i]) {
        for (int k = 0; k < 3; k++) {
          at[3 * n + k] =
              (p[3 * tri[3 * t] + k] + p[3 * tri[3 * t + 1] + k] + p[3 * tri[3 * t + 2] + k]) / 3;
        }
        island[n++] = i;
        count[i]++;
      }
      seen[i]++;
    }
  }

  /** Per island whether it is. */
  static boolean[] of(Mesh mesh, Islands islands, Work work) {
    boolean[] out = new boolean[islands.count()];
    if (islands.count() < 2) {
      work.advance(1);
      return out;
    }
    ShutIn s = new ShutIn(mesh, islands);
    for (int axis = 0; axis < 3; axis++) {
      s.along(axis, work.part(1.0 / 3, CoreWords.of("work.finding-shells")));
    }
    Arrays.fill(out, true);
    for (int i = 0; i < s.island.length; i++) {
      out[s.island[i]] &= s.stopped[i] == 63;
    }
    return out;
  }

  private void along(int axis, Work work) {
    int u = (axis + 1) % 3;
    int v = (axis + 2) % 3;
    Integer[] order = new Integer[island.length];
    Arrays.setAll(order, i -> i);
    Arrays.sort(order, (a, b) -> Float.compare(at[3 * a + u], at[3 * b + u]));
    float[] keys = new float[order.length];
    for (int i = 0; i < keys.length; i++) {
      keys[i] = at[3 * order[i] + u];
    }
    int chunks = Parallel.chunks(of.length, GRAIN);
    byte[][] parts = new byte[chunks][];
    Parallel.chunked(
        of.length,
        GRAIN,
        work,
        (c, from, to) -> {
          byte[] hits = null;
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
              int side = island[line] == of[t] ? 0 : meets(t, line, axis, u, v);
              if (side != 0) {
                hits = hits == null ? new byte[keys.length] : hits;
                hits[line] |= (byte) (side << 2 * axis);
              }
            }
          }
          parts[c] = hits;
        });
    for (byte[] hits : parts) {
      for (int i = 0; hits != null && i < hits.length; i++) {
        stopped[i] |= hits[i];
      }
    }
  }

  /** 1 where a triangle lies on a line after its begin, 2 before, 0 beside. */
  private int meets(int t, int line, int axis, int u, int v) {
    double x = at[3 * line + u];
    double y = at[3 * line + v];
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    double area =
        ((double) p[b + u] - p[a + u]) * ((double) p[c + v] - p[a + v])
            - ((double) p[c + u] - p[a + u]) * ((double) p[b + v] - p[a + v]);
    if (area == 0) {
      return 0;
    }
    double wa = ((p[b + u] - x) * (p[c + v] - y) - (p[c + u] - x) * (p[b + v] - y)) / area;
    double wb = ((p[c + u] - x) * (p[a + v] - y) - (p[a + u] - x) * (p[c + v] - y)) / area;
    double wc = 1 - wa - wb;
    if (wa < 0 || wb < 0 || wc < 0) {
      return 0;
    }
    double z = wa * p[a + axis] + wb * p[b + axis] + wc * p[c + axis];
    return z > at[3 * line + axis] ? 1 : 2;
  }
}
