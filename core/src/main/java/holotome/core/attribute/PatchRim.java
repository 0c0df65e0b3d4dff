package holotome.core.attribute;

import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;

/**
 * What lies along the rim of patches that are added to a mesh: the old vertices they use, the
 * corners of old triangles there, and for each patch triangle the old triangle nearest to it, going
 * from triangle to triangle. One pass over the old triangles, then in proportion to the patches.
 */
public final class PatchRim {
  private final int[] vertices;
  private final int[] start;
  private final int[] corners;
  private final int[] nearest;

  private PatchRim(int[] vertices, int[] start, int[] corners, int[] nearest) {
    this.vertices = vertices;
    this.start = start;
    this.corners = corners;
    this.nearest = nearest;
  }

  /**
   * Looks along the rim.
   *
   * @param old 3 vertices per triangle of the mesh before
   * @param oldVertices how many it had
   * @param patch 3 vertices per triangle of all patches; those from {@code oldVertices} on are new
   */
  public static PatchRim of(int[] old, int oldVertices, int[] patch) {
    BitSet on = new BitSet(oldVertices);
    for (int v : patch) {
      if (v < oldVertices) {
        on.set(v);
      }
    }
    int[] vertices = on.stream().toArray();
    int[] start = new int[vertices.length + 1];
    Map<Long, Integer> edges = new HashMap<>();
    for (int c = 0; c < old.length; c++) {
      if (on.get(old[c])) {
        start[Arrays.binarySearch(vertices, old[c]) + 1]++;
        int next = old[c % 3 == 2 ? c - 2 : c + 1];
        if (on.get(next)) {
          edges.putIfAbsent((long) old[c] << 32 | next, c / 3);
        }
      }
    }
    for (int i = 0; i < vertices.length; i++) {
      start[i + 1] += start[i];
    }
    int[] corners = new int[start[vertices.length]];
    int[] fill = start.clone();
    for (int c = 0; c < old.length; c++) {
      if (on.get(old[c])) {
        corners[fill[Arrays.binarySearch(vertices, old[c])]++] = c;
      }
    }
    int[] nearest = nearest(patch, edges);
    for (int t = 0; t < nearest.length; t++) {
      for (int k = 0; k < 3 && nearest[t] < 0; k++) {
        // A patch that touches the mesh at points alone.
        int i = Arrays.binarySearch(vertices, patch[3 * t + k]);
        nearest[t] = i >= 0 && start[i + 1] > start[i] ? corners[start[i]] / 3 : nearest[t];
      }
      nearest[t] = Math.max(0, nearest[t]);
    }
    return new PatchRim(vertices, start, corners, nearest);
  }

  /** Breadth first from the triangles at the rim; -1 where that does not reach. */
  private static int[] nearest(int[] patch, Map<Long, Integer> rim) {
    int n = patch.length / 3;
    Map<Long, Integer> half = new HashMap<>();
    int[] of = new int[n];
    Arrays.fill(of, -1);
    int[] queue = new int[n];
    int tail = 0;
    for (int h = 0; h < patch.length; h++) {
      int a = patch[h];
      int b = patch[h % 3 == 2 ? h - 2 : h + 1];
      half.putIfAbsent((long) a << 32 | b, h / 3);
      Integer outside = rim.get((long) b << 32 | a);
      if (outside == null) {
        outside = rim.get((long) a << 32 | b);
      }
      if (outside != null && of[h / 3] < 0) {
        of[h / 3] = outside;
        queue[tail++] = h / 3;
      }
    }
    for (int head = 0; head < tail; head++) {
      int t = queue[head];
      for (int k = 0; k < 3; k++) {
        int a = patch[3 * t + k];
        int b = patch[3 * t + (k + 1) % 3];
        Integer beside = half.get((long) b << 32 | a);
        if (beside != null && of[beside] < 0) {
          of[beside] = of[t];
          queue[tail++] = beside;
        }
      }
    }
    return of;
  }

  /** The old vertices along all rims, rising. */
  public int[] vertices() {
    return vertices;
  }

  /** The place of a vertex among {@link #vertices}; below zero if it is not on the rim. */
  public int place(int vertex) {
    return Arrays.binarySearch(vertices, vertex);
  }

  /** The old corners at the i-th rim vertex. */
  public int[] cornersAt(int i) {
    return Arrays.copyOfRange(corners, start[i], start[i + 1]);
  }

  /** The old triangle nearest to the t-th triangle of the patches. */
  public int nearest(int t) {
    return nearest[t];
  }
}
