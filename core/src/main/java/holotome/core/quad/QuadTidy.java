package holotome.core.quad;

import holotome.core.array.LongIndex;
import holotome.core.polygon.PolygonMesh;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Takes irregular points out of a mesh of mostly quads where a small change does it: quads are
 * folded up along a diagonal, points with two edges taken off, edges between two quads turned,
 * triangles joined (the local operations of Tarini and others, "Practical quad mesh
 * simplification", 2010). A change is made if irregularity falls: the squares of how many edges
 * each point has too many or too few, and of how many corners each face has.
 *
 * <p>Points on lines stay, and so do the edges along them. Some 10 µs a face and round, one thread.
 */
final class QuadTidy {
  private static final int NONE = PolygonMesh.NONE;
  private static final int ROUNDS = 12;

  /** What a corner too many or too few counts for beside an edge. */
  private static final int CORNER = 3;

  private final PolygonMesh mesh;
  private final LongIndex lines;
  private final int[] from;
  private final boolean[] onLine;

  /** How many edges each point is to have: of an open one as its angle has it. */
  private final int[] ideal;

  /** The cosine of an angle between two sides that is none of a corner. */
  private static final double AGREE = 0.3;

  private static final double FLAT = -0.87;

  private final float[] normals;
  private final boolean parts;
  private boolean changed;

  private QuadTidy(Faces faces, float[] normals, boolean parts) {
    this.normals = normals;
    this.parts = parts;
    mesh = PolygonMesh.of(faces.at(), faces.corners());
    lines = faces.lines();
    from = faces.from();
    onLine = new boolean[faces.points()];
    for (int i = 0; i < lines.size(); i++) {
      onLine[(int) (lines.key(i) >>> 32)] = true;
      onLine[(int) lines.key(i)] = true;
    }
    ideal = new int[faces.points()];
    Arrays.fill(ideal, 4);
    double[] angle = new double[faces.points()];
    for (int[] c : faces.corners()) {
      for (int i = 0; i < c.length; i++) {
        int before = c[(i + c.length - 1) % c.length];
        int after = c[(i + 1) % c.length];
        angle[c[i]] += Math.acos(Shape.cosine(faces.at(), before, c[i], after));
      }
    }
    for (int v = 0; v < angle.length; v++) {
      if (mesh.hasVertex(v) && mesh.isBorder(v)) {
        ideal[v] = (int) Math.max(2, Math.rint(angle[v] / (Math.PI / 2)) + 1);
      }
    }
  }

  /**
   * Tidies.
   *
   * @param normals of the surface at its vertices: what lies around an end stays
   * @param parts whether quads may become other faces where a line needs it; else quads stay quads
   */
  static Faces of(Faces faces, float[] normals, boolean parts, Work work) {
    QuadTidy tidy = new QuadTidy(faces, normals, parts);
    for (int i = 0; i < ROUNDS; i++) {
      tidy.changed = false;
      tidy.round(work);
      if (!tidy.changed) {
        break;
      }
      tidy.mesh.settle();
    }
    work.advance(1);
    return tidy.result();
  }

  private void round(Work work) {
    for (int v = 0; v < mesh.vertexLimit(); v++) {
      takeOff(v);
    }
    work.check();
    for (int f = 0; f < mesh.faceLimit(); f++) {
      fold(f);
    }
    work.check();
    for (int f = 0; parts && f < mesh.faceLimit(); f++) {
      part(f);
    }
    for (int h = 0; h < mesh.halfEdgeLimit(); h += 2) {
      join(h);
      turn(h);
    }
    work.check();
  }

  // --- what it costs -----------------------------------------------------------------------------

  private int edges(int v) {
    return mesh.around(v).length;
  }

  /** What a point counts for with so many edges more than it has. */
  private int cost(int v, int more) {
    int off = edges(v) + more - ideal[v];
    return off * off;
  }

  private static int cost(int corners) {
    return CORNER * (corners - 4) * (corners - 4);
  }

  private int corners(int h) {
    int n = 0;
    int k = h;
    do {
      n++;
      k = mesh.next(k);
    } while (k != h);
    return n;
  }

  private boolean isLine(int h) {
    return lines.find(Faces.edge(mesh.origin(h), mesh.target(h))) >= 0;
  }

  /** Whether the surface looks much the same way at two points. */
  private boolean agree(int a, int b) {
    double dot = 0;
    for (int k = 0; k < 3; k++) {
      dot += (double) normals[3 * from[a] + k] * normals[3 * from[b] + k];
    }
    return dot > AGREE;
  }

  // --- what is done ------------------------------------------------------------------------------

  /** A point with two edges inside: what lay around it becomes one face. */
  private void takeOff(int v) {
    if (!mesh.hasVertex(v) || onLine[v] || edges(v) != 2 || mesh.isBorder(v)) {
      return;
    }
    int h = mesh.edgeOf(v);
    if (!agree(mesh.target(h), mesh.origin(mesh.previous(h)))) {
      return;
    }
    int a = corners(h);
    int b = corners(PolygonMesh.twin(h));
    if (a < 4 || b < 4 || shared(h) != 3 || !mesh.canJoinEdges(v)) {
      return;
    }
    int from = mesh.target(h);
    mesh.joinEdges(v);
    changed = true;
    // The edge that is left parts two faces of one corner less each.
    for (int k : mesh.around(from)) {
      boolean isIt = corners(k) == a - 1 && corners(PolygonMesh.twin(k)) == b - 1;
      if (isIt && cost(a + b - 4) <= cost(a - 1) + cost(b - 1) && mesh.canJoinFaces(k)) {
        mesh.joinFaces(k);
        return;
      }
    }
  }

  /** How many points the faces to either side of an edge share. */
  private int shared(int h) {
    int n = 0;
    for (int k : mesh.corners(mesh.face(h))) {
      for (int j : mesh.corners(mesh.face(PolygonMesh.twin(h)))) {
        n += k == j ? 1 : 0;
      }
    }
    return n;
  }

  /** Brings two opposite corners of a quad together. */
  private void fold(int f) {
    if (!mesh.hasFace(f)) {
      return;
    }
    int[] h = mesh.halfEdges(f);
    if (h.length != 4) {
      return;
    }
    int best = -1;
    int gain = 0;
    for (int i = 0; i < 2; i++) {
      int u = mesh.origin(h[i]);
      int w = mesh.origin(h[i + 2]);
      int x = mesh.origin(h[1 - i]);
      int y = mesh.origin(h[3 - i]);
      if (onLine[u] && onLine[w] || !agree(u, w)) {
        continue;
      }
      int both = edges(u) + edges(w) - 2;
      int to = onLine[u] ? ideal[u] : ideal[w];
      int after = (both - to) * (both - to) + cost(x, -1) + cost(y, -1);
      int now = cost(u, 0) + cost(w, 0) + cost(x, 0) + cost(y, 0);
      if (edges(x) <= 2 || edges(y) <= 2) {
        continue;
      }
      if (now - after > gain) {
        gain = now - after;
        best = i;
      }
    }
    if (best < 0) {
      return;
    }
    int from = onLine[mesh.origin(h[best + 2])] ? best + 2 : best;
    int to = from == best ? best + 2 : best;
    if (mesh.between(mesh.origin(h[from]), mesh.origin(h[to])) != NONE) {
      return;
    }
    double share = onLine[mesh.origin(h[from])] ? 0 : 0.5;
    int e = mesh.splitFace(h[from], h[to]);
    if (mesh.canCollapse(e)) {
      mesh.collapse(e, share);
      changed = true;
    } else {
      mesh.joinFaces(e);
    }
  }

  /**
   * Parts a face that has two sides along a straight line: there it would have no corner. From the
   * point between them an edge leads to the corner farthest along the face.
   */
  private void part(int f) {
    if (!mesh.hasFace(f)) {
      return;
    }
    int[] h = mesh.halfEdges(f);
    for (int i = 0; i < h.length && h.length > 3; i++) {
      if (isFlat(h[i])) {
        int to = h[(i + h.length / 2) % h.length];
        if (mesh.between(mesh.origin(h[i]), mesh.origin(to)) == NONE) {
          mesh.splitFace(h[i], to);
          changed = true;
          return;
        }
      }
    }
  }

  /** Whether a face goes straight on along a line where a half-edge begins. */
  private boolean isFlat(int h) {
    int before = mesh.previous(h);
    if (!isLine(h) || !isLine(before)) {
      return false;
    }
    double[] at = new double[9];
    System.arraycopy(mesh.position(mesh.origin(before)), 0, at, 0, 3);
    System.arraycopy(mesh.position(mesh.origin(h)), 0, at, 3, 3);
    System.arraycopy(mesh.position(mesh.target(h)), 0, at, 6, 3);
    return Shape.cosine(at, 0, 1, 2) < FLAT;
  }

  /** Makes one face of two where that is nearer to a quad. */
  private void join(int h) {
    if (!mesh.hasHalfEdge(h) || isLine(h)) {
      return;
    }
    int g = PolygonMesh.twin(h);
    if (mesh.face(h) == NONE || mesh.face(g) == NONE) {
      return;
    }
    int a = corners(h);
    int b = corners(g);
    if (a != 3 && b != 3) {
      return;
    }
    int v = mesh.origin(h);
    int u = mesh.origin(g);
    int now = cost(a) + cost(b) + cost(v, 0) + cost(u, 0);
    int after = cost(a + b - 2) + cost(v, -1) + cost(u, -1);
    if (after < now && edges(v) > 2 && edges(u) > 2 && mesh.canJoinFaces(h)) {
      if (isBent(h) || isBent(g)) {
        return;
      }
      mesh.joinFaces(h);
      changed = true;
    }
  }

  /** Whether taking a half-edge away leaves its origin without a corner in the face. */
  private boolean isBent(int h) {
    int after = mesh.next(PolygonMesh.twin(h));
    int before = mesh.previous(h);
    if (!isLine(after) || !isLine(before)) {
      return false;
    }
    double[] at = new double[9];
    System.arraycopy(mesh.position(mesh.origin(before)), 0, at, 0, 3);
    System.arraycopy(mesh.position(mesh.origin(h)), 0, at, 3, 3);
    System.arraycopy(mesh.position(mesh.target(after)), 0, at, 6, 3);
    return Shape.cosine(at, 0, 1, 2) < FLAT;
  }

  /** Turns the edge between two quads to other corners of the six around them. */
  private void turn(int h) {
    if (!mesh.hasHalfEdge(h) || isLine(h)) {
      return;
    }
    int g = PolygonMesh.twin(h);
    if (mesh.face(h) == NONE || mesh.face(g) == NONE || corners(h) != 4 || corners(g) != 4) {
      return;
    }
    int v = mesh.origin(h);
    int u = mesh.origin(g);
    if (edges(v) <= 2 || edges(u) <= 2) {
      return;
    }
    int off = cost(v, -1) + cost(u, -1) - cost(v, 0) - cost(u, 0);
    // Counter-clockwise it leads from the corner after v to that after u; else from those before.
    int a = mesh.target(mesh.next(g));
    int b = mesh.target(mesh.next(h));
    int c = mesh.origin(mesh.previous(h));
    int d = mesh.origin(mesh.previous(g));
    int one = off + gain(a) + gain(b);
    int two = off + gain(c) + gain(d);
    if (Math.min(one, two) >= 0 || isBent(h) || isBent(g) || !mesh.canJoinFaces(h)) {
      return;
    }
    int first = one <= two ? a : c;
    int last = one <= two ? b : d;
    if (mesh.between(first, last) != NONE) {
      return;
    }
    int face = mesh.face(h);
    mesh.joinFaces(h);
    int p = NONE;
    int q = NONE;
    for (int k : mesh.halfEdges(face)) {
      p = mesh.origin(k) == first ? k : p;
      q = mesh.origin(k) == last ? k : q;
    }
    mesh.splitFace(p, q);
    changed = true;
  }

  private int gain(int v) {
    return cost(v, 1) - cost(v, 0);
  }

  private Faces result() {
    int[] number = new int[mesh.vertexLimit()];
    int n = 0;
    for (int v = 0; v < number.length; v++) {
      number[v] = mesh.hasVertex(v) ? n++ : -1;
    }
    double[] at = new double[3 * n];
    int[] near = new int[n];
    for (int v = 0; v < number.length; v++) {
      if (number[v] >= 0) {
        System.arraycopy(mesh.position(v), 0, at, 3 * number[v], 3);
        near[number[v]] = from[v];
      }
    }
    int[][] corners = new int[mesh.faceCount()][];
    int m = 0;
    for (int f = 0; f < mesh.faceLimit(); f++) {
      if (mesh.hasFace(f)) {
        int[] c = mesh.corners(f);
        for (int i = 0; i < c.length; i++) {
          c[i] = number[c[i]];
        }
        corners[m++] = c;
      }
    }
    LongIndex kept = new LongIndex();
    for (int i = 0; i < lines.size(); i++) {
      kept.add(Faces.edge(number[(int) (lines.key(i) >>> 32)], number[(int) lines.key(i)]));
    }
    return new Faces(at, corners, kept, near);
  }
}
