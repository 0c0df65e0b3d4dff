package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.polygon.PolygonMesh;
import holotome.core.polygon.Triangulated;
import holotome.core.solve.PlanesPoint;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * The border between cells inside and those outside, as faces of as many corners as it takes.
 * Facets of one wall beside each other become one face and points that nothing turns at go; around
 * a hole in a face an edge stays that leads to it. Edges shorter than the planes are known by are
 * drawn together to the one point that the planes around them meet in. Where insides touch along an
 * edge or in a point alone they are parted there, so that what comes out is a manifold surface.
 */
final class SolidFaces {
  /** Sines smaller than this do not turn. */
  private static final double STRAIGHT = 1e-7;

  private final Arrangement room;
  private final List<Wall> walls;

  /** A facet of the border, seen from outside. */
  private record Side(int wall, boolean isFront, int[] corners, int facet) {}

  private final List<Side> sides = new ArrayList<>();
  private final PolygonMesh mesh;

  /** What plane a face lies in and which way it looks, by its number. */
  private final int[] planeOf;

  private final int drawnTogether;

  /** The point of the room that each point of the border is. */
  private int[] place;

  /**
   * @param open whether sides that nobody saw are left out
   * @param join how short edges are that are drawn together
   */
  SolidFaces(SolidCells cells, List<Wall> walls, boolean open, double join) {
    room = cells.cells();
    this.walls = walls;
    gather(cells);
    int[][] loops = parted(open);
    List<int[]> faces = new ArrayList<>();
    List<Integer> planes = new ArrayList<>();
    new FacetGroups(loops, s -> 2 * sides.get(s).wall + (sides.get(s).isFront ? 1 : 0))
        .each(
            (loop, plane) -> {
              faces.add(loop);
              planes.add(plane);
            });
    mesh = PolygonMesh.of(positions(faces), faces.toArray(int[][]::new));
    planeOf = planes.stream().mapToInt(Integer::intValue).toArray();
    simplify();
    drawnTogether = drawTogether(join);
    simplify();
    shiftEnds();
  }

  /** The faces, in the coordinates of the walls. */
  PolygonMesh mesh() {
    return mesh;
  }

  /** The wall that a face lies in. */
  int wall(int face) {
    return planeOf[face] / 2;
  }

  /** How many edges were too short to be true. */
  int drawnTogether() {
    return drawnTogether;
  }

  /** The facets of the border, by their places in the arrangement's list. */
  int[] facets() {
    return sides.stream().mapToInt(Side::facet).toArray();
  }

  private void gather(SolidCells cells) {
    List<Arrangement.Facet> all = room.facets();
    for (int i = 0; i < all.size(); i++) {
      Arrangement.Facet f = all.get(i);
      boolean isFrontIn = cells.isInside(f.front);
      if (isFrontIn == cells.isInside(f.back) || f.plane < 0) {
        continue;
      }
      int[] c = f.corners.clone();
      if (isFrontIn) {
        for (int a = 0, b = c.length - 1; a < b; a++, b--) {
          int t = c[a];
          c[a] = c[b];
          c[b] = t;
        }
      }
      sides.add(new Side(f.plane, !isFrontIn, c, i));
    }
  }

  // --- parted where insides only touch
  // ------------------------------------------------------------

  private static long key(int a, int b) {
    return (long) a << 32 | b;
  }

  /** The sides as loops of points of their own; null for those left out. */
  private int[][] parted(boolean open) {
    int[] first = new int[sides.size() + 1];
    Map<Long, List<int[]>> edges = new HashMap<>();
    for (int s = 0; s < sides.size(); s++) {
      int[] c = sides.get(s).corners;
      first[s + 1] = first[s] + c.length;
      for (int i = 0; i < c.length; i++) {
        long k = key(c[i], c[(i + 1) % c.length]);
        edges.computeIfAbsent(k, x -> new ArrayList<>()).add(new int[] {s, i});
      }
    }
    int[] fan = new int[first[sides.size()]];
    Arrays.setAll(fan, i -> i);
    for (int s = 0; s < sides.size(); s++) {
      int[] c = sides.get(s).corners;
      for (int i = 0; i < c.length; i++) {
        int next = (i + 1) % c.length;
        List<int[]> others = edges.getOrDefault(key(c[next], c[i]), List.of());
        int[] partner = others.size() == 1 ? others.get(0) : nearest(s, i, others);
        if (partner == null || !isKept(s, open) || !isKept(partner[0], open)) {
          continue;
        }
        int n = sides.get(partner[0]).corners.length;
        join(fan, first[s] + i, first[partner[0]] + (partner[1] + 1) % n);
        join(fan, first[s] + next, first[partner[0]] + partner[1]);
      }
    }
    int[][] out = new int[sides.size()][];
    place = new int[fan.length];
    for (int s = 0; s < out.length; s++) {
      if (isKept(s, open)) {
        out[s] = new int[sides.get(s).corners.length];
        for (int i = 0; i < out[s].length; i++) {
          out[s][i] = root(fan, first[s] + i);
          place[out[s][i]] = sides.get(s).corners[i];
        }
      }
    }
    return checked(out);
  }

  private boolean isKept(int side, boolean open) {
    return !open || walls.get(sides.get(side).wall).isSeen();
  }

  private static int root(int[] fan, int i) {
    int r = i;
    while (fan[r] != r) {
      r = fan[r];
    }
    fan[i] = r;
    return r;
  }

  private static void join(int[] fan, int a, int b) {
    int p = root(fan, a);
    int q = root(fan, b);
    fan[Math.max(p, q)] = Math.min(p, q);
  }

  private static int[][] checked(int[][] loops) {
    Set<Long> had = new HashSet<>();
    for (int[] loop : loops) {
      for (int i = 0; loop != null && i < loop.length; i++) {
        if (!had.add(key(loop[i], loop[(i + 1) % loop.length]))) {
          throw Failure.cannot(CoreWords.of("planes.touching"));
        }
      }
    }
    return loops;
  }

  /** Of several sides at an edge the one that bounds the same inside there. */
  private int[] nearest(int side, int corner, List<int[]> others) {
    int[] c = sides.get(side).corners;
    double[] e = Vec.unit(Vec.sub(room.at(c[(corner + 1) % c.length]), room.at(c[corner])));
    double[] n = outward(side);
    double[] along = Vec.cross(n, e);
    int[] best = null;
    double least = Double.POSITIVE_INFINITY;
    for (int[] o : others) {
      // Its edge runs the other way.
      double[] there = Vec.cross(e, outward(o[0]));
      double turn = Math.atan2(-Vec.dot(there, n), Vec.dot(there, along));
      turn = turn <= 0 ? turn + 2 * Math.PI : turn;
      if (turn < least) {
        least = turn;
        best = o;
      }
    }
    return best;
  }

  private double[] outward(int side) {
    Side s = sides.get(side);
    double[] n = walls.get(s.wall).normal();
    return s.isFront ? n : Vec.mul(n, -1);
  }

  /** The points that faces have, numbered anew one after the other. */
  private double[] positions(List<int[]> faces) {
    Map<Integer, Integer> number = new HashMap<>();
    List<double[]> points = new ArrayList<>();
    for (int[] face : faces) {
      for (int i = 0; i < face.length; i++) {
        Integer n = number.get(face[i]);
        if (n == null) {
          n = points.size();
          number.put(face[i], n);
          points.add(room.at(place[face[i]]));
        }
        face[i] = n;
      }
    }
    return points.stream().flatMapToDouble(Arrays::stream).toArray();
  }

  // --- as few as it takes
  // -------------------------------------------------------------------------

  /** Joins what lies in one plane, until nothing is left to join. */
  private void simplify() {
    boolean goesOn = true;
    while (goesOn) {
      goesOn = false;
      for (int h = 0; h < mesh.halfEdgeLimit(); h += 2) {
        goesOn |= mesh.hasHalfEdge(h) && isWithin(h) && joinOver(h);
      }
      for (int v = 0; v < mesh.vertexLimit(); v++) {
        if (mesh.hasVertex(v) && mesh.canJoinEdges(v) && isStraight(v)) {
          mesh.joinEdges(v);
          goesOn = true;
        }
      }
    }
  }

  private boolean isWithin(int h) {
    int a = mesh.face(h);
    int b = mesh.face(PolygonMesh.twin(h));
    return a != PolygonMesh.NONE && b != PolygonMesh.NONE && planeOf[a] == planeOf[b];
  }

  /**
   * Makes one face of two if they share this edge and those that go on from it in a row, and
   * nothing else: else the new face would come by a point twice.
   */
  private boolean joinOver(int h) {
    int a = mesh.face(h);
    int b = mesh.face(PolygonMesh.twin(h));
    Set<Integer> of = new HashSet<>();
    for (int v : mesh.corners(a)) {
      of.add(v);
    }
    int shared = 0;
    for (int v : mesh.corners(b)) {
      shared += of.contains(v) ? 1 : 0;
    }
    List<Integer> inner = new ArrayList<>();
    for (int k = h; isOfTwo(mesh.target(k)) && mesh.target(k) != mesh.origin(h); k = mesh.next(k)) {
      inner.add(mesh.target(k));
    }
    for (int k = h;
        isOfTwo(mesh.origin(k)) && !inner.contains(mesh.origin(k));
        k = mesh.previous(k)) {
      inner.add(mesh.origin(k));
    }
    if (a == b || shared != inner.size() + 2) {
      return false;
    }
    int mark = mesh.mark();
    int edge = h;
    for (int v : inner) {
      if (!mesh.canJoinEdges(v)) {
        mesh.undoTo(mark);
        return false;
      }
      mesh.joinEdges(v);
    }
    if (!mesh.hasHalfEdge(edge)) {
      edge = sharedBy(a, b);
    }
    if (edge == PolygonMesh.NONE || !mesh.canJoinFaces(edge)) {
      mesh.undoTo(mark);
      return false;
    }
    mesh.joinFaces(edge);
    return true;
  }

  private boolean isOfTwo(int v) {
    return mesh.around(v).length == 2;
  }

  private int sharedBy(int a, int b) {
    for (int k : mesh.halfEdges(a)) {
      if (mesh.face(PolygonMesh.twin(k)) == b) {
        return k;
      }
    }
    return PolygonMesh.NONE;
  }

  private boolean isStraight(int v) {
    int[] out = mesh.around(v);
    double[] at = mesh.position(v);
    double[] a = Vec.unit(Vec.sub(mesh.position(mesh.target(out[0])), at));
    double[] b = Vec.unit(Vec.sub(mesh.position(mesh.target(out[1])), at));
    return Vec.length(Vec.cross(a, b)) < STRAIGHT;
  }

  /**
   * Where an edge that leads to a hole ends in the midst of another edge, its end goes to one of
   * that edge's, if the faces beside it stay simple: one corner less.
   */
  private void shiftEnds() {
    for (int v = 0; v < mesh.vertexLimit(); v++) {
      if (!mesh.hasVertex(v) || mesh.around(v).length != 3) {
        continue;
      }
      for (int h : mesh.around(v)) {
        int back = PolygonMesh.twin(h);
        if (isWithin(h) || !isBetween(v) || !mesh.canCollapse(back)) {
          continue;
        }
        int mark = mesh.mark();
        int to = mesh.target(h);
        mesh.collapse(back, 0);
        boolean isSimple = true;
        for (int k : mesh.around(to)) {
          isSimple &= mesh.face(k) == PolygonMesh.NONE || isSimple(mesh.face(k));
        }
        if (isSimple) {
          break;
        }
        mesh.undoTo(mark);
      }
    }
  }

  /** Whether a point lies in the midst of a straight edge that another within a plane leads to. */
  private boolean isBetween(int v) {
    double[] at = mesh.position(v);
    List<double[]> along = new ArrayList<>();
    int within = 0;
    for (int k : mesh.around(v)) {
      if (isWithin(k)) {
        within++;
      } else {
        along.add(Vec.unit(Vec.sub(mesh.position(mesh.target(k)), at)));
      }
    }
    return within == 1
        && Vec.length(Vec.cross(along.get(0), along.get(1))) < STRAIGHT
        && Vec.dot(along.get(0), along.get(1)) < 0;
  }

  /** Whether a face goes nowhere over itself: its triangles are together as large as it is. */
  private boolean isSimple(int face) {
    int[] corners = mesh.corners(face);
    double[][] q = new double[corners.length][];
    for (int i = 0; i < q.length; i++) {
      q[i] = mesh.position(corners[i]);
    }
    double[] whole = new double[3];
    for (int i = 1; i + 1 < q.length; i++) {
      whole = Vec.add(whole, Vec.cross(Vec.sub(q[i], q[0]), Vec.sub(q[i + 1], q[0])));
    }
    double sum = 0;
    int[] cut = Triangulated.triangles(q);
    for (int i = 0; i < cut.length; i += 3) {
      double[] a = q[cut[i]];
      sum += Vec.length(Vec.cross(Vec.sub(q[cut[i + 1]], a), Vec.sub(q[cut[i + 2]], a)));
    }
    double[] n = walls.get(wall(face)).normal();
    boolean isOut = Vec.dot(whole, n) * (planeOf[face] % 2 == 1 ? 1 : -1) > 0;
    return isOut && Math.abs(sum - Vec.length(whole)) <= 1e-9 * sum;
  }

  private int drawTogether(double join) {
    int count = 0;
    for (int h = 0; h < mesh.halfEdgeLimit(); h += 2) {
      if (!mesh.hasHalfEdge(h)) {
        continue;
      }
      int a = mesh.origin(h);
      int b = mesh.target(h);
      double[] p = mesh.position(a);
      double[] q = mesh.position(b);
      if (Vec.distance(p, q) >= join || !mesh.canCollapse(h)) {
        continue;
      }
      double[] middle = Vec.mul(Vec.add(p, q), 0.5);
      PlanesPoint point = new PlanesPoint();
      Set<Integer> planes = new HashSet<>();
      for (int v : new int[] {a, b}) {
        for (int k : mesh.around(v)) {
          if (mesh.face(k) != PolygonMesh.NONE) {
            planes.add(wall(mesh.face(k)));
          }
        }
      }
      for (int w : planes.stream().sorted().toList()) {
        double[] n = walls.get(w).normal();
        point.add(n[0], n[1], n[2], -walls.get(w).over(middle[0], middle[1], middle[2]));
      }
      double[] by = point.solve();
      mesh.collapse(h, 0);
      // Planes that are nearly one may meet far off.
      double[] to = Vec.length(by) <= 2 * join ? Vec.add(middle, by) : middle;
      mesh.move(a, to[0], to[1], to[2]);
      count++;
    }
    return count;
  }
}
