package holotome.core.proxy;

import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * All cells that planes part a box into (an arrangement of planes, Edelsbrunner, O'Rourke and
 * Seidel 1986), made by one plane after the other: every cell is convex, and neighbours share their
 * facets, edges and corners, so that what is put together of them has no gaps. n planes make up to
 * n³ / 6 cells; each plane takes time by the cells there are.
 */
final class Arrangement {
  /** No cell: beyond the box. */
  static final int OUTSIDE = -1;

  /** Corners nearer to a plane than this lie in it; the box is about 1 across. */
  private static final double EPS = 1e-10;

  /** A flat side of cells. */
  static final class Facet {
    /** Its corners, counter-clockwise seen from where its plane's normal points. */
    int[] corners;

    /** The number of its plane; below nought for a side of the box. */
    final int plane;

    /** The cell that the normal points into, and the one behind. */
    int front;

    int back;

    Facet(int[] corners, int plane, int front, int back) {
      this.corners = corners;
      this.plane = plane;
      this.front = front;
      this.back = back;
    }
  }

  private double[] xyz = new double[96];
  private int points;
  private final List<Facet> facets = new ArrayList<>();
  private final List<List<Facet>> cells = new ArrayList<>();
  private double[] over = new double[32];

  /**
   * A box as one cell.
   *
   * @param axes three unit vectors square to each other, right-handed
   * @param low how far it reaches along them, at least
   * @param high at most
   */
  Arrangement(double[][] axes, double[] low, double[] high) {
    for (int i = 0; i < 8; i++) {
      double[] p = new double[3];
      for (int k = 0; k < 3; k++) {
        double along = (i >> k & 1) == 0 ? low[k] : high[k];
        p = Vec.add(p, Vec.mul(axes[k], along));
      }
      point(p[0], p[1], p[2]);
    }
    int[][] sides = {
      {0, 4, 6, 2}, {1, 3, 7, 5}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 2, 3, 1}, {4, 5, 7, 6}
    };
    List<Facet> all = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      Facet f = new Facet(sides[i], -1 - i, OUTSIDE, 0);
      facets.add(f);
      all.add(f);
    }
    cells.add(all);
  }

  private int point(double x, double y, double z) {
    if (3 * points == xyz.length) {
      xyz = Arrays.copyOf(xyz, 2 * xyz.length);
    }
    xyz[3 * points] = x;
    xyz[3 * points + 1] = y;
    xyz[3 * points + 2] = z;
    return points++;
  }

  double[] at(int point) {
    return Arrays.copyOfRange(xyz, 3 * point, 3 * point + 3);
  }

  List<Facet> facets() {
    return facets;
  }

  int cellCount() {
    return cells.size();
  }

  List<Facet> cell(int c) {
    return cells.get(c);
  }

  private static long key(int a, int b) {
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  private int side(int p) {
    return over[p] > EPS ? 1 : over[p] < -EPS ? -1 : 0;
  }

  /** Parts everything that a plane goes through. */
  void cut(int plane, Wall wall) {
    over = Arrays.copyOf(over, Math.max(over.length, points));
    for (int i = 0; i < points; i++) {
      over[i] = wall.over(xyz[3 * i], xyz[3 * i + 1], xyz[3 * i + 2]);
    }
    Map<Long, Integer> onEdge = new HashMap<>();
    int before = facets.size();
    Map<Facet, Facet> below = new HashMap<>();
    for (int i = 0; i < before; i++) {
      Facet f = facets.get(i);
      if (isCut(f.corners)) {
        below.put(f, partFacet(f, onEdge));
      }
    }
    int cellsBefore = cells.size();
    for (int c = 0; c < cellsBefore; c++) {
      partCell(c, plane, wall, below);
    }
  }

  private boolean isCut(int[] corners) {
    boolean up = false;
    boolean down = false;
    for (int p : corners) {
      up |= side(p) > 0;
      down |= side(p) < 0;
    }
    return up && down;
  }

  /** The facet keeps what lies over the plane; a new one has what lies below. */
  private Facet partFacet(Facet f, Map<Long, Integer> onEdge) {
    int n = f.corners.length;
    int[] up = new int[n + 2];
    int[] down = new int[n + 2];
    int ups = 0;
    int downs = 0;
    for (int i = 0; i < n; i++) {
      int a = f.corners[i];
      int b = f.corners[(i + 1) % n];
      int s = side(a);
      if (s >= 0) {
        up[ups++] = a;
      }
      if (s <= 0) {
        down[downs++] = a;
      }
      if (s * side(b) < 0) {
        int m = onEdge.computeIfAbsent(key(a, b), k -> crossing(a, b));
        up[ups++] = m;
        down[downs++] = m;
      }
    }
    f.corners = Arrays.copyOf(up, ups);
    Facet made = new Facet(Arrays.copyOf(down, downs), f.plane, f.front, f.back);
    facets.add(made);
    return made;
  }

  private int crossing(int a, int b) {
    // From the lower number on, so that it does not matter which facet comes first.
    int p = Math.min(a, b);
    int q = Math.max(a, b);
    double t = over[p] / (over[p] - over[q]);
    int m =
        point(
            xyz[3 * p] + t * (xyz[3 * q] - xyz[3 * p]),
            xyz[3 * p + 1] + t * (xyz[3 * q + 1] - xyz[3 * p + 1]),
            xyz[3 * p + 2] + t * (xyz[3 * q + 2] - xyz[3 * p + 2]));
    if (over.length < points) {
      over = Arrays.copyOf(over, 2 * points);
    }
    over[m] = 0;
    return m;
  }

  private void partCell(int c, int plane, Wall wall, Map<Facet, Facet> below) {
    List<Facet> up = new ArrayList<>();
    List<Facet> down = new ArrayList<>();
    boolean isThin = false;
    for (Facet f : cells.get(c)) {
      Facet under = below.get(f);
      int s = 0;
      for (int p : f.corners) {
        s = s == 0 ? side(p) : s;
      }
      if (under != null) {
        up.add(f);
        down.add(under);
      } else {
        (s >= 0 ? up : down).add(f);
        isThin |= s == 0;
      }
    }
    int[] rim = up.isEmpty() || down.isEmpty() || isThin ? new int[0] : rim(up);
    if (rim.length < 3) {
      // Beside the plane, or as thin as rounding: the cell stays whole.
      up.addAll(down);
      cells.set(c, up);
      return;
    }
    int made = cells.size();
    Facet cap = new Facet(around(rim, wall.normal()), plane, c, made);
    facets.add(cap);
    up.add(cap);
    for (Facet f : down) {
      if (f.front == c) {
        f.front = made;
      } else {
        f.back = made;
      }
    }
    down.add(cap);
    cells.set(c, up);
    cells.add(down);
  }

  /** The points of the plane among the corners of a cell's facets over it. */
  private int[] rim(List<Facet> up) {
    return up.stream()
        .flatMapToInt(f -> Arrays.stream(f.corners))
        .filter(p -> side(p) == 0)
        .distinct()
        .toArray();
  }

  /** Points of a plane in convex position, counter-clockwise. */
  private int[] around(int[] rim, double[] normal) {
    double[] middle = new double[3];
    for (int p : rim) {
      middle = Vec.add(middle, Vec.mul(at(p), 1.0 / rim.length));
    }
    double[] u = Vec.perpendicular(normal);
    double[] v = Vec.cross(normal, u);
    double[] m = middle;
    Integer[] order = Arrays.stream(rim).boxed().toArray(Integer[]::new);
    Map<Integer, Double> angle = new HashMap<>();
    for (int p : rim) {
      double[] d = Vec.sub(at(p), m);
      angle.put(p, Math.atan2(Vec.dot(d, v), Vec.dot(d, u)));
    }
    Arrays.sort(order, (a, b) -> Double.compare(angle.get(a), angle.get(b)));
    return Arrays.stream(order).mapToInt(Integer::intValue).toArray();
  }
}
