package holotome.core.spatial;

import holotome.core.geometry.Predicates;

/**
 * Whether two triangles of a mesh meet in more than the corners and edges they share, told exactly.
 *
 * <p>Touching counts: two triangles without a common corner meet as soon as one point of the one
 * lies on the other. Two that share a corner meet where they do so anywhere else; two that share an
 * edge where they lie in one plane on the same side of it. After Guigue and Devillers, "Fast and
 * robust triangle-triangle overlap test using orientation predicates" (2003), by the sides of
 * corners alone. Triangles without area meet nothing.
 */
final class TriangleOverlap {
  private final float[] p;
  private final int[] tri;

  /** The two axes a plane is looked at along. */
  private int x;

  private int y;

  /**
   * @param p 3 floats a vertex
   * @param tri 3 vertices a triangle; vertices on the same spot are one
   */
  TriangleOverlap(float[] p, int[] tri) {
    this.p = p;
    this.tri = tri;
  }

  boolean meet(int t, int u) {
    int shared = 0;
    int onlyT = 0;
    int onlyU = 0;
    for (int k = 0; k < 3; k++) {
      if (has(u, tri[3 * t + k])) {
        shared++;
      } else {
        onlyT = k;
      }
      if (!has(t, tri[3 * u + k])) {
        onlyU = k;
      }
    }
    return switch (shared) {
      case 0 -> apart(t, u);
      case 1 -> atCorner(t, u);
      case 2 -> atEdge(t, onlyT, tri[3 * u + onlyU]);
      default -> !isFlat(t);
    };
  }

  /** Whether a triangle has no area, seen along all three axes. */
  boolean isFlat(int t) {
    int a = tri[3 * t];
    int b = tri[3 * t + 1];
    int c = tri[3 * t + 2];
    return Predicates.turn(p, a, b, c, 0, 1) == 0
        && Predicates.turn(p, a, b, c, 1, 2) == 0
        && Predicates.turn(p, a, b, c, 2, 0) == 0;
  }

  private boolean has(int u, int v) {
    return tri[3 * u] == v || tri[3 * u + 1] == v || tri[3 * u + 2] == v;
  }

  private int side(int t, int v) {
    return Predicates.side(p, tri[3 * t], tri[3 * t + 1], tri[3 * t + 2], v);
  }

  private boolean apart(int t, int u) {
    int a = side(t, tri[3 * u]);
    int b = side(t, tri[3 * u + 1]);
    int c = side(t, tri[3 * u + 2]);
    if (a != 0 && a == b && b == c) {
      return false;
    }
    int d = side(u, tri[3 * t]);
    int e = side(u, tri[3 * t + 1]);
    int f = side(u, tri[3 * t + 2]);
    if (d != 0 && d == e && e == f || isFlat(t) || isFlat(u)) {
      return false;
    }
    for (int k = 0; k < 3; k++) {
      int n = (k + 1) % 3;
      if (meets(tri[3 * t + k], tri[3 * t + n], u) || meets(tri[3 * u + k], tri[3 * u + n], t)) {
        return true;
      }
    }
    return false;
  }

  private boolean atCorner(int t, int u) {
    int i = 0;
    while (!has(u, tri[3 * t + i])) {
      i++;
    }
    int j = 0;
    while (tri[3 * u + j] != tri[3 * t + i]) {
      j++;
    }
    int a = tri[3 * t + (i + 1) % 3];
    int b = tri[3 * t + (i + 2) % 3];
    int c = tri[3 * u + (j + 1) % 3];
    int d = tri[3 * u + (j + 2) % 3];
    int sc = side(t, c);
    int sd = side(t, d);
    if (sc != 0 && sc == sd) {
      return false;
    }
    int sa = side(u, a);
    int sb = side(u, b);
    if (sa != 0 && sa == sb || isFlat(t) || isFlat(u)) {
      return false;
    }
    return meets(a, b, u) || meets(c, d, t);
  }

  private boolean atEdge(int t, int k, int other) {
    int a = tri[3 * t + (k + 1) % 3];
    int b = tri[3 * t + (k + 2) % 3];
    int own = tri[3 * t + k];
    if (Predicates.side(p, a, b, own, other) != 0) {
      return false;
    }
    if (!look(a, b, own)) {
      return false;
    }
    int s = Predicates.turn(p, a, b, other, x, y);
    return s != 0 && s == Predicates.turn(p, a, b, own, x, y);
  }

  /** Whether the segment from a to b has a point of triangle u. */
  private boolean meets(int a, int b, int u) {
    int i = tri[3 * u];
    int j = tri[3 * u + 1];
    int k = tri[3 * u + 2];
    int d0 = Predicates.side(p, i, j, k, a);
    int d1 = Predicates.side(p, i, j, k, b);
    if (d0 == d1) {
      return d0 == 0 && look(i, j, k) && meetsInPlane(a, b, i, j, k);
    }
    int q = Predicates.side(p, a, b, i, j);
    int r = Predicates.side(p, a, b, j, k);
    int s = Predicates.side(p, a, b, k, i);
    return q >= 0 && r >= 0 && s >= 0 || q <= 0 && r <= 0 && s <= 0;
  }

  private boolean meetsInPlane(int a, int b, int i, int j, int k) {
    return within(a, i, j, k)
        || within(b, i, j, k)
        || cross(a, b, i, j)
        || cross(a, b, j, k)
        || cross(a, b, k, i);
  }

  private boolean within(int v, int i, int j, int k) {
    int q = Predicates.turn(p, i, j, v, x, y);
    int r = Predicates.turn(p, j, k, v, x, y);
    int s = Predicates.turn(p, k, i, v, x, y);
    return q >= 0 && r >= 0 && s >= 0 || q <= 0 && r <= 0 && s <= 0;
  }

  /** Whether two segments of a plane have a point in common. */
  private boolean cross(int a, int b, int c, int d) {
    int q = Predicates.turn(p, a, b, c, x, y);
    int r = Predicates.turn(p, a, b, d, x, y);
    int s = Predicates.turn(p, c, d, a, x, y);
    int t = Predicates.turn(p, c, d, b, x, y);
    if (q == 0 && r == 0) {
      return overlap(a, b, c, d, x) && overlap(a, b, c, d, y);
    }
    return q * r <= 0 && s * t <= 0;
  }

  /** Whether two segments' spans along an axis overlap. */
  private boolean overlap(int a, int b, int c, int d, int axis) {
    float lo = Math.min(p[3 * a + axis], p[3 * b + axis]);
    float hi = Math.max(p[3 * a + axis], p[3 * b + axis]);
    return Math.max(p[3 * c + axis], p[3 * d + axis]) >= lo
        && Math.min(p[3 * c + axis], p[3 * d + axis]) <= hi;
  }

  /** Chooses two axes along which a triangle is seen with area; false if there are none. */
  private boolean look(int a, int b, int c) {
    for (int k = 0; k < 3; k++) {
      if (Predicates.turn(p, a, b, c, k, (k + 1) % 3) != 0) {
        x = k;
        y = (k + 1) % 3;
        return true;
      }
    }
    return false;
  }
}
