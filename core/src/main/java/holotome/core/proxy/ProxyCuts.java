package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.polygon.HalfEdges;
import holotome.core.polygon.PolygonMesh;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Edges put through faces and taken out of them, by Euler operators alone: the surface stays the
 * manifold it was.
 */
final class ProxyCuts {
  private ProxyCuts() {}

  /** Puts a point on an edge. */
  static int split(PolygonMesh p, int h, double share) {
    if (!(share > 0 && share < 1)) {
      throw Failure.cannot(CoreWords.of("proxy-edit.share"));
    }
    return p.splitEdge(h, share);
  }

  /** Puts a ring of edges across the row of quads that an edge is of, at a share of that edge. */
  static void ring(PolygonMesh p, int h, double share) {
    List<Integer> row = new ArrayList<>();
    Set<Integer> faces = new HashSet<>();
    row.add(h);
    boolean isRound = false;
    for (int at = h; isQuad(p, p.face(at)) && faces.add(p.face(at)); ) {
      at = HalfEdges.twin(p.next(p.next(at)));
      if (at == h) {
        isRound = true;
        break;
      }
      row.add(at);
    }
    for (int at = h; !isRound && isQuad(p, p.face(HalfEdges.twin(at))); ) {
      if (!faces.add(p.face(HalfEdges.twin(at)))) {
        break;
      }
      at = p.next(p.next(HalfEdges.twin(at)));
      row.addFirst(at);
    }
    if (row.size() < 2) {
      throw Failure.cannot(CoreWords.of("proxy-edit.no-row"));
    }
    int[] points = new int[row.size()];
    for (int i = 0; i < points.length; i++) {
      points[i] = split(p, row.get(i), share);
    }
    for (int i = 0; i + (isRound ? 0 : 1) < points.length; i++) {
      part(p, p.face(row.get(i)), points[i], points[(i + 1) % points.length]);
    }
  }

  private static boolean isQuad(PolygonMesh p, int f) {
    return f != HalfEdges.NONE && p.corners(f).length == 4;
  }

  /** Parts a face between two of its corners, by their vertices. */
  private static void part(PolygonMesh p, int f, int a, int b) {
    int from = HalfEdges.NONE;
    int to = HalfEdges.NONE;
    for (int h : p.halfEdges(f)) {
      from = p.origin(h) == a ? h : from;
      to = p.origin(h) == b ? h : to;
    }
    p.splitFace(from, to);
  }

  /** Takes an edge out from between its two faces. */
  static void dissolveEdge(PolygonMesh p, int a, int b) {
    int h = p.between(a, b);
    if (h < 0 || !p.canJoinFaces(h)) {
      throw Failure.cannot(CoreWords.of("proxy-edit.edge-holds"));
    }
    p.joinFaces(h);
  }

  /** Takes a point out: what was around it is one face. */
  static void dissolvePoint(PolygonMesh p, int v) {
    boolean isOn = true;
    while (isOn && p.around(v).length > 2) {
      isOn = false;
      for (int h : p.around(v)) {
        if (p.canJoinFaces(h)) {
          p.joinFaces(h);
          isOn = true;
          break;
        }
      }
    }
    if (!p.canJoinEdges(v)) {
      throw Failure.cannot(CoreWords.of("proxy-edit.point-holds"));
    }
    p.joinEdges(v);
  }

  /**
   * Cuts faces along a plane; returns how often.
   *
   * @param only those that are cut; null for all
   * @param normal unit
   */
  static int cut(PolygonMesh p, boolean[] only, double[] at, double[] normal, double size) {
    double on = ProxyForms.ON * size;
    int edges = p.halfEdgeLimit();
    for (int h = 0; h < edges; h += 2) {
      if (!p.hasHalfEdge(h) || !isOf(only, p.face(h)) && !isOf(only, p.face(h + 1))) {
        continue;
      }
      double a = over(p, p.origin(h), at, normal);
      double b = over(p, p.target(h), at, normal);
      if (Math.abs(a) > on && Math.abs(b) > on && a < 0 != b < 0) {
        p.splitEdge(h, a / (a - b));
      }
    }
    int faces = p.faceLimit();
    int cuts = 0;
    for (int f = 0; f < faces; f++) {
      if (p.hasFace(f) && isOf(only, f)) {
        cuts += part(p, f, at, normal, on);
      }
    }
    return cuts;
  }

  private static boolean isOf(boolean[] only, int f) {
    return f != HalfEdges.NONE && (only == null || f < only.length && only[f]);
  }

  private static double over(PolygonMesh p, int v, double[] at, double[] normal) {
    return Vec.dot(Vec.sub(p.position(v), at), normal);
  }

  /** Parts a face where it crosses the plane, from the first crossing to the second and so on. */
  private static int part(PolygonMesh p, int f, double[] at, double[] normal, double on) {
    int[] c = p.corners(f);
    List<Integer> crossing = new ArrayList<>();
    boolean isAbove = false;
    boolean isBelow = false;
    for (int v : c) {
      double d = over(p, v, at, normal);
      isAbove |= d > on;
      isBelow |= d < -on;
      if (Math.abs(d) <= on) {
        crossing.add(v);
      }
    }
    if (!isAbove || !isBelow || crossing.size() < 2) {
      return 0;
    }
    double[] first = p.position(crossing.getFirst());
    double[] along = Vec.sub(p.position(crossing.getLast()), first);
    crossing.sort(Comparator.comparingDouble(v -> Vec.dot(Vec.sub(p.position(v), first), along)));
    int cuts = 0;
    for (int i = 0; i + 1 < crossing.size(); i += 2) {
      int a = crossing.get(i);
      int b = crossing.get(i + 1);
      int face = shared(p, a, b);
      if (face != HalfEdges.NONE && p.between(a, b) == HalfEdges.NONE) {
        part(p, face, a, b);
        cuts++;
      }
    }
    return cuts;
  }

  /** A face that two vertices are both corners of; NONE for none. */
  private static int shared(PolygonMesh p, int a, int b) {
    for (int h : p.around(a)) {
      int f = p.face(h);
      if (f != HalfEdges.NONE) {
        for (int v : p.corners(f)) {
          if (v == b) {
            return f;
          }
        }
      }
    }
    return HalfEdges.NONE;
  }

  /**
   * Takes an edge off between its two faces: a narrow face in its place, whose long sides lie so
   * far from where the edge was.
   */
  static void bevel(PolygonMesh p, int h, double by) {
    int g = HalfEdges.twin(h);
    if (p.face(h) == HalfEdges.NONE || p.face(g) == HalfEdges.NONE || !(by > 0)) {
      throw Failure.cannot(CoreWords.of("proxy-edit.no-bevel"));
    }
    int a = p.origin(h);
    int b = p.target(h);
    side(p, h, by);
    side(p, g, by);
    int k = p.between(a, b);
    if (!p.canJoinFaces(k)) {
      throw Failure.cannot(CoreWords.of("proxy-edit.no-bevel"));
    }
    p.joinFaces(k);
    for (int v : new int[] {a, b}) {
      if (p.canJoinEdges(v)) {
        p.joinEdges(v);
      }
    }
  }

  /** Parts the face of a half-edge along a line beside it. */
  private static void side(PolygonMesh p, int h, double by) {
    double[] along = Vec.unit(Vec.sub(p.position(p.target(h)), p.position(p.origin(h))));
    int f = p.face(h);
    int after = p.next(h);
    int before = p.previous(h);
    int first = p.splitEdge(after, share(p, after, along, by));
    int last = p.splitEdge(before, 1 - share(p, HalfEdges.twin(before), along, by));
    part(p, f, first, last);
  }

  /** The share of a half-edge after which it is so far beside the line that it starts at. */
  private static double share(PolygonMesh p, int h, double[] along, double by) {
    double[] d = Vec.sub(p.position(p.target(h)), p.position(p.origin(h)));
    double off = Vec.length(Vec.cross(d, along));
    double share = by / off;
    if (!(share < 1)) {
      throw Failure.cannot(CoreWords.of("proxy-edit.too-far"));
    }
    return share;
  }
}
