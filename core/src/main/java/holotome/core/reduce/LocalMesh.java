package holotome.core.reduce;

import java.util.Arrays;

/**
 * The triangles of one region as half-edges, whose edges are collapsed in place.
 *
 * <p>Half-edge {@code h = 3t + k} begins at corner k of triangle t, at vertex {@code org[h]} (below
 * nought where the triangle is gone); {@code twin[h]} lies across it, below nought where nothing
 * does. {@code out[v]} begins at v; where v lies on an open edge it is the first of its fan, so
 * that going from one to the next by {@link #turn} comes past all triangles. Nothing is said of
 * {@link #LOCKED} vertices, whose triangles may be no fan.
 *
 * <p>All arrays are small enough for a processor's cache: a region has some thousand vertices.
 */
final class LocalMesh {
  /** May go anywhere. */
  static final byte FREE = 0;

  /** Lies within a line (a border, crease or seam) and stays on it. */
  static final byte LINE = 1;

  /** An end or a meeting of lines: others may be merged into it, it stays. */
  static final byte FIXED = 2;

  /** Neither moves nor takes anything in. */
  static final byte LOCKED = 3;

  final int vertices;
  final double[] p;
  final int[] org;
  final int[] twin;
  final int[] out;
  final byte[] state;

  /** Which half-edges are lines; borders are without being said so. */
  private final boolean[] line;

  /** The wedge of each corner, any numbers; null where each vertex is one. */
  private final int[] wedge;

  private final int[] stamp;
  private final int[] four = new int[4];
  private int tick;
  private int alive;

  /** Vertices and triangles up to these numbers were there or were added. */
  private int usedVertices;

  private int usedTriangles;

  /**
   * Takes the arrays.
   *
   * @param p 3 per vertex
   * @param org 3 per triangle, below nought from the first one on that is not there yet
   * @param line one per half-edge; null for none but borders
   * @param wedge one per half-edge, that of the corner where it begins; null for none
   * @param locked one per vertex
   */
  LocalMesh(double[] p, int[] org, boolean[] line, int[] wedge, boolean[] locked) {
    this.vertices = locked.length;
    this.p = p;
    this.org = org;
    this.line = line;
    this.wedge = wedge;
    while (usedTriangles < org.length / 3 && org[3 * usedTriangles] >= 0) {
      usedTriangles++;
    }
    alive = usedTriangles;
    twin = new int[org.length];
    out = new int[vertices];
    state = new byte[vertices];
    stamp = new int[vertices];
    for (int v = 0; v < vertices; v++) {
      state[v] = locked[v] ? LOCKED : FREE;
    }
    join();
    classify();
  }

  static int next(int h) {
    return h % 3 == 2 ? h - 2 : h + 1;
  }

  static int previous(int h) {
    return h % 3 == 0 ? h + 2 : h - 1;
  }

  /** The next half-edge that begins at the same vertex; below nought past the last one. */
  int turn(int h) {
    return twin[previous(h)];
  }

  int alive() {
    return alive;
  }

  boolean isLine(int h) {
    return twin[h] < 0 || line != null && line[h];
  }

  /** Whether a half-edge was said to be a line. */
  boolean isDrawn(int h) {
    return line != null && line[h];
  }

  /** The wedge of the corner where a half-edge begins. */
  int wedge(int h) {
    return wedge[h];
  }

  /** The half-edge that begins at v on one side of the edge that h runs along. */
  private int at(int v, int h) {
    return org[h] == v ? h : next(h);
  }

  /**
   * The wedges that a merge along h joins: of v and of w on the near side of the edge, and the same
   * on the far side (-1 where there is none).
   */
  void sides(int v, int w, int h, int[] four) {
    four[0] = wedge[at(v, h)];
    four[1] = wedge[at(w, h)];
    int g = twin[h];
    four[2] = g < 0 ? -1 : wedge[at(v, g)];
    four[3] = g < 0 ? -1 : wedge[at(w, g)];
  }

  /** Pairs half-edges; the ends of those that cannot be paired are locked. */
  private void join() {
    // Half-edges without a partner so far, chained under the lower of their ends.
    int[] head = new int[vertices];
    int[] chain = new int[org.length];
    int[] high = new int[org.length];
    Arrays.fill(head, -1);
    Arrays.fill(twin, -1);
    for (int t = 0; t < 3 * usedTriangles; t += 3) {
      int from = org[t + 2];
      for (int h = t + 2, k = 0; k < 3; h = t + k, k++) {
        int to = org[t + k];
        int low = Math.min(from, to);
        int top = Math.max(from, to);
        int g = head[low];
        while (g >= 0 && high[g] != top) {
          g = chain[g];
        }
        if (g < 0) {
          high[h] = top;
          chain[h] = head[low];
          head[low] = h;
        } else if (twin[g] < 0 && org[g] != from) {
          twin[h] = g;
          twin[g] = h;
        } else {
          state[from] = LOCKED;
          state[to] = LOCKED;
        }
        from = to;
      }
    }
  }

  /** Where each fan begins, and how each vertex may move. */
  private void classify() {
    int[] degree = new int[vertices];
    int[] lines = new int[vertices];
    Arrays.fill(out, -1);
    for (int h = 0; h < 3 * usedTriangles; h++) {
      int v = org[h];
      usedVertices = Math.max(usedVertices, v + 1);
      degree[v]++;
      if (out[v] < 0 || twin[h] < 0) {
        out[v] = h;
      }
      // Each line edge counts once at either end.
      if (isLine(h) && (twin[h] < 0 || h < twin[h])) {
        lines[v]++;
        lines[org[next(h)]]++;
      }
    }
    for (int v = 0; v < vertices; v++) {
      if (out[v] < 0 || state[v] == LOCKED) {
        continue;
      }
      int count = 0;
      int h = out[v];
      do {
        count++;
        h = turn(h);
      } while (h >= 0 && h != out[v]);
      if (count != degree[v]) {
        state[v] = LOCKED;
      } else if (lines[v] > 0) {
        state[v] = lines[v] == 2 ? LINE : FIXED;
      }
    }
  }

  /**
   * The half-edge between two neighbours: from v to w, or from w to v where that one is missing.
   */
  int between(int v, int w) {
    int h = out[v];
    int start = h;
    int last;
    do {
      if (org[next(h)] == w) {
        return h;
      }
      last = h;
      h = turn(h);
    } while (h >= 0 && h != start);
    return previous(last);
  }

  /** Whether an edge may be collapsed as far as lines and locks go. */
  boolean mayMerge(int v, int w, int h) {
    byte a = state[v];
    byte b = state[w];
    if (a == LOCKED || b == LOCKED) {
      return false;
    }
    return a == FREE || b == FREE || isLine(h) && !(a == FIXED && b == FIXED);
  }

  /**
   * Whether the surface stays the kind of surface it is when the edge goes: the link condition (Dey
   * and others, "Topology preserving edge contraction", 1999), no ear cut off, no two lines made
   * one.
   */
  boolean keepsTopology(int v, int w, int h) {
    int aroundV = mark(v);
    int common = 0;
    int aroundW = 0;
    int g = out[w];
    int start = g;
    int last;
    do {
      common += stamp[org[next(g)]] == tick ? 1 : 0;
      aroundW++;
      last = g;
      g = turn(g);
    } while (g >= 0 && g != start);
    if (g < 0) {
      common += stamp[org[previous(last)]] == tick ? 1 : 0;
      aroundW++;
    }
    int other = twin[h];
    int sides = other >= 0 ? 2 : 1;
    if (common != sides) {
      return false;
    }
    if (wedge != null && other >= 0) {
      // Both ends are seams on this edge, or neither.
      sides(v, w, h, four);
      if (four[0] == four[2] != (four[1] == four[3])) {
        return false;
      }
    }
    // A closed body must keep more than the two sides of one triangle.
    if (sides == 2 && aroundV == 3 && aroundW == 3) {
      return false;
    }
    return !isLine(next(h)) | !isLine(previous(h))
        && (other < 0 || !isLine(next(other)) | !isLine(previous(other)));
  }

  /** Marks the vertices around one; returns how many. */
  private int mark(int v) {
    tick++;
    int n = 0;
    int h = out[v];
    int start = h;
    int last;
    do {
      stamp[org[next(h)]] = tick;
      n++;
      last = h;
      h = turn(h);
    } while (h >= 0 && h != start);
    if (h < 0) {
      stamp[org[previous(last)]] = tick;
      n++;
    }
    return n;
  }

  /** The vertices around one, in order, into a list that is made longer where it must. */
  int[] around(int v, int[] list, int[] count) {
    int[] l = list;
    int n = 0;
    int h = out[v];
    int start = h;
    int last;
    do {
      if (n + 2 > l.length) {
        l = Arrays.copyOf(l, 2 * l.length);
      }
      l[n++] = org[next(h)];
      last = h;
      h = turn(h);
    } while (h >= 0 && h != start);
    if (h < 0) {
      l[n++] = org[previous(last)];
    }
    count[0] = n;
    return l;
  }

  /** Merges w into v along the half-edge between them; v's place is set by the caller. */
  void merge(int v, int w, int h) {
    state[v] = (byte) Math.max(state[v], state[w]);
    if (wedge != null) {
      sides(v, w, h, four);
    }
    int g = out[w];
    int start = g;
    do {
      int following = turn(g);
      org[g] = v;
      if (wedge != null) {
        wedge[g] = wedge[g] == four[1] ? four[0] : wedge[g] == four[3] ? four[2] : wedge[g];
      }
      g = following;
    } while (g >= 0 && g != start);
    out[w] = -1;
    int other = twin[h];
    int kept = takeOut(h);
    if (other >= 0) {
      int k = takeOut(other);
      kept = k >= 0 ? k : kept;
    }
    out[v] = kept < 0 ? -1 : first(kept);
  }

  /** Takes a triangle out and joins what lay beyond its other two edges; returns one from v. */
  private int takeOut(int h) {
    int x = next(h);
    int y = previous(h);
    int apex = org[y];
    int tx = twin[x];
    int ty = twin[y];
    boolean isLine = line != null && (line[x] || line[y]);
    if (tx >= 0) {
      twin[tx] = ty;
    }
    if (ty >= 0) {
      twin[ty] = tx;
    }
    if (isLine && tx >= 0) {
      line[tx] = true;
    }
    if (isLine && ty >= 0) {
      line[ty] = true;
    }
    if (out[apex] == y) {
      out[apex] = tx >= 0 ? tx : next(ty);
    }
    org[h] = -1;
    org[x] = -1;
    org[y] = -1;
    alive--;
    return ty >= 0 ? ty : next(tx);
  }

  /** The first half-edge of the fan that one belongs to. */
  private int first(int h) {
    int g = h;
    while (twin[g] >= 0) {
      g = next(twin[g]);
      if (g == h) {
        break;
      }
    }
    return g;
  }

  /** Numbers below this are taken: new vertices have higher ones. */
  void reserve(int taken) {
    usedVertices = Math.max(usedVertices, taken);
  }

  int usedVertices() {
    return usedVertices;
  }

  int usedTriangles() {
    return usedTriangles;
  }

  /** Whether there is room for what a split adds. */
  boolean hasRoom() {
    return usedVertices < vertices && 3 * usedTriangles + 6 <= org.length;
  }

  /** Whether two vertices are neighbours; v must not be locked. */
  boolean areNeighbours(int v, int w) {
    int h = out[v];
    int start = h;
    int last;
    do {
      if (org[next(h)] == w) {
        return true;
      }
      last = h;
      h = turn(h);
    } while (h >= 0 && h != start);
    return h < 0 && org[previous(last)] == w;
  }

  /** The neighbour of a vertex along the line it lies on, other than one; -1 if there is none. */
  int alongLine(int w, int other) {
    int h = out[w];
    int start = h;
    int last;
    do {
      int u = org[next(h)];
      if (u != other && isLine(h)) {
        return u;
      }
      last = h;
      h = turn(h);
    } while (h >= 0 && h != start);
    return h < 0 && org[previous(last)] != other ? org[previous(last)] : -1;
  }

  /**
   * Cuts an edge in two at a new vertex, whose place is set by the caller; there must be room.
   *
   * @return the new vertex
   */
  int split(int h) {
    int m = usedVertices++;
    int g = twin[h];
    boolean isDrawn = isDrawn(h);
    state[m] = isLine(h) ? LINE : FREE;
    int far = halve(h, m);
    if (g < 0) {
      twin[far] = -1;
      out[m] = far;
    } else {
      // h runs to m now, far from m on; the same on the other side, which comes the other way.
      int across = halve(g, m);
      twin[h] = across;
      twin[across] = h;
      twin[far] = g;
      twin[g] = far;
      out[m] = far;
      draw(across, isDrawn);
      draw(g, isDrawn);
    }
    draw(far, isDrawn);
    draw(h, isDrawn);
    return m;
  }

  private void draw(int h, boolean isLine) {
    if (line != null) {
      line[h] = isLine;
    }
  }

  /** Lets h end at m and adds the triangle from m on; returns that one's half-edge from m. */
  private int halve(int h, int m) {
    int x = next(h);
    int y = previous(h);
    int b = org[x];
    int c = org[y];
    int t = 3 * usedTriangles++;
    alive++;
    // Before: a b c. After: a m c, and t = m b c.
    org[t] = m;
    org[t + 1] = b;
    org[t + 2] = c;
    twin[t + 1] = twin[x];
    if (twin[x] >= 0) {
      twin[twin[x]] = t + 1;
    }
    draw(t + 1, isDrawn(x));
    draw(x, false);
    draw(t + 2, false);
    org[x] = m;
    twin[x] = t + 2;
    twin[t + 2] = x;
    // b's fan and c's began at half-edges that are another triangle's now.
    if (out[b] == x) {
      out[b] = t + 1;
    }
    return t;
  }

  /** Turns an edge within its two triangles, so that it joins their other two corners. */
  void flip(int h) {
    int g = twin[h];
    int hx = next(h);
    int hy = previous(h);
    int gx = next(g);
    int gy = previous(g);
    int a = org[h];
    int b = org[g];
    int c = org[hy];
    int d = org[gy];
    int beyondBc = twin[hx];
    int beyondCa = twin[hy];
    int beyondAd = twin[gx];
    int beyondDb = twin[gy];
    boolean bc = isDrawn(hx);
    boolean ca = isDrawn(hy);
    boolean ad = isDrawn(gx);
    boolean db = isDrawn(gy);
    // a b c and b a d become d c a and c d b.
    org[h] = d;
    org[hx] = c;
    org[hy] = a;
    org[g] = c;
    org[gx] = d;
    org[gy] = b;
    pair(hx, beyondCa, ca);
    pair(hy, beyondAd, ad);
    pair(gx, beyondDb, db);
    pair(gy, beyondBc, bc);
    out[a] = out[a] == h || out[a] == gx ? hy : out[a];
    out[b] = out[b] == g || out[b] == hx ? gy : out[b];
    out[c] = out[c] == hy ? hx : out[c];
    out[d] = out[d] == gy ? gx : out[d];
  }

  private void pair(int h, int beyond, boolean isLine) {
    twin[h] = beyond;
    if (beyond >= 0) {
      twin[beyond] = h;
    }
    draw(h, isLine);
  }
}
