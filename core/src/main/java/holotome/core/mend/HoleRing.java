package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import java.util.Arrays;

/**
 * The places around a hole in the direction of its patch, which is against that of its border: once
 * round the hole, and once round each island within it.
 *
 * @param vertices the mesh's vertex at each place
 * @param next the place after each, round the same border
 * @param previous the place before each
 */
record HoleRing(int[] vertices, int[] next, int[] previous) {
  /**
   * @param loop border half-edges round the hole, then round each island within; a border ends
   *     where the next half-edge begins elsewhere
   */
  static HoleRing of(Mesh mesh, int[] loop) {
    int n = loop.length;
    int[] border = Borders.vertices(mesh, loop);
    int[] vertices = new int[n];
    int[] next = new int[n];
    int[] previous = new int[n];
    int begin = 0;
    for (int i = 0; i < n; i++) {
      boolean ends = i == n - 1 || mesh.triangles()[Adjacency.next(loop[i])] != border[i + 1];
      if (ends) {
        int size = i + 1 - begin;
        for (int k = 0; k < size; k++) {
          vertices[begin + k] = border[i - k];
          next[begin + k] = begin + (k + 1) % size;
          previous[begin + k] = begin + (k + size - 1) % size;
        }
        begin = i + 1;
      }
    }
    return new HoleRing(vertices, next, previous);
  }

  int size() {
    return vertices.length;
  }

  /** Where each border begins, that round the hole first. */
  int[] begins() {
    int[] out = new int[size()];
    int n = 0;
    for (int i = 0; i < size(); i++) {
      if (i == 0 || next[i - 1] != i) {
        out[n++] = i;
      }
    }
    return Arrays.copyOf(out, n);
  }

  boolean areNeighbours(int a, int b) {
    return next[a] == b || next[b] == a;
  }

  /** Whether a border comes by one of its points twice, or by one of another's. */
  boolean repeats() {
    int[] sorted = vertices.clone();
    Arrays.sort(sorted);
    for (int i = 1; i < sorted.length; i++) {
      if (sorted[i] == sorted[i - 1]) {
        return true;
      }
    }
    return false;
  }
}
