package holotome.core.mend;

import holotome.core.attribute.Redrawn;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;

/** Triangles that are none: a corner twice, no area, or the corners of another. */
public final class Degenerate {
  private static final int GRAIN = 1 << 15;

  private Degenerate() {}

  /**
   * Triangles with needles unfolded.
   *
   * @param triangles of the mesh, the same array if there was no needle
   * @param redrawn those that changed
   */
  record Unfolded(int[] triangles, Redrawn redrawn) {}

  /**
   * A triangle of three different points on one line cannot simply go: its long side would be left
   * facing its two short ones. Its neighbour across the long side is split at the middle point
   * instead. The needle and the neighbour become two sound triangles, and the needle's mark is
   * taken back.
   */
  static Unfolded unfoldNeedles(Mesh mesh, boolean[] degenerate) {
    int[] tri = mesh.triangles();
    int[] out = tri;
    int[] twin = null;
    boolean[] touched = null;
    SortedMap<Integer, float[]> weights = new TreeMap<>();
    Map<Integer, Integer> within = new HashMap<>();
    for (int t = 0; t < degenerate.length; t++) {
      if (!degenerate[t]
          || tri[3 * t] == tri[3 * t + 1]
          || tri[3 * t + 1] == tri[3 * t + 2]
          || tri[3 * t + 2] == tri[3 * t]) {
        continue;
      }
      if (twin == null) {
        twin = Adjacency.of(mesh).twin();
        out = tri.clone();
        touched = new boolean[degenerate.length];
      }
      int h = longest(mesh, t);
      int g = twin[h];
      if (g < 0 || degenerate[g / 3] || touched[g / 3] || touched[t]) {
        continue;
      }
      int middle = tri[Adjacency.previous(h)];
      int a = tri[h];
      int b = tri[Adjacency.next(h)];
      int apex = tri[Adjacency.previous(g)];
      // The neighbour runs b, a, apex: it becomes (middle, a, apex) and (b, middle, apex).
      set(out, 3 * t, middle, a, apex);
      set(out, 3 * (g / 3), b, middle, apex);
      double along =
          Vec.distance(Vec.at(mesh.xyz(), a), Vec.at(mesh.xyz(), middle))
              / Vec.distance(Vec.at(mesh.xyz(), a), Vec.at(mesh.xyz(), b));
      float f = (float) Math.clamp(along, 0.0, 1.0);
      int atB = g % 3;
      int atA = Adjacency.next(g) % 3;
      int atApex = Adjacency.previous(g) % 3;
      float[] first = new float[9];
      first[atB] = f;
      first[atA] = 1 - f;
      first[3 + atA] = 1;
      first[6 + atApex] = 1;
      float[] second = new float[9];
      second[atB] = 1;
      second[3 + atB] = f;
      second[3 + atA] = 1 - f;
      second[6 + atApex] = 1;
      weights.put(t, first);
      weights.put(g / 3, second);
      within.put(t, g / 3);
      within.put(g / 3, g / 3);
      touched[t] = true;
      touched[g / 3] = true;
      degenerate[t] = false;
    }
    Redrawn redrawn = new Redrawn();
    weights.forEach((t, nine) -> redrawn.add(t, within.get(t), nine));
    return new Unfolded(out, redrawn);
  }

  private static void set(int[] tri, int at, int a, int b, int c) {
    tri[at] = a;
    tri[at + 1] = b;
    tri[at + 2] = c;
  }

  private static int longest(Mesh mesh, int t) {
    int best = 3 * t;
    double most = -1;
    for (int h = 3 * t; h < 3 * t + 3; h++) {
      double d =
          Vec.distance(
              Vec.at(mesh.xyz(), mesh.triangles()[h]),
              Vec.at(mesh.xyz(), mesh.triangles()[Adjacency.next(h)]));
      if (d > most) {
        most = d;
        best = h;
      }
    }
    return best;
  }

  /** Marks, of each set of triangles with the same three corners, all but the first. */
  public static int markDuplicates(Mesh mesh, boolean[] marks) {
    int[] tri = mesh.triangles();
    int n = mesh.triangleCount();
    // Bucketed under the lowest corner; within a bucket few triangles are compared pair by pair.
    int[] start = new int[mesh.vertexCount() + 1];
    for (int t = 0; t < n; t++) {
      if (!marks[t]) {
        start[lowest(tri, t) + 1]++;
      }
    }
    for (int v = 0; v < start.length - 1; v++) {
      start[v + 1] += start[v];
    }
    int[] order = new int[start[start.length - 1]];
    int[] fill = Arrays.copyOf(start, start.length - 1);
    for (int t = 0; t < n; t++) {
      if (!marks[t]) {
        order[fill[lowest(tri, t)]++] = t;
      }
    }
    AtomicInteger found = new AtomicInteger();
    Parallel.range(
        fill.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          int own = 0;
          for (int v = from; v < to; v++) {
            own += start[v + 1] - start[v] < 2 ? 0 : markEqual(tri, order, start, v, marks);
          }
          found.addAndGet(own);
        });
    return found.get();
  }

  private static int markEqual(int[] tri, int[] order, int[] start, int v, boolean[] marks) {
    long[] rest = new long[start[v + 1] - start[v]];
    for (int i = 0; i < rest.length; i++) {
      int t = order[start[v] + i];
      int lo = lowest(tri, t);
      int hi = Math.max(tri[3 * t], Math.max(tri[3 * t + 1], tri[3 * t + 2]));
      // Sums may wrap; they wrap back when the two known corners are taken away again.
      int mid = tri[3 * t] + tri[3 * t + 1] + tri[3 * t + 2] - lo - hi;
      rest[i] = (long) mid << 32 | hi;
    }
    return markEqual(rest, order, start[v], marks);
  }

  private static int markEqual(long[] rest, int[] order, int from, boolean[] marks) {
    int found = 0;
    long[] sorted = rest.clone();
    Arrays.sort(sorted);
    boolean any = false;
    for (int i = 1; i < sorted.length; i++) {
      any |= sorted[i] == sorted[i - 1];
    }
    if (!any) {
      return 0;
    }
    java.util.HashSet<Long> seen = new java.util.HashSet<>();
    for (int i = 0; i < rest.length; i++) {
      if (!seen.add(rest[i])) {
        marks[order[from + i]] = true;
        found++;
      }
    }
    return found;
  }

  private static int lowest(int[] tri, int t) {
    return Math.min(tri[3 * t], Math.min(tri[3 * t + 1], tri[3 * t + 2]));
  }
}
