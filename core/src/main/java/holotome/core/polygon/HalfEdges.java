package holotome.core.polygon;

import holotome.core.attribute.Attribute;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The structure of a {@link PolygonMesh}: half-edges, vertices and faces by number, what leads from
 * one to the other, and their attributes; every change is written down and can be taken back.
 */
public abstract sealed class HalfEdges permits PolygonMesh {
  public static final int NONE = -1;

  /** The origin of a half-edge, or the first half-edge of a face or vertex, that was removed. */
  static final int GONE = -2;

  final Journal journal = new Journal();
  final DoubleColumn xyz = new DoubleColumn(journal, 3);
  final IntColumn vertexEdge = new IntColumn(journal);
  final IntColumn faceEdge = new IntColumn(journal);
  final IntColumn origin = new IntColumn(journal);
  final IntColumn next = new IntColumn(journal);
  final IntColumn previous = new IntColumn(journal);
  final IntColumn face = new IntColumn(journal);
  final IntColumn counts = new IntColumn(journal);
  final AttributeRows rows = new AttributeRows(journal);

  static final int VERTICES = 0;
  static final int EDGES = 1;
  static final int FACES = 2;

  /** Nothing yet. */
  HalfEdges() {
    counts.add(0);
    counts.add(0);
    counts.add(0);
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
    int n =
        switch (domain) {
          case VERTEX -> vertexEdge.size();
          case CORNER -> origin.size();
          case TRIANGLE -> faceEdge.size();
        };
    rows.add(name, kind, domain, n);
  }

  public List<String> attributes() {
    return rows.names();
  }

  public Attribute.Kind kind(String name) {
    return rows.kind(name);
  }

  public Attribute.Domain domain(String name) {
    return rows.domain(name);
  }

  /** The numbers of one element; a colour has four from 0 to 255: red, green, blue, alpha. */
  public double[] value(String name, int element) {
    return rows.value(name, element);
  }

  public void set(String name, int element, double... value) {
    rows.set(name, element, value);
  }

  // --- making and taking -------------------------------------------------------------------------

  int newVertex(double x, double y, double z) {
    int v = vertexEdge.size();
    vertexEdge.add(NONE);
    xyz.add();
    move(v, x, y, z);
    rows.each(Attribute.Domain.VERTEX, DoubleColumn::add);
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
      rows.each(Attribute.Domain.CORNER, DoubleColumn::add);
    }
    counts.set(EDGES, edgeCount() + 1);
    return h;
  }

  int newFace(int h) {
    int f = faceEdge.size();
    faceEdge.add(h);
    rows.each(Attribute.Domain.TRIANGLE, DoubleColumn::add);
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

  void dropEdge(int h) {
    for (int k : new int[] {h, h ^ 1}) {
      origin.set(k, GONE);
    }
    counts.set(EDGES, edgeCount() - 1);
  }

  void dropFace(int f) {
    faceEdge.set(f, GONE);
    counts.set(FACES, faceCount() - 1);
  }

  void dropVertex(int v) {
    vertexEdge.set(v, GONE);
    counts.set(VERTICES, vertexCount() - 1);
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
      out.add(Arrays.stream(c.toArray()).boxed().toList());
    }
    out.add(Arrays.stream(xyz.toArray()).boxed().toList());
    out.addAll(rows.state());
    return out;
  }
}
