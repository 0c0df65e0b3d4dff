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
  /** Numbers of a plane that is held: normal, bounds of its error, a point. */
  private static final int PLANE = 9;

  /** More than the roundings of a volume add up to, of its largest terms. */
  private static final double BOUND = 16 * 0x1p-53;

  /** Volumes above so much of the cube of the longest side have a sign for certain. */
  private static final double SURE = 1e-13;

  private final float[] p;
  private final int[] tri;
  private final long[] plain;
  private final double[] plane = new double[PLANE * BoxTree.LEAF];

  private final int[] held = new int[BoxTree.LEAF];
  private final boolean[] isKnown = new boolean[BoxTree.LEAF];

  /** The two axes a plane is looked at along. */
  private int x;

  private int y;

  /**
   * @param p 3 floats a vertex
   * @param tri 3 vertices a triangle; vertices on the same spot are one
   */
  TriangleOverlap(float[] p, int[] tri) {
    this(p, tri, null);
  }

  /**
   * @param plain a bit per vertex whose triangles meet nowhere but in what they share, see {@link
   *     PlainFans}; null where nothing is known
   */
  TriangleOverlap(float[] p, int[] tri, long[] plain) {
    this.p = p;
    this.tri = tri;
    this.plain = plain;
  }

  private boolean isPlain(int v) {
    return plain != null && (plain[v >> 6] >>> v & 1) != 0;
  }

  /** Holds a triangle that the following questions are about. */
  void take(int slot, int t) {
    held[slot] = t;
    isKnown[slot] = false;
  }

  private void findPlane(int slot) {
    isKnown[slot] = true;
    int t = held[slot];
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    double ux = (double) p[b] - p[a];
    double uy = (double) p[b + 1] - p[a + 1];
    double uz = (double) p[b + 2] - p[a + 2];
    double vx = (double) p[c] - p[a];
    double vy = (double) p[c + 1] - p[a + 1];
    double vz = (double) p[c + 2] - p[a + 2];
    int o = PLANE * slot;
    plane[o] = uy * vz - uz * vy;
    plane[o + 1] = uz * vx - ux * vz;
    plane[o + 2] = ux * vy - uy * vx;
    plane[o + 3] = BOUND * (Math.abs(uy * vz) + Math.abs(uz * vy));
    plane[o + 4] = BOUND * (Math.abs(uz * vx) + Math.abs(ux * vz));
    plane[o + 5] = BOUND * (Math.abs(ux * vy) + Math.abs(uy * vx));
    plane[o + 6] = p[a];
    plane[o + 7] = p[a + 1];
    plane[o + 8] = p[a + 2];
  }

  /** Whether the triangle held in a slot, t, and another meet. */
  boolean meet(int slot, int t, int u) {
    int t0 = tri[3 * t];
    int t1 = tri[3 * t + 1];
    int t2 = tri[3 * t + 2];
    int u0 = tri[3 * u];
    int u1 = tri[3 * u + 1];
    int u2 = tri[3 * u + 2];
    boolean a = t0 == u0 || t0 == u1 || t0 == u2;
    boolean b = t1 == u0 || t1 == u1 || t1 == u2;
    boolean c = t2 == u0 || t2 == u1 || t2 == u2;
    int shared = (a ? 1 : 0) + (b ? 1 : 0) + (c ? 1 : 0);
    if (shared == 3) {
      return !isFlat(t);
    }
    if (shared > 0 && isPlain(a ? t0 : b ? t1 : t2)) {
      return false;
    }
    if (shared == 2) {
      int other =
          u0 != t0 && u0 != t1 && u0 != t2 ? u0 : u1 != t0 && u1 != t1 && u1 != t2 ? u1 : u2;
      return sideOf(slot, t, other) == 0 && atEdge(t, a ? b ? 2 : 1 : 0, other);
    }
    if (shared == 1) {
      int v = a ? t0 : b ? t1 : t2;
      int x = u0 == v ? u1 : u1 == v ? u2 : u0;
      int y = u0 == v ? u2 : u1 == v ? u0 : u1;
      int quick =
          a ? wedges(t0, t1, t2, x, y) : b ? wedges(t1, t2, t0, x, y) : wedges(t2, t0, t1, x, y);
      return quick < 0 ? atCorner(t, u) : quick > 0;
    }
    int s = sideOf(slot, t, u0);
    return (s == 0 || s != sideOf(slot, t, u1) || s != sideOf(slot, t, u2)) && apart(t, u);
  }

  /**
   * Whether the triangles v a b and v c d meet beside v: 1 or 0 where doubles tell it for certain,
   * else -1. Each has the line that their planes share on one side of v only.
   */
  private int wedges(int v, int a, int b, int c, int d) {
    double vx = p[3 * v];
    double vy = p[3 * v + 1];
    double vz = p[3 * v + 2];
    double ax = p[3 * a] - vx;
    double ay = p[3 * a + 1] - vy;
    double az = p[3 * a + 2] - vz;
    double bx = p[3 * b] - vx;
    double by = p[3 * b + 1] - vy;
    double bz = p[3 * b + 2] - vz;
    double cx = p[3 * c] - vx;
    double cy = p[3 * c + 1] - vy;
    double cz = p[3 * c + 2] - vz;
    double dx = p[3 * d] - vx;
    double dy = p[3 * d + 1] - vy;
    double dz = p[3 * d + 2] - vz;
    double nx = ay * bz - az * by;
    double ny = az * bx - ax * bz;
    double nz = ax * by - ay * bx;
    double sc = nx * cx + ny * cy + nz * cz;
    double sd = nx * dx + ny * dy + nz * dz;
    double most =
        Math.max(
            Math.max(ax * ax + ay * ay + az * az, bx * bx + by * by + bz * bz),
            Math.max(cx * cx + cy * cy + cz * cz, dx * dx + dy * dy + dz * dz));
    double unsure = SURE * most * Math.sqrt(most);
    if (sc > unsure && sd > unsure || sc < -unsure && sd < -unsure) {
      return 0;
    }
    double mx = cy * dz - cz * dy;
    double my = cz * dx - cx * dz;
    double mz = cx * dy - cy * dx;
    double sa = mx * ax + my * ay + mz * az;
    double sb = mx * bx + my * by + mz * bz;
    if (sa > unsure && sb > unsure || sa < -unsure && sb < -unsure) {
      return 0;
    }
    if (Math.min(Math.min(Math.abs(sa), Math.abs(sb)), Math.min(Math.abs(sc), Math.abs(sd)))
        <= unsure) {
      return -1;
    }
    double q = Math.abs(sb);
    double r = Math.abs(sa);
    double s = Math.abs(sd);
    double t = Math.abs(sc);
    double qx = ax * q + bx * r;
    double qy = ay * q + by * r;
    double qz = az * q + bz * r;
    double rx = cx * s + dx * t;
    double ry = cy * s + dy * t;
    double rz = cz * s + dz * t;
    double dot = qx * rx + qy * ry + qz * rz;
    double sure = (qx * qx + qy * qy + qz * qz) * (rx * rx + ry * ry + rz * rz);
    return dot * dot > sure / 4 ? dot > 0 ? 1 : 0 : -1;
  }

  /** The side of a vertex, from the plane that is held where that tells it. */
  private int sideOf(int slot, int t, int v) {
    if (!isKnown[slot]) {
      findPlane(slot);
    }
    int o = PLANE * slot;
    double x = p[3 * v] - plane[o + 6];
    double y = p[3 * v + 1] - plane[o + 7];
    double z = p[3 * v + 2] - plane[o + 8];
    double above = plane[o] * x + plane[o + 1] * y + plane[o + 2] * z;
    double unsure =
        plane[o + 3] * Math.abs(x) + plane[o + 4] * Math.abs(y) + plane[o + 5] * Math.abs(z);
    return above > unsure ? -1 : above < -unsure ? 1 : side(t, v);
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
