package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.topology.Adjacency;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Where the seams of a mesh run: half-edges across which its charts do not go on, and the charts
 * that they part. Where the surface ends charts end in any case.
 */
final class SeamMap {
  private final Ground ground;
  private final BitSet seams = new BitSet();

  /** Triangles at edges that were cut or sewn. */
  private final BitSet touched = new BitSet();

  private int[] chart;
  private int count;

  /** The seams that a mesh has: none but its borders where it has no texture coordinates. */
  SeamMap(Ground ground) {
    this.ground = ground;
    Mesh mesh = ground.mesh();
    int[] twin = ground.twin();
    int[] uv = mesh.uv() == null ? null : mesh.uv().corners();
    for (int h = 0; h < twin.length; h++) {
      int g = twin[h];
      if (g > h && uv != null) {
        boolean isSewn = uv[h] == uv[Adjacency.next(g)] && uv[Adjacency.next(h)] == uv[g];
        seams.set(h, !isSewn);
        seams.set(g, !isSewn);
      }
    }
  }

  boolean isSeam(int h) {
    return ground.twin()[h] < 0 || seams.get(h);
  }

  BitSet touched() {
    return touched;
  }

  /** Makes an edge a seam, or none; whether that changed anything. */
  boolean set(int h, boolean isSeam) {
    int g = ground.twin()[h];
    if (g < 0 || seams.get(h) == isSeam) {
      return false;
    }
    seams.set(h, isSeam);
    seams.set(g, isSeam);
    touched.set(h / 3);
    touched.set(g / 3);
    chart = null;
    return true;
  }

  /** The chart of each triangle as the seams run now. O(T). */
  int[] charts() {
    if (chart == null) {
      int n = ground.area().length;
      chart = new int[n];
      Arrays.fill(chart, -1);
      int[] queue = new int[n];
      count = 0;
      for (int s = 0; s < n; s++) {
        if (chart[s] >= 0) {
          continue;
        }
        int end = 0;
        queue[end++] = s;
        chart[s] = count;
        for (int at = 0; at < end; at++) {
          for (int h = 3 * queue[at]; h < 3 * queue[at] + 3; h++) {
            int u = isSeam(h) ? -1 : ground.twin()[h] / 3;
            if (u >= 0 && chart[u] < 0) {
              chart[u] = count;
              queue[end++] = u;
            }
          }
        }
        count++;
      }
    }
    return chart;
  }

  int count() {
    charts();
    return count;
  }

  /**
   * The stretch of seam that an edge belongs to: what hangs together with it between the same two
   * charts, in no more than one line.
   *
   * @param ends tells the edges at a vertex
   */
  BitSet stretch(int h, SeamEnds ends) {
    int[] of = charts();
    BitSet out = new BitSet();
    if (ground.twin()[h] < 0 || !seams.get(h)) {
      return out;
    }
    int low = Math.min(of[h / 3], of[ground.twin()[h] / 3]);
    int high = Math.max(of[h / 3], of[ground.twin()[h] / 3]);
    ArrayDeque<Integer> todo = new ArrayDeque<>();
    todo.add(h);
    out.set(h);
    while (!todo.isEmpty()) {
      int at = todo.poll();
      for (int end : new int[] {at, Adjacency.next(at)}) {
        int[] near = ends.at(ground.mesh().triangles()[end]);
        // Where three seams or more meet a stretch ends.
        if (seamsAt(near) > 2) {
          continue;
        }
        for (int g : near) {
          int t = ground.twin()[g];
          boolean isOf =
              t >= 0
                  && seams.get(g)
                  && Math.min(of[g / 3], of[t / 3]) == low
                  && Math.max(of[g / 3], of[t / 3]) == high;
          if (isOf && !out.get(g) && !out.get(t)) {
            out.set(g);
            todo.add(g);
          }
        }
      }
    }
    return out;
  }

  private int seamsAt(int[] near) {
    int n = 0;
    for (int g : near) {
      int t = ground.twin()[g];
      n += t < 0 || seams.get(g) && g < t ? 1 : 0;
    }
    return n;
  }

  /** The half-edges that begin or end at a vertex. */
  interface SeamEnds {
    int[] at(int vertex);
  }
}
