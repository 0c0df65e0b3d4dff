package holotome.core.unwrap;

import java.util.Arrays;

/**
 * The corners at each vertex of a piece.
 *
 * @param start where each vertex's begin, and at the end how many there are
 * @param corner places in the piece's corners, three to a triangle; rising at each vertex
 */
record Fans(int[] start, int[] corner) {

  /** Of all vertices; O(T). */
  static Fans of(Piece piece) {
    int n = piece.vertices();
    int[] k = piece.corners();
    int[] start = new int[n + 1];
    for (int v : k) {
      start[v + 1]++;
    }
    for (int v = 0; v < n; v++) {
      start[v + 1] += start[v];
    }
    int[] corner = new int[k.length];
    int[] fill = Arrays.copyOf(start, n);
    for (int h = 0; h < k.length; h++) {
      corner[fill[k[h]]++] = h;
    }
    return new Fans(start, corner);
  }
}
