package holotome.core.polygon;

import holotome.core.attribute.Attribute;
import holotome.core.task.Failure;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A small mesh of faces with any number of corners, to be edited by hand: half-edges in flat arrays
 * (Mäntylä, "An Introduction to Solid Modeling", 1988; Kettner 1999), changed by Euler operators
 * that keep it a manifold surface, with or without a border. Every change can be taken back, to the
 * last bit.
 *
 * <p>Edges are pairs of half-edges 2 e and 2 e + 1. A half-edge starts at its origin and runs
 * around its face counter-clockwise; along a border the outer one has no face ({@link #NONE}). What
 * is removed keeps its number, which no longer lives; numbers are not used again. Attributes are
 * rows of doubles on vertices, corners (the half-edge that starts there, within its face) or faces.
 *
 * <p>About 200 bytes a face. Meant for up to some 100,000 faces. Not for several threads; not
 * guaranteed: that faces are flat or do not cross, which is geometry. For triangles by the million
 * take {@link holotome.core.mesh.Mesh}.
 */
public final class PolygonMesh {
  public static final int NONE = -1;

  /** The origin of a half-edge, or the first half-edge of a face or vertex, that was removed. */
  private static final int GONE = -2;

  private final Journal journal = new Journal();
  private final DoubleColumn xyz = new DoubleColumn(journal, 3);
  private final IntColumn vertexEdge = new IntColumn(journal);
  private final IntColumn faceEdge = new IntColumn(journal);
  private final IntColumn origin = new IntColumn(journal);
  private final IntColumn next = new IntColumn(journal);
  private final IntColumn previous = new IntColumn(journal);
  private final IntColumn face = new IntColumn(journal);
  private final IntColumn counts = new IntColumn(journal);
  private final Map<String, Row> rows = new HashMap<>();

  /** An attribute: what it stands for, and its values by element. */
  private record Row(Attribute.Kind kind, Attribute.Domain domain, DoubleColumn values) {}

  private static final int VERTICES = 0;
  private static final int EDGES = 1;
  private static final int FACES = 2;

  /** Nothing yet. */
  public PolygonMesh() {
    counts.add(0);
    counts.add(0);
    counts.add(0);
  }

  /**
   * From faces over vertices.
   *
   * @param positions x, y, z in turn
   * @param faces the vertices of each, counter-clockwise seen from outside
   * @throws Failure if an edge has more than two faces, faces disagree about the outside, a vertex
   *     is where several fans meet, or a face has fewer than three different corners
   */
  public static PolygonMesh of(double[] positions, int[][] faces) {
    return new PolygonBuilder(new PolygonMesh(), positions, faces).build();
  }

  // --- what there is -----------------------------------------------------------------------------

  public int vertexCount() {
    return counts.get(VERTICES);
  }

  public int edgeCount() {
    return counts.get(EDGES);
  }

  public int faceCount() {
    return counts.get(FACES);
  }

  /** Vertices have numbers below this, those that were removed included. */
  public int vertexLimit() {
    return vertexEdge.size();
  }

  public int faceLimit() {
    return faceEdge.size();
  }

  public int halfEdgeLimit() {
    return origin.size();
  }

  public boolean hasVertex(int v) {
    return v >= 0 && v < vertexEdge.size() && vertexEdge.get(v) != GONE;
  }

  public boolean hasFace(int f) {
    return f >= 0 && f < faceEdge.size() && faceEdge.get(f) != GONE;
  }

  public boolean hasHalfEdge(int h) {
    return h >= 0 && h < origin.size() && origin.get(h) != GONE;
  }

  public int origin(int h) {
    return origin.get(h);
  }

  public int target(int h) {
    return origin.get(h ^ 1);
  }

  public int next(int h) {
    return next.get(h);
  }

  public int previous(int h) {
    return previous.get(h);
  }

  public static int twin(int h) {
    return h ^ 1;
  }

  /** The face to the left of a half-edge; {@link #NONE} along a border. */
  public int face(int h) {
    return face.get(h);
  }

  /**
   * A half-edge that starts at a vertex, one along the border if there is any; NONE for a loose
   * one.
   */
  public int edgeOf(int v) {
    return vertexEdge.get(v);
  }

  /** A half-edge of a face. */
  public int edgeOfFace(int f) {
    return faceEdge.get(f);
  }

  public double[] position(int v) {
    return new double[] {xyz.get(v, 0), xyz.get(v, 1), xyz.get(v, 2)};
  }

  public void move(int v, double x, double y, double z) {
    xyz.set(v, 0, x);
    xyz.set(v, 1, y);
    xyz.set(v, 2, z);
  }

  /** The vertices of a face, in order. */
  public int[] corners(int f) {
    int[] h = halfEdges(f);
    int[] out = new int[h.length];
    for (int i = 0; i < h.length; i++) {
      out[i] = origin.get(h[i]);
    }
    return out;
  }

  /** The half-edges around a face, in order. */
  public int[] halfEdges(int f) {
    int n = 0;
    int start = faceEdge.get(f);
    int h = start;
    do {
      n++;
      h = next.get(h);
    } while (h != start);
    int[] out = new int[n];
    for (int i = 0; i < n; i++) {
      out[i] = h;
      h = next.get(h);
    }
    return out;
  }

  /** Half-edges that start at a vertex, one after the other around it. */
  public int[] around(int v) {
    List<Integer> out = new ArrayList<>();
    int start = vertexEdge.get(v);
    if (start != NONE) {
      int h = start;
      do {
        out.add(h);
        h = next.get(h ^ 1);
      } while (h != start);
    }
    return out.stream().mapToInt(Integer::intValue).toArray();
  }

  /** The half-edge from one vertex to another; {@link #NONE} if there is none. */
  public int between(int a, int b) {
    for (int h : around(a)) {
      if (origin.get(h ^ 1) == b) {
        return h;
      }
    }
    return NONE;
  }

  public boolean isBorder(int v) {
    for (int h : around(v)) {
      if (face.get(h) == NONE) {
        return true;
      }
    }
    return false;
  }

  // --- attributes --------------------------------------------------------------------------------

  /** Begins an attribute of noughts; one of that name must not be there yet. */
  public void add(String name, Attribute.Kind kind, Attribute.Domain domain) {
    int width = kind == Attribute.Kind.COLOUR ? 4 : kind.width();
    DoubleColumn values = new DoubleColumn(journal, width);
    int n =
        switch (domain) {
          case VERTEX -> vertexEdge.size();
          case CORNER -> origin.size();
          case TRIANGLE -> faceEdge.size();
        };
    for (int i = 0; i < n; i++) {
      values.add();
    }
    if (rows.putIfAbsent(name, new Row(kind, domain, values)) != null) {
      throw new IllegalArgumentException("there is an attribute " + name + " already");
    }
  }

  public List<String> attributes() {
    return rows.keySet().stream().sorted().toList();
  }

  public Attribute.Kind kind(String name) {
    return rows.get(name).kind;
  }

  public Attribute.Domain domain(String name) {
    return rows.get(name).domain;
  }

  /** The numbers of one element; a colour has four from 0 to 255: red, green, blue, alpha. */
  public double[] value(String name, int element) {
    DoubleColumn c = rows.get(name).values;
    double[] out = new double[c.width()];
    for (int k = 0; k < out.length; k++) {
      out[k] = c.get(element, k);
    }
    return out;
  }

  public void set(String name, int element, double... value) {
    DoubleColumn c = rows.get(name).values;
    for (int k = 0; k < c.width(); k++) {
      c.set(element, k, value[k]);
    }
  }

  private void each(Attribute.Domain domain, java.util.function.Consumer<DoubleColumn> body) {
    for (Row r : rows.values()) {
      if (r.domain == domain) {
        body.accept(r.values);
      }
    }
  }

  // --- making and taking
  // ---------------------------------------------------------------------------

  int newVertex(double x, double y, double z) {
    int v = vertexEdge.size();
    vertexEdge.add(NONE);
    xyz.add();
    move(v, x, y, z);
    each(Attribute.Domain.VERTEX, DoubleColumn::add);
    counts.set(VERTICES, vertexCount() + 1);
    return v;
  }

  /** An edge between two vertices, not joined to anything yet; returns its first half-edge. */
  int newEdge(int a, int b) {
    int h = origin.size();
    for (int k = 0; k < 2; k++) {
      origin.add(k == 0 ? a : b);
      next.add(h + 1 - k);
      previous.add(h + 1 - k);
      face.add(NONE);
      each(Attribute.Domain.CORNER, DoubleColumn::add);
    }
    counts.set(EDGES, edgeCount() + 1);
    return h;
  }

  int newFace(int h) {
    int f = faceEdge.size();
    faceEdge.add(h);
    each(Attribute.Domain.TRIANGLE, DoubleColumn::add);
    counts.set(FACES, faceCount() + 1);
    return f;
  }

  void link(int h, int following) {
    next.set(h, following);
    previous.set(following, h);
  }

  void setFace(int h, int f) {
    face.set(h, f);
  }

  /** Has a vertex point to a half-edge of its own, along the border if there is one. */
  void pointFrom(int v, int h) {
    vertexEdge.set(v, h);
    int e = h;
    do {
      if (face.get(e) == NONE) {
        vertexEdge.set(v, e);
        return;
      }
      e = next.get(e ^ 1);
    } while (e != h);
  }

  private void dropEdge(int h) {
    for (int k : new int[] {h, h ^ 1}) {
      origin.set(k, GONE);
    }
    counts.set(EDGES, edgeCount() - 1);
  }

  private void dropFace(int f) {
    faceEdge.set(f, GONE);
    counts.set(FACES, faceCount() - 1);
  }

  private void dropVertex(int v) {
    vertexEdge.set(v, GONE);
    counts.set(VERTICES, vertexCount() - 1);
  }

  // --- Euler operators ---------------------------------------------------------------------------

  /**
   * Puts a vertex on an edge, at the share f of the way along the half-edge: one vertex and one
   * edge more. What corners and vertices carry is mixed. Returns the vertex.
   */
  public int splitEdge(int h, double f) {
    int g = h ^ 1;
    int a = origin.get(h);
    int b = origin.get(g);
    int v = newVertex(0, 0, 0);
    xyz.mix(a, b, f, v);
    each(Attribute.Domain.VERTEX, c -> c.mix(a, b, f, v));
    int h2 = newEdge(v, b);
    int g2 = h2 ^ 1;
    int hNext = next.get(h);
    int gPrevious = previous.get(g);
    each(
        Attribute.Domain.CORNER,
        c -> {
          // The corner at b on g's side moves on to the new half-edge that starts there.
          c.copy(g, g2);
          c.mix(h, hNext, f, h2);
          c.mix(next.get(g), g2, f, g);
        });
    origin.set(g, v);
    // On either side, g is now the half of the edge that leads from v to a.
    if (hNext == g) {
      link(h2, g2);
    } else {
      link(h2, hNext);
      link(gPrevious, g2);
    }
    link(h, h2);
    link(g2, g);
    face.set(h2, face.get(h));
    face.set(g2, face.get(g));
    pointFrom(v, h2);
    pointFrom(b, g2);
    pointFrom(a, h);
    return v;
  }

  /**
   * Whether {@link #joinEdges} may be done: the vertex has two edges, and no face becomes a line.
   */
  public boolean canJoinEdges(int v) {
    int[] out = around(v);
    if (out.length != 2) {
      return false;
    }
    boolean wide = true;
    for (int h : out) {
      wide &= face.get(h) == NONE || next.get(next.get(next.get(h))) != h;
    }
    return wide && between(target(out[0]), target(out[1])) == NONE;
  }

  /** Takes a vertex with two edges off: they become one. The way back of {@link #splitEdge}. */
  public void joinEdges(int v) {
    if (!canJoinEdges(v)) {
      throw Failure.cannot("The point has not just two edges, or a face would become a line");
    }
    // h leads into v and goes on along out; the latter's edge goes.
    int out = vertexEdge.get(v);
    int h = previous.get(out);
    int g = h ^ 1;
    int b = origin.get(out ^ 1);
    int after = next.get(out);
    int before = previous.get(out ^ 1);
    each(Attribute.Domain.CORNER, c -> c.copy(out ^ 1, g));
    link(h, after);
    link(before, g);
    origin.set(g, b);
    for (int k : new int[] {out, out ^ 1}) {
      int f = face.get(k);
      if (f != NONE && faceEdge.get(f) == k) {
        faceEdge.set(f, k == out ? h : g);
      }
    }
    dropEdge(out);
    dropVertex(v);
    pointFrom(b, g);
    pointFrom(origin.get(h), h);
  }

  /**
   * Parts a face by an edge between two of its corners that are not neighbours: one edge and one
   * face more. Returns the half-edge from the first corner to the second, along the face that keeps
   * its number.
   *
   * @param h the half-edge of the face that starts at the first corner
   * @param g the one that starts at the second
   */
  public int splitFace(int h, int g) {
    int f = face.get(h);
    if (f == NONE || face.get(g) != f || h == g || next.get(h) == g || next.get(g) == h) {
      throw Failure.cannot("A face is parted between two of its corners that are not neighbours");
    }
    if (between(origin.get(h), origin.get(g)) != NONE) {
      throw Failure.cannot("The two points have an edge already");
    }
    int e = newEdge(origin.get(h), origin.get(g));
    int hPrevious = previous.get(h);
    int gPrevious = previous.get(g);
    each(
        Attribute.Domain.CORNER,
        c -> {
          c.copy(h, e);
          c.copy(g, e ^ 1);
        });
    link(hPrevious, e);
    link(e, g);
    link(gPrevious, e ^ 1);
    link(e ^ 1, h);
    face.set(e, f);
    faceEdge.set(f, e);
    int made = newFace(e ^ 1);
    each(Attribute.Domain.TRIANGLE, c -> c.copy(f, made));
    for (int k = e ^ 1; ; k = next.get(k)) {
      face.set(k, made);
      if (next.get(k) == (e ^ 1)) {
        break;
      }
    }
    return e;
  }

  /** Whether {@link #joinFaces} may be done. */
  public boolean canJoinFaces(int h) {
    int a = face.get(h);
    int b = face.get(h ^ 1);
    if (a == NONE || b == NONE || a == b) {
      return false;
    }
    // They may share this edge's points alone: else the new face would come by a point twice.
    int shared = 0;
    for (int k : halfEdges(a)) {
      for (int j : halfEdges(b)) {
        shared += origin.get(k) == origin.get(j) ? 1 : 0;
      }
    }
    return shared == 2;
  }

  /**
   * Takes the edge between two faces away: they become one, with the number of the face to the left
   * of the half-edge. The way back of {@link #splitFace}.
   */
  public void joinFaces(int h) {
    if (!canJoinFaces(h)) {
      throw Failure.cannot("The edge is not the only one between two faces");
    }
    int keep = face.get(h);
    int gone = face.get(h ^ 1);
    int g = h ^ 1;
    int a = origin.get(h);
    int b = origin.get(g);
    int hPrevious = previous.get(h);
    int hNext = next.get(h);
    int gPrevious = previous.get(g);
    int gNext = next.get(g);
    for (int k : halfEdges(gone)) {
      face.set(k, keep);
    }
    link(hPrevious, gNext);
    link(gPrevious, hNext);
    faceEdge.set(keep, hNext);
    dropEdge(h);
    dropFace(gone);
    pointFrom(a, gNext);
    pointFrom(b, hNext);
  }

  /** Whether {@link #collapse} leaves a manifold surface (link condition, Dey and others 1999). */
  public boolean canCollapse(int h) {
    int a = origin.get(h);
    int b = origin.get(h ^ 1);
    int shared = 0;
    for (int k : new int[] {h, h ^ 1}) {
      if (face.get(k) != NONE && next.get(next.get(next.get(k))) == k) {
        // A triangle goes with its edge: unless its other two edges are both a border's.
        shared++;
        int along = next.get(k);
        if (face.get(along ^ 1) == NONE && face.get(previous.get(k) ^ 1) == NONE) {
          return false;
        }
        int apex = origin.get(previous.get(k));
        if (around(apex).length < (isBorder(apex) ? 3 : 4)) {
          return false;
        }
      }
    }
    int common = 0;
    for (int k : around(a)) {
      int v = origin.get(k ^ 1);
      common += v != b && between(v, b) != NONE ? 1 : 0;
    }
    for (int k : around(a)) {
      int f = face.get(k);
      if (f == NONE || f == face.get(h) || f == face.get(h ^ 1)) {
        continue;
      }
      for (int j : halfEdges(f)) {
        if (origin.get(j) == b) {
          // It would come by the one point twice.
          return false;
        }
      }
    }
    boolean inner = face.get(h) != NONE && face.get(h ^ 1) != NONE;
    return common == shared && !(inner && isBorder(a) && isBorder(b));
  }

  /**
   * Makes one point of an edge's two: the second goes, the first stands at the share f between
   * them. Triangles at the edge go.
   */
  public void collapse(int h, double f) {
    if (!canCollapse(h)) {
      throw Failure.cannot("Without this edge the surface would meet itself");
    }
    int a = origin.get(h);
    int b = origin.get(h ^ 1);
    xyz.mix(a, b, f, a);
    each(Attribute.Domain.VERTEX, c -> c.mix(a, b, f, a));
    for (int k : around(b)) {
      origin.set(k, a);
    }
    int some = NONE;
    for (int k : new int[] {h, h ^ 1}) {
      int before = previous.get(k);
      int after = next.get(k);
      link(before, after);
      int side = face.get(k);
      if (side != NONE && faceEdge.get(side) == k) {
        faceEdge.set(side, after);
      }
      some = after;
      if (side != NONE && next.get(after) == before) {
        some = closeLine(after, before);
      }
    }
    dropEdge(h);
    dropVertex(b);
    // Whatever starts at a now: found from a half-edge that is left.
    int from = origin.get(some) == a ? some : next.get(some);
    for (int k = from; ; k = next.get(k)) {
      if (origin.get(k) == a) {
        pointFrom(a, k);
        break;
      }
    }
  }

  /**
   * Takes a face of two corners away: of its two edges one goes, and what lies beyond it lies
   * beyond the other. Returns a half-edge that is left.
   */
  private int closeLine(int one, int other) {
    int gone = face.get(one);
    int beyond = other ^ 1;
    // "other" goes with its twin; "one" takes the place of the twin.
    each(Attribute.Domain.CORNER, c -> c.copy(beyond, one));
    int f = face.get(beyond);
    link(previous.get(beyond), one);
    link(one, next.get(beyond));
    face.set(one, f);
    if (f != NONE && faceEdge.get(f) == beyond) {
      faceEdge.set(f, one);
    }
    int v = origin.get(one);
    int w = origin.get(one ^ 1);
    dropFace(gone);
    dropEdge(other);
    pointFrom(v, one);
    pointFrom(w, one ^ 1);
    return one;
  }

  // --- taking back -------------------------------------------------------------------------------

  /** A place to come back to. */
  public int mark() {
    return journal.size();
  }

  /** Takes all changes since a place back. */
  public void undoTo(int mark) {
    journal.backTo(mark);
  }

  /** Forgets how it came about: what is there is where coming back ends from now on. */
  public void settle() {
    journal.forget();
  }

  /** All that makes it up, for comparing two states bit by bit. */
  public List<Object> state() {
    List<Object> out = new ArrayList<>();
    for (IntColumn c : List.of(vertexEdge, faceEdge, origin, next, previous, face, counts)) {
      out.add(java.util.Arrays.stream(c.toArray()).boxed().toList());
    }
    out.add(java.util.Arrays.stream(xyz.toArray()).boxed().toList());
    for (String name : attributes()) {
      out.add(java.util.Arrays.stream(rows.get(name).values.toArray()).boxed().toList());
    }
    return out;
  }
}
