package holotome.core.quad;

import java.util.BitSet;

/**
 * The lines of a surface that a lattice is to lie along: open edges, and edges that are sharp or
 * where something else ends. Small notches in them are passed over: how a line runs is seen over a
 * length, and so is where it has a corner.
 */
final class SurfaceLines {
  /** So many vertices along is no longer near. */
  private static final int FARTHEST = 64;

  /** A line that turns by more than this has a corner: the cosine of what is left of a straight. */
  private static final double CORNER = Math.cos(Math.toRadians(50));

  private final FieldLevel level;

  /** Where the neighbours of each vertex along lines begin, and at the end how many there are. */
  private final int[] start;

  private final int[] near;
  private final BitSet open;

  private SurfaceLines(FieldLevel level, int[] start, int[] near, BitSet open) {
    this.level = level;
    this.start = start;
    this.near = near;
    this.open = open;
  }

  /**
   * Finds how lines go on.
   *
   * @param held half-edges on lines, open ones included
   */
  static SurfaceLines of(FieldLevel level, int[] tri, int[] twin, boolean[] held) {
    BitSet open = new BitSet();
    int[] start = new int[level.size() + 1];
    for (int h = 0; h < tri.length; h++) {
      if (twin[h] < 0) {
        open.set(tri[h]);
        open.set(tri[LatticeSteps.next(h)]);
      }
      if (held[h] && (twin[h] < 0 || h < twin[h])) {
        start[tri[h] + 1]++;
        start[tri[LatticeSteps.next(h)] + 1]++;
      }
    }
    for (int v = 0; v < level.size(); v++) {
      start[v + 1] += start[v];
    }
    int[] near = new int[start[level.size()]];
    int[] fill = start.clone();
    for (int h = 0; h < tri.length; h++) {
      if (held[h] && (twin[h] < 0 || h < twin[h])) {
        int u = tri[LatticeSteps.next(h)];
        near[fill[tri[h]]++] = u;
        near[fill[u]++] = tri[h];
      }
    }
    return new SurfaceLines(level, start, near, open);
  }

  private int count(int v) {
    return start[v + 1] - start[v];
  }

  /** Of a vertex with two neighbours the other one. */
  private int beyond(int v, int one) {
    return near[start[v]] == one ? near[start[v] + 1] : near[start[v]];
  }

  /** Whether the surface ends at a vertex. */
  boolean isOpen(int v) {
    return open.get(v);
  }

  /**
   * What a lattice is held to at each vertex.
   *
   * @param reach over how long a piece on either side a line's way is seen
   */
  Holds holds(double reach) {
    int n = level.size();
    Holds out = Holds.none(n);
    boolean[] corner = new boolean[n];
    double[] bend = new double[n];
    for (int v = 0; v < n; v++) {
      corner[v] = count(v) > 2;
    }
    double[] a = new double[3];
    double[] b = new double[3];
    for (int v = 0; v < n; v++) {
      if (count(v) == 2) {
        walk(v, near[start[v]], reach, corner, a);
        walk(v, near[start[v] + 1], reach, corner, b);
        bend[v] = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
      }
    }
    boolean[] found = corner.clone();
    for (int v = 0; v < n; v++) {
      found[v] |= count(v) == 2 && bend[v] > -CORNER && isSharpest(v, bend, reach);
    }
    for (int v = 0; v < n; v++) {
      if (count(v) > 0) {
        hold(v, found, reach, out, a, b);
      }
    }
    return out;
  }

  private void hold(int v, boolean[] corner, double reach, Holds out, double[] a, double[] b) {
    out.kind()[v] = corner[v] ? Holds.PLACE : Holds.LINE;
    walk(v, near[start[v]], reach, corner, a);
    if (count(v) == 2 && !corner[v]) {
      walk(v, near[start[v] + 1], reach, corner, b);
      for (int k = 0; k < 3; k++) {
        a[k] -= b[k];
      }
    }
    double square = 0;
    double dot = 0;
    float[] normal = level.normal();
    for (int k = 0; k < 3; k++) {
      dot += a[k] * normal[3 * v + k];
    }
    for (int k = 0; k < 3; k++) {
      a[k] -= dot * normal[3 * v + k];
      square += a[k] * a[k];
    }
    if (!(square > 1e-12)) {
      out.kind()[v] = Holds.FREE;
      return;
    }
    for (int k = 0; k < 3; k++) {
      out.along()[3 * v + k] = (float) (a[k] / Math.sqrt(square));
      out.through()[3 * v + k] = level.at()[3 * v + k];
    }
  }

  /** The direction from a vertex to a point along its line so far off, or where the line ends. */
  private void walk(int v, int first, double reach, boolean[] corner, double[] way) {
    int before = v;
    int at = first;
    double gone = distance(v, at);
    while (gone < reach && count(at) == 2 && !corner[at] && at != v) {
      int next = beyond(at, before);
      before = at;
      gone += distance(at, next);
      at = next;
    }
    double square = 0;
    for (int k = 0; k < 3; k++) {
      way[k] = level.at()[3 * at + k] - level.at()[3 * v + k];
      square += way[k] * way[k];
    }
    for (int k = 0; k < 3; k++) {
      way[k] = square > 0 ? way[k] / Math.sqrt(square) : 0;
    }
  }

  /** Whether no other vertex nearby along the line has a sharper bend. */
  private boolean isSharpest(int v, double[] bend, double reach) {
    for (int side = 0; side < 2; side++) {
      int before = v;
      int at = near[start[v] + side];
      double gone = distance(v, at);
      while (gone < reach && count(at) == 2 && at != v) {
        if (bend[at] > bend[v] || bend[at] == bend[v] && at < v) {
          return false;
        }
        int next = beyond(at, before);
        before = at;
        gone += distance(at, next);
        at = next;
      }
    }
    return true;
  }

  private double distance(int a, int b) {
    float[] p = level.at();
    double x = p[3 * a] - p[3 * b];
    double y = p[3 * a + 1] - p[3 * b + 1];
    double z = p[3 * a + 2] - p[3 * b + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }

  /**
   * Lays a point on the line it belongs to, where that is nearest going from vertex to vertex.
   *
   * @param at places, 3 doubles a point; changed
   * @param on the vertex of the line that each point is near; changed
   */
  void lay(int v, double[] at, int[] on) {
    double[] p = {at[3 * v], at[3 * v + 1], at[3 * v + 2]};
    double[] best = new double[3];
    int now = on[v];
    for (int step = 0; step < FARTHEST; step++) {
      double least = Double.POSITIVE_INFINITY;
      int next = now;
      for (int i = start[now]; i < start[now + 1]; i++) {
        int u = near[i];
        double share = share(p, now, u);
        double square = 0;
        for (int k = 0; k < 3; k++) {
          double q = mix(now, u, share, k) - p[k];
          square += q * q;
        }
        if (square < least) {
          least = square;
          next = share > 0.5 ? u : now;
          for (int k = 0; k < 3; k++) {
            best[k] = mix(now, u, share, k);
          }
        }
      }
      if (next == now) {
        break;
      }
      now = next;
    }
    if (count(now) > 0) {
      on[v] = now;
      System.arraycopy(best, 0, at, 3 * v, 3);
    }
  }

  private double mix(int a, int b, double share, int k) {
    float[] p = level.at();
    return p[3 * a + k] + share * ((double) p[3 * b + k] - p[3 * a + k]);
  }

  private double share(double[] p, int a, int b) {
    float[] q = level.at();
    double dot = 0;
    double square = 0;
    for (int k = 0; k < 3; k++) {
      double d = (double) q[3 * b + k] - q[3 * a + k];
      dot += d * (p[k] - q[3 * a + k]);
      square += d * d;
    }
    return square > 0 ? Math.clamp(dot / square, 0, 1) : 0;
  }
}
