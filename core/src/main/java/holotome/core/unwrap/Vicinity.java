package holotome.core.unwrap;

import java.util.Arrays;

/**
 * Parts of a piece to be moved while the rest of it stays: what lies around some of its vertices,
 * nearest first by steps from edge to edge. O(vertices of the piece) once, then O(vertices of the
 * part) for each part.
 */
final class Vicinity {
  private final Piece whole;

  /** The corners at each vertex, one vertex after the other: {@link Fans}. */
  private final int[] start;

  private final int[] around;

  /** Number in the part of each vertex, -1 for none, while a part is made. */
  private final int[] within;

  private final boolean[] isTaken;
  private int[] queue = new int[256];
  private int end;

  Vicinity(Piece whole) {
    this.whole = whole;
    Fans fans = Fans.of(whole);
    start = fans.start();
    around = fans.corner();
    within = new int[whole.vertices()];
    Arrays.fill(within, -1);
    isTaken = new boolean[whole.triangles().length];
  }

  /**
   * A part.
   *
   * @param piece by itself; its triangles are numbered within the whole
   * @param vertices of the whole, those that may move first
   * @param moved how many may move; the others are its rim
   */
  record Part(Piece piece, int[] vertices, int moved) {
    /** Which vertices stay where they are; null for none. */
    boolean[] held() {
      if (moved == vertices.length) {
        return null;
      }
      boolean[] out = new boolean[vertices.length];
      Arrays.fill(out, moved, out.length, true);
      return out;
    }

    /** Puts the places of the part's vertices into those of the whole. */
    void put(double[] places, double[] whole) {
      for (int i = 0; i < moved; i++) {
        whole[2 * vertices[i]] = places[2 * i];
        whole[2 * vertices[i] + 1] = places[2 * i + 1];
      }
    }
  }

  /**
   * The part around some vertices.
   *
   * @param near vertices to begin at; may come more than once
   * @param reach vertices to be moved, about
   */
  Part part(int[] near, int reach) {
    int[] k = whole.corners();
    end = 0;
    for (int v : near) {
      number(v);
    }
    for (int at = 0; at < end && end < reach; at++) {
      int v = queue[at];
      for (int i = start[v]; i < start[v + 1]; i++) {
        int t = around[i] / 3;
        number(k[3 * t]);
        number(k[3 * t + 1]);
        number(k[3 * t + 2]);
      }
    }
    int moved = end;
    int[] taken = new int[256];
    int triangles = 0;
    for (int at = 0; at < moved; at++) {
      int v = queue[at];
      for (int i = start[v]; i < start[v + 1]; i++) {
        int t = around[i] / 3;
        if (!isTaken[t]) {
          isTaken[t] = true;
          if (triangles == taken.length) {
            taken = Arrays.copyOf(taken, 2 * triangles);
          }
          taken[triangles++] = t;
        }
      }
    }
    int[] corners = new int[3 * triangles];
    double[] rest = new double[3 * triangles];
    for (int i = 0; i < triangles; i++) {
      isTaken[taken[i]] = false;
      System.arraycopy(whole.rest(), 3 * taken[i], rest, 3 * i, 3);
      for (int c = 0; c < 3; c++) {
        corners[3 * i + c] = number(k[3 * taken[i] + c]);
      }
    }
    double[] uv = new double[2 * end];
    for (int i = 0; i < end; i++) {
      uv[2 * i] = whole.uv()[2 * queue[i]];
      uv[2 * i + 1] = whole.uv()[2 * queue[i] + 1];
      within[queue[i]] = -1;
    }
    return new Part(
        new Piece(Arrays.copyOf(taken, triangles), corners, rest, uv),
        Arrays.copyOf(queue, end),
        moved);
  }

  private int number(int v) {
    if (within[v] < 0) {
      if (end == queue.length) {
        queue = Arrays.copyOf(queue, 2 * end);
      }
      within[v] = end;
      queue[end++] = v;
    }
    return within[v];
  }
}
