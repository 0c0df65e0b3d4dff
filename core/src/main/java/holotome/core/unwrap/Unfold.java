package holotome.core.unwrap;

/**
 * Lays triangles beside the known edges that they share, each in its own shape, nearest first,
 * until every vertex of a piece has a place. O(T).
 */
final class Unfold {
  private Unfold() {}

  /**
   * @param p the places of its unknown vertices are filled in
   * @param isKnown one per vertex; filled in
   * @return false where some vertex cannot be reached over edges with known ends
   */
  static boolean all(Piece p, boolean[] isKnown) {
    int[] k = p.corners();
    int unknown = 0;
    for (boolean b : isKnown) {
      unknown += b ? 0 : 1;
    }
    if (unknown == 0) {
      return true;
    }
    Fans fans = Fans.of(p);
    int[] queue = new int[k.length / 3 + k.length];
    int end = 0;
    for (int t = 0; t < k.length / 3; t++) {
      if (missing(k, t, isKnown) >= 0) {
        queue[end++] = t;
      }
    }
    for (int at = 0; at < end; at++) {
      int which = missing(k, queue[at], isKnown);
      if (which < 0) {
        continue;
      }
      hinge(p, queue[at], which);
      int v = k[3 * queue[at] + which];
      isKnown[v] = true;
      unknown--;
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int t = fans.corner()[i] / 3;
        if (missing(k, t, isKnown) >= 0) {
          queue[end++] = t;
        }
      }
    }
    return unknown == 0;
  }

  /** Which corner of a triangle is unknown where that is the only one; else -1. */
  private static int missing(int[] k, int t, boolean[] isKnown) {
    int which = -1;
    for (int i = 0; i < 3; i++) {
      if (!isKnown[k[3 * t + i]]) {
        if (which >= 0) {
          return -1;
        }
        which = i;
      }
    }
    return which;
  }

  private static void hinge(Piece p, int t, int which) {
    double l = p.rest()[3 * t];
    double[] x = {0, l, p.rest()[3 * t + 1]};
    double[] y = {0, 0, p.rest()[3 * t + 2]};
    int a = (which + 1) % 3;
    int b = (which + 2) % 3;
    double ex = x[b] - x[a];
    double ey = y[b] - y[a];
    double fx = x[which] - x[a];
    double fy = y[which] - y[a];
    double length = ex * ex + ey * ey;
    double along = (fx * ex + fy * ey) / length;
    double across = (fy * ex - fx * ey) / length;
    int ia = 2 * p.corners()[3 * t + a];
    int ib = 2 * p.corners()[3 * t + b];
    int iw = 2 * p.corners()[3 * t + which];
    double ux = p.uv()[ib] - p.uv()[ia];
    double uy = p.uv()[ib + 1] - p.uv()[ia + 1];
    p.uv()[iw] = p.uv()[ia] + along * ux - across * uy;
    p.uv()[iw + 1] = p.uv()[ia + 1] + along * uy + across * ux;
  }
}
