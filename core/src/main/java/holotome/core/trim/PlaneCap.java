package holotome.core.trim;

import holotome.core.mesh.Adjacency;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.mesh.Triangulator;
import holotome.core.mesh.Vec;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Closes the openings that a plane cut left, flat, with few triangles. Outlines that lie within
 * others become holes in them, so a hollow shell is closed by a ring.
 *
 * @param mesh the mesh with its caps
 * @param note what was closed, in words
 */
record PlaneCap(Mesh mesh, String note) {

  static PlaneCap of(PlaneSplit split, double[] normal, Work work) {
    Mesh mesh = split.mesh();
    int[] edges = openEdges(split, work.part(0.3, "Closing the cut"));
    double[] u = Vec.perpendicular(normal);
    // u, w and the cap's own outside (against the normal) are right-handed.
    double[] w = Vec.cross(Vec.mul(normal, -1), u);
    List<int[]> loops = new ArrayList<>();
    int open = chain(mesh, edges, u, w, loops);
    List<double[]> rings = new ArrayList<>();
    for (int[] loop : loops) {
      rings.add(flat(mesh, loop, u, w));
    }
    work.advance(0.3);
    int[] cap = Triangulator.triangulate(rings, loops);
    int failed = 0;
    if (cap == null) {
      // One outline that crosses itself must not keep the others open.
      cap = new int[0];
      for (int i = 0; i < loops.size(); i++) {
        int[] one = Triangulator.triangulate(List.of(rings.get(i)), List.of(loops.get(i)));
        if (one == null || Triangulator.area(rings.get(i)) < 0) {
          failed++;
        } else {
          int at = cap.length;
          cap = java.util.Arrays.copyOf(cap, at + one.length);
          System.arraycopy(one, 0, cap, at, one.length);
        }
      }
    }
    work.advance(0.4);
    StringBuilder note = new StringBuilder();
    note.append(
        String.format(
            "%,d outlines closed with %,d triangles", loops.size() - failed, cap.length / 3));
    if (open > 0 || failed > 0) {
      note.append(
          String.format(
              "; %,d left open: they run into a border of the scan or cross themselves",
              open + failed));
    }
    return new PlaneCap(Patching.add(mesh, cap), note.toString());
  }

  /** Border edges with both ends on the plane, as pairs a, b in the direction of their triangle. */
  private static int[] openEdges(PlaneSplit split, Work work) {
    Mesh mesh = split.mesh();
    int[] tri = mesh.triangles();
    boolean[] on = split.onPlane();
    // Only triangles that touch the plane along an edge can have their neighbours there.
    int[] own = new int[tri.length];
    int at = 0;
    for (int t = 0; t < tri.length / 3; t++) {
      int count = 0;
      for (int k = 0; k < 3; k++) {
        count += on[tri[3 * t + k]] ? 1 : 0;
      }
      if (count >= 2) {
        System.arraycopy(tri, 3 * t, own, at, 3);
        at += 3;
      }
    }
    int[] twin = Adjacency.of(new Mesh(mesh.xyz(), java.util.Arrays.copyOf(own, at))).twin();
    int[] out = new int[2 * at];
    int n = 0;
    for (int h = 0; h < at; h++) {
      int a = own[h];
      int b = own[Adjacency.next(h)];
      if (twin[h] == Adjacency.BORDER && on[a] && on[b]) {
        out[n++] = a;
        out[n++] = b;
      }
    }
    return java.util.Arrays.copyOf(out, n);
  }

  /** Joins edges, reversed, into loops; returns how many chains do not close. */
  private static int chain(Mesh mesh, int[] edges, double[] u, double[] w, List<int[]> loops) {
    int n = edges.length / 2;
    Map<Integer, List<Integer>> from = new HashMap<>();
    for (int e = 0; e < n; e++) {
      from.computeIfAbsent(edges[2 * e + 1], k -> new ArrayList<>(1)).add(e);
    }
    boolean[] used = new boolean[n];
    int open = 0;
    for (int first = 0; first < n; first++) {
      if (used[first]) {
        continue;
      }
      List<Integer> loop = new ArrayList<>();
      int e = first;
      boolean closed = false;
      while (true) {
        used[e] = true;
        loop.add(edges[2 * e + 1]);
        int end = edges[2 * e];
        if (end == edges[2 * first + 1]) {
          closed = true;
          break;
        }
        int following = -1;
        double best = Double.NEGATIVE_INFINITY;
        for (int c : from.getOrDefault(end, List.of())) {
          if (!used[c]) {
            double turn = turn(mesh, edges[2 * e + 1], end, edges[2 * c], u, w);
            if (turn > best) {
              best = turn;
              following = c;
            }
          }
        }
        if (following < 0) {
          break;
        }
        e = following;
      }
      if (closed && loop.size() >= 3) {
        loops.add(loop.stream().mapToInt(Integer::intValue).toArray());
      } else {
        open++;
      }
    }
    return open;
  }

  /** The turn to the left at b on the way from a to c, -pi to pi. */
  private static double turn(Mesh mesh, int a, int b, int c, double[] u, double[] w) {
    double[] p = Vec.at(mesh.xyz(), a);
    double[] q = Vec.at(mesh.xyz(), b);
    double[] r = Vec.at(mesh.xyz(), c);
    double[] d = Vec.sub(q, p);
    double[] e = Vec.sub(r, q);
    double dx = Vec.dot(d, u);
    double dy = Vec.dot(d, w);
    double ex = Vec.dot(e, u);
    double ey = Vec.dot(e, w);
    return Math.atan2(dx * ey - dy * ex, dx * ex + dy * ey);
  }

  private static double[] flat(Mesh mesh, int[] loop, double[] u, double[] w) {
    double[] ring = new double[2 * loop.length];
    for (int i = 0; i < loop.length; i++) {
      double[] p = Vec.at(mesh.xyz(), loop[i]);
      ring[2 * i] = Vec.dot(p, u);
      ring[2 * i + 1] = Vec.dot(p, w);
    }
    return ring;
  }
}
