package holotome.core.polygon;

import holotome.core.attribute.Attribute;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

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
public final class PolygonMesh extends HalfEdges {

  /** Nothing yet. */
  public PolygonMesh() {}

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
    rows.each(Attribute.Domain.VERTEX, c -> c.mix(a, b, f, v));
    int h2 = newEdge(v, b);
    int g2 = h2 ^ 1;
    int hNext = next.get(h);
    int gPrevious = previous.get(g);
    rows.each(
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
      throw Failure.cannot(CoreWords.of("polygon-mesh.the-point-has-not-just"));
    }
    // h leads into v and goes on along out; the latter's edge goes.
    int out = vertexEdge.get(v);
    int h = previous.get(out);
    int g = h ^ 1;
    int b = origin.get(out ^ 1);
    int after = next.get(out);
    int before = previous.get(out ^ 1);
    rows.each(Attribute.Domain.CORNER, c -> c.copy(out ^ 1, g));
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
      throw Failure.cannot(CoreWords.of("polygon-mesh.a-face-is-parted-between"));
    }
    if (between(origin.get(h), origin.get(g)) != NONE) {
      throw Failure.cannot(CoreWords.of("polygon-mesh.the-two-points-have-an"));
    }
    int e = newEdge(origin.get(h), origin.get(g));
    int hPrevious = previous.get(h);
    int gPrevious = previous.get(g);
    rows.each(
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
    rows.each(Attribute.Domain.TRIANGLE, c -> c.copy(f, made));
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
      throw Failure.cannot(CoreWords.of("polygon-mesh.the-edge-is-not-the"));
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
      throw Failure.cannot(CoreWords.of("polygon-mesh.without-this-edge-the-surface"));
    }
    int a = origin.get(h);
    int b = origin.get(h ^ 1);
    xyz.mix(a, b, f, a);
    rows.each(Attribute.Domain.VERTEX, c -> c.mix(a, b, f, a));
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
    rows.each(Attribute.Domain.CORNER, c -> c.copy(beyond, one));
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
}
