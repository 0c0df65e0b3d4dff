package holotome.core.topology;

import java.util.function.IntConsumer;

/** Vertices around which the triangles form more than one fan. O(T), a byte a corner and vertex. */
public final class Pinches {
  private Pinches() {}

  /** Tells each once, in the order of the corners that begin its second fan. */
  public static void find(Adjacency adjacency, IntConsumer found) {
    int[] tri = adjacency.mesh().triangles();
    byte[] fans = new byte[adjacency.mesh().vertexCount()];
    boolean[] seen = new boolean[tri.length];
    for (int c = 0; c < tri.length; c++) {
      if (seen[c]) {
        continue;
      }
      int v = tri[c];
      if (fans[v] == 1) {
        found.accept(v);
      }
      fans[v] = (byte) Math.min(2, fans[v] + 1);
      seen[c] = true;
      walk(adjacency, c, c, seen);
      walk(adjacency, c, Adjacency.previous(c), seen);
    }
  }

  /**
   * Marks the corners of a fan around the vertex of corner {@code c}, leaving its triangle over the
   * half-edge {@code out}; neighbours that disagree about the outside belong to one fan too.
   */
  private static void walk(Adjacency adjacency, int c, int out, boolean[] seen) {
    int[] tri = adjacency.mesh().triangles();
    int v = tri[c];
    int over = out;
    while (true) {
      int g = adjacency.twin()[over];
      int h = g >= 0 ? g : Adjacency.misfit(g);
      if (h < 0) {
        return;
      }
      int corner = tri[h] == v ? h : Adjacency.next(h);
      if (seen[corner]) {
        return;
      }
      seen[corner] = true;
      over = corner == h ? Adjacency.previous(h) : corner;
    }
  }
}
