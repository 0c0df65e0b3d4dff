package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Does edits by hand to a {@link Neighbourhood}, one after the other. What would leave an edge with
 * more than two triangles, or two triangles that run it the same way, is not done, and it is said
 * why.
 */
final class HandEdits {
  private final Neighbourhood at;

  HandEdits(Neighbourhood at) {
    this.at = at;
  }

  /**
   * Does one edit.
   *
   * @param points in base coordinates, 3 doubles each: those of {@link Edit#at}
   * @param to those of {@link Edit#to}
   * @param by {@link Edit#by} in base coordinates
   * @return why it was not done, in plain words; null where it was
   */
  String run(Edit.How how, double[] points, double[] to, double[] by) {
    int[][] spots = spots(points);
    int[][] others = to == null ? new int[0][] : spots(to);
    for (int[] spot : spots) {
      if (spot.length == 0) {
        return CoreWords.of("hand-edits.no-point");
      }
    }
    for (int[] spot : others) {
      if (spot.length == 0) {
        return CoreWords.of("hand-edits.no-point");
      }
    }
    return switch (how) {
      case MOVE -> move(spots, by);
      case DELETE -> delete(spots);
      case ADD -> add(spots);
      case STRIP -> strip(spots, others);
      case TURN -> turn(spots);
      case COLLAPSE -> collapse(spots);
      case SPLIT -> spots.length == 2 ? splitEdge(spots) : splitTriangle(spots);
      case SNAP -> snap(spots, others);
    };
  }

  private int[][] spots(double[] points) {
    int[][] out = new int[points.length / 3][];
    for (int i = 0; i < out.length; i++) {
      out[i] = at.at(Arrays.copyOfRange(points, 3 * i, 3 * i + 3));
    }
    return out;
  }

  private String move(int[][] spots, double[] by) {
    // A point named twice moves once.
    BitSet all = new BitSet();
    for (int[] spot : spots) {
      for (int v : spot) {
        all.set(v);
      }
    }
    all.stream().forEach(v -> at.move(v, Vec.add(at.position(v), by)));
    return null;
  }

  private String delete(int[][] spots) {
    int n = 0;
    for (int t = 0; t < at.count(); t++) {
      boolean all = !at.isGone(t);
      for (int i = 0; all && i < spots.length; i++) {
        int triangle = t;
        all = Arrays.stream(spots[i]).anyMatch(v -> at.cornerOf(triangle, v) >= 0);
      }
      if (all) {
        at.delete(t);
        n++;
      }
    }
    return n == 0 ? CoreWords.of("hand-edits.no-triangle") : null;
  }

  // --- triangles added -----------------------------------------------------------------------

  private String add(int[][] spots) {
    int[] v = new int[3];
    for (int i = 0; i < 3; i++) {
      v[i] = onRim(spots[i], spots[(i + 1) % 3], spots[(i + 2) % 3]);
    }
    if (v[0] == v[1] || v[1] == v[2] || v[2] == v[0]) {
      return CoreWords.of("hand-edits.three-points");
    }
    if (at.having(v).length > 0) {
      return CoreWords.of("hand-edits.is-there");
    }
    return addAll(v);
  }

  /**
   * Of the vertices on one spot, the one with an edge along a rim to the others; else the first.
   */
  private int onRim(int[] spot, int[]... others) {
    for (int v : spot) {
      for (int[] other : others) {
        for (int u : other) {
          if (at.having(v, u).length == 1) {
            return v;
          }
        }
      }
    }
    return spot[0];
  }

  /** Adds triangles, the way round that their neighbours want. */
  private String addAll(int... v) {
    int along = 0;
    int against = 0;
    for (int i = 0; i < v.length; i += 3) {
      for (int k = 0; k < 3; k++) {
        for (int t : at.having(v[i + k], v[i + (k + 1) % 3])) {
          boolean same = at.runs(t, v[i + k], v[i + (k + 1) % 3]);
          along += same ? 1 : 0;
          against += same ? 0 : 1;
        }
      }
    }
    if (along > 0 && against > 0) {
      return CoreWords.of("hand-edits.neighbours-disagree");
    }
    Neighbourhood.Saved before = at.saved();
    for (int i = 0; i < v.length; i += 3) {
      at.add(v[i], v[i + (along > 0 ? 2 : 1)], v[i + (along > 0 ? 1 : 2)]);
    }
    return crowded(v) ? undone(before) : null;
  }

  private String undone(Neighbourhood.Saved before) {
    at.restore(before);
    return CoreWords.of("hand-edits.crowded");
  }

  /** Whether an edge of some vertices now has more than two triangles, or two the same way. */
  private boolean crowded(int... vertices) {
    BitSet asked = new BitSet();
    for (int v : vertices) {
      if (asked.get(v)) {
        continue;
      }
      asked.set(v);
      BitSet around = at.around(v);
      for (int u = around.nextSetBit(0); u >= 0; u = around.nextSetBit(u + 1)) {
        int[] both = at.having(v, u);
        if (both.length > 2
            || both.length == 2 && at.runs(both[0], v, u) == at.runs(both[1], v, u)) {
          return true;
        }
      }
    }
    return false;
  }

  /** The vertices of a run along a rim; null where it is none. */
  private int[] run(int[][] spots) {
    int n = spots.length;
    int[] v = new int[n];
    for (int i = 0; i < n; i++) {
      v[i] = n == 1 ? spots[0][0] : onRim(spots[i], spots[i == 0 ? 1 : i - 1]);
      if (i > 0 && at.having(v[i - 1], v[i]).length != 1) {
        return null;
      }
    }
    return v;
  }

  private String strip(int[][] spots, int[][] others) {
    int[] p = run(spots);
    int[] q = run(others);
    if (p == null || q == null) {
      return CoreWords.of("hand-edits.no-rim");
    }
    q = besides(p, q);
    int[] triangles = Strips.between(points(p), points(q));
    int[] both = Arrays.copyOf(p, p.length + q.length);
    System.arraycopy(q, 0, both, p.length, q.length);
    int n = 0;
    for (int i = 0; i < triangles.length; i += 3) {
      int a = both[triangles[i]];
      int b = both[triangles[i + 1]];
      int c = both[triangles[i + 2]];
      // Runs that begin or end in one point leave nothing to close there.
      if (a != b && b != c && c != a) {
        triangles[n++] = a;
        triangles[n++] = b;
        triangles[n++] = c;
      }
    }
    return n == 0 ? CoreWords.of("hand-edits.three-points") : addAll(Arrays.copyOf(triangles, n));
  }

  /** The other run, turned so that it begins where the first one does. */
  private int[] besides(int[] p, int[] q) {
    double[] p0 = at.position(p[0]);
    double[] p1 = at.position(p[p.length - 1]);
    double[] q0 = at.position(q[0]);
    double[] q1 = at.position(q[q.length - 1]);
    if (Vec.distance(p0, q0) + Vec.distance(p1, q1)
        <= Vec.distance(p0, q1) + Vec.distance(p1, q0)) {
      return q;
    }
    int[] out = new int[q.length];
    for (int i = 0; i < q.length; i++) {
      out[i] = q[q.length - 1 - i];
    }
    return out;
  }

  private double[][] points(int[] vertices) {
    double[][] out = new double[vertices.length][];
    for (int i = 0; i < out.length; i++) {
      out[i] = at.position(vertices[i]);
    }
    return out;
  }

  // --- edges ---------------------------------------------------------------------------------

  /** The two ends of an edge that has triangles; null for none. */
  private int[] edge(int[][] spots) {
    for (int a : spots[0]) {
      for (int b : spots[1]) {
        if (a != b && at.having(a, b).length > 0) {
          return new int[] {a, b};
        }
      }
    }
    return null;
  }

  private String turn(int[][] spots) {
    int[] e = edge(spots);
    if (e == null) {
      return CoreWords.of("hand-edits.no-edge");
    }
    int[] both = at.having(e);
    if (both.length != 2 || at.runs(both[0], e[0], e[1]) == at.runs(both[1], e[0], e[1])) {
      return CoreWords.of("hand-edits.not-two");
    }
    int first = at.runs(both[0], e[0], e[1]) ? 0 : 1;
    int c = third(both[first], e);
    int d = third(both[1 - first], e);
    if (c == d || at.having(c, d).length > 0) {
      return CoreWords.of("hand-edits.edge-is-there");
    }
    at.delete(both[0]);
    at.delete(both[1]);
    at.add(e[0], d, c);
    at.add(e[1], c, d);
    return null;
  }

  private int third(int t, int[] edge) {
    for (int k = 0; k < 3; k++) {
      if (at.corner(t, k) != edge[0] && at.corner(t, k) != edge[1]) {
        return at.corner(t, k);
      }
    }
    throw new IllegalStateException("a triangle without three corners");
  }

  private String collapse(int[][] spots) {
    int[] e = edge(spots);
    if (e == null) {
      return CoreWords.of("hand-edits.no-edge");
    }
    boolean rimA = isOnRim(e[0]);
    boolean rimB = isOnRim(e[1]);
    double[] a = at.position(e[0]);
    double[] b = at.position(e[1]);
    // A rim stays where it is.
    double[] to = rimA == rimB ? Vec.mul(Vec.add(a, b), 0.5) : rimA ? a : b;
    return joined(e[0], e[1], at.between(e[0], e[1], to));
  }

  /** A vertex in the place of two; triangles at both are gone. */
  private void merge(int a, int b, int v) {
    for (int old : new int[] {a, b}) {
      for (int t : at.having(old)) {
        if (old == a && at.cornerOf(t, b) >= 0) {
          at.delete(t);
        } else {
          at.replace(t, at.cornerOf(t, old), v);
        }
      }
    }
  }

  /** Two vertices become one, where that pinches nothing. */
  private String joined(int a, int b, int v) {
    Neighbourhood.Saved before = at.saved();
    merge(a, b, v);
    return crowded(v) || pinched(v) ? undone(before) : null;
  }

  /** Whether the triangles at a vertex are more than one fan, or two lie on each other. */
  private boolean pinched(int v) {
    int[] all = at.having(v);
    if (all.length == 0) {
      return false;
    }
    for (int t : all) {
      if (at.having(at.corner(t, 0), at.corner(t, 1), at.corner(t, 2)).length > 1) {
        return true;
      }
    }
    BitSet met = new BitSet();
    met.set(0);
    boolean more = true;
    while (more) {
      more = false;
      for (int i = 0; i < all.length; i++) {
        for (int j = met.nextSetBit(0); j >= 0 && !met.get(i); j = met.nextSetBit(j + 1)) {
          if (shareAnother(all[i], all[j], v)) {
            met.set(i);
            more = true;
          }
        }
      }
    }
    return met.cardinality() < all.length;
  }

  private boolean shareAnother(int s, int t, int v) {
    for (int k = 0; k < 3; k++) {
      if (at.corner(s, k) != v && at.cornerOf(t, at.corner(s, k)) >= 0) {
        return true;
      }
    }
    return false;
  }

  private boolean isOnRim(int v) {
    return at.around(v).stream().anyMatch(u -> at.having(v, u).length == 1);
  }

  private String splitEdge(int[][] spots) {
    int[] e = edge(spots);
    if (e == null) {
      return CoreWords.of("hand-edits.no-edge");
    }
    split(e[0], e[1], 0.5);
    return null;
  }

  /** A new vertex on an edge, at a share of the way; returns it. */
  private int split(int a, int b, double share) {
    double[] p = Vec.add(Vec.mul(at.position(a), 1 - share), Vec.mul(at.position(b), share));
    int v = at.between(a, b, p);
    for (int t : at.having(a, b)) {
      int ka = at.cornerOf(t, a);
      int kb = at.cornerOf(t, b);
      float[] shares = new float[3];
      shares[ka] = (float) (1 - share);
      shares[kb] = (float) share;
      at.split(t, v, new int[] {ka, kb}, shares);
    }
    return v;
  }

  private String splitTriangle(int[][] spots) {
    for (int a : spots[0]) {
      for (int b : spots[1]) {
        for (int c : spots[2]) {
          int[] t = at.having(a, b, c);
          if (t.length > 0) {
            double[] sum = Vec.add(Vec.add(at.position(a), at.position(b)), at.position(c));
            int v = at.between(a, b, c, Vec.mul(sum, 1 / 3.0));
            float third = 1 / 3f;
            at.split(t[0], v, new int[] {0, 1, 2}, new float[] {third, third, third});
            return null;
          }
        }
      }
    }
    return CoreWords.of("hand-edits.no-triangle");
  }

  // --- rims ----------------------------------------------------------------------------------

  /** A point onto another; of two runs, each pair of points to the middle between them. */
  private String snap(int[][] spots, int[][] others) {
    int[] p = run(spots);
    int[] q = run(others);
    if (p == null || q == null) {
      return CoreWords.of("hand-edits.no-rim");
    }
    boolean single = p.length == 1 && q.length == 1;
    q = besides(p, q);
    Neighbourhood.Saved before = at.saved();
    int[][] even = evened(p, q);
    for (int i = 0; i < even[0].length; i++) {
      int a = even[0][i];
      int b = even[1][i];
      if (a == b) {
        continue;
      }
      double[] to = single ? at.position(b) : Vec.mul(Vec.add(at.position(a), at.position(b)), 0.5);
      int v = at.between(a, b, to);
      merge(a, b, v);
      even[0][i] = v;
    }
    return crowded(even[0]) ? undone(before) : null;
  }

  /** Two runs with a point each for every point of the other: edges without one are split. */
  private int[][] evened(int[] p, int[] q) {
    double[] s = Strips.shares(points(p));
    double[] r = Strips.shares(points(q));
    int[] a = new int[p.length + q.length];
    int[] b = new int[p.length + q.length];
    a[0] = p[0];
    b[0] = q[0];
    int n = 1;
    int i = 1;
    int j = 1;
    while (i < p.length || j < q.length) {
      boolean both = i < p.length && j < q.length;
      double step = both ? Math.min(s[i] - s[i - 1], r[j] - r[j - 1]) : 0;
      boolean last = i >= p.length - 1 && j >= q.length - 1;
      if (both && (last || Math.abs(s[i] - r[j]) <= 0.4 * step)) {
        a[n] = p[i++];
        b[n++] = q[j++];
      } else if (j >= q.length - 1 || i < p.length - 1 && s[i] < r[j]) {
        // The first run has a point where the other has none.
        int end = q[Math.min(j, q.length - 1)];
        b[n] = b[n - 1] == end ? end : split(b[n - 1], end, share(r, s[i], j));
        a[n++] = p[i++];
      } else {
        int end = p[Math.min(i, p.length - 1)];
        a[n] = a[n - 1] == end ? end : split(a[n - 1], end, share(s, r[j], i));
        b[n++] = q[j++];
      }
    }
    return new int[][] {Arrays.copyOf(a, n), Arrays.copyOf(b, n)};
  }

  /** Where a share of a whole run lies on the rest of the edge that ends at a point. */
  private static double share(double[] shares, double at, int end) {
    double from = shares[Math.max(0, end - 1)];
    double to = shares[Math.min(end, shares.length - 1)];
    return to > from ? Math.clamp((at - from) / (to - from), 0.05, 0.95) : 0.5;
  }
}
