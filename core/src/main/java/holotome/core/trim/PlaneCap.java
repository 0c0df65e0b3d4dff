package holotome.core.trim;

import holotome.core.cut.FieldSplit;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.triangulation.EvenTriangulation;
import holotome.core.triangulation.Triangulator;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Closes the openings that a plane cut left, flat: with few triangles, or with triangles as large
 * as their neighbours, whose colour runs on from the rim. Outlines that lie within others become
 * holes in them, so a hollow shell is closed by a ring.
 *
 * @param mesh the mesh with its caps
 * @param notes what was closed, in words; none where nothing was open
 */
record PlaneCap(Mesh mesh, List<String> notes) {

  static PlaneCap of(FieldSplit split, double[] normal, boolean even, Work work) {
    Mesh mesh = split.mesh();
    int[] edges = openEdges(split, work.part(0.3, CoreWords.of("work.closing-the-cut")));
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
          cap = Arrays.copyOf(cap, at + one.length);
          System.arraycopy(one, 0, cap, at, one.length);
        }
      }
    }
    work.advance(0.2);
    Mesh closed =
        even && cap.length > 0
            ? evenly(mesh, cap, normal, u, w, work.part(0.2, CoreWords.of("work.closing-the-cut")))
            : Patching.add(mesh, cap, work.part(0.2, CoreWords.of("work.closing-the-cut")));
    if (loops.isEmpty() && open == 0) {
      return new PlaneCap(closed, List.of());
    }
    String note =
        CoreWords.count(
            "plane-cap.outlines-closed-with-triangles",
            loops.size() - failed,
            closed.triangleCount() - mesh.triangleCount());
    if (open > 0 || failed > 0) {
      note += "; " + CoreWords.count("plane-cap.left-open-they-run-into", open + failed);
    }
    return new PlaneCap(closed, List.of(note));
  }

  /** Adds a cap, refined until its triangles are as large as those around it. */
  private static Mesh evenly(
      Mesh mesh, int[] cap, double[] normal, double[] u, double[] w, Work work) {
    int[] rim = Arrays.stream(cap).sorted().distinct().toArray();
    int[] numbers = new int[cap.length];
    for (int i = 0; i < cap.length; i++) {
      numbers[i] = Arrays.binarySearch(rim, cap[i]);
    }
    double[] xy = flat(mesh, rim, u, w);
    double[] length = new double[rim.length];
    Arrays.fill(length, edgeAround(mesh, rim));
    double off = 0;
    for (int i = 0; i < rim.length; i++) {
      off += Vec.dot(Vec.at(mesh.xyz(), rim[i]), normal) / rim.length;
    }
    EvenTriangulation.Result even =
        EvenTriangulation.refine(
            xy, length, numbers, work.part(0.7, CoreWords.of("work.closing-the-cut")));
    float[] xyz = new float[even.xy().length / 2 * 3];
    for (int i = 0; i < xyz.length / 3; i++) {
      for (int k = 0; k < 3; k++) {
        xyz[3 * i + k] =
            (float) (even.xy()[2 * i] * u[k] + even.xy()[2 * i + 1] * w[k] + off * normal[k]);
      }
    }
    int[] triangles = even.triangles();
    for (int i = 0; i < triangles.length; i++) {
      triangles[i] =
          triangles[i] < rim.length
              ? rim[triangles[i]]
              : mesh.vertexCount() + triangles[i] - rim.length;
    }
    return Patching.add(mesh, xyz, triangles, work.part(0.3, CoreWords.of("work.closing-the-cut")));
  }

  /**
   * The length of edge of the triangles near the rim that the cut left whole: the pieces at the rim
   * itself are smaller than what was scanned.
   */
  private static double edgeAround(Mesh mesh, int[] rim) {
    byte[] ring = new byte[mesh.vertexCount()];
    for (int v : rim) {
      ring[v] = 2;
    }
    int[] tri = mesh.triangles();
    for (int t = 0; t < tri.length; t += 3) {
      if (ring[tri[t]] == 2 || ring[tri[t + 1]] == 2 || ring[tri[t + 2]] == 2) {
        for (int k = 0; k < 3; k++) {
          ring[tri[t + k]] = ring[tri[t + k]] == 0 ? 1 : ring[tri[t + k]];
        }
      }
    }
    double area = 0;
    double rimArea = 0;
    int n = 0;
    int rimN = 0;
    for (int t = 0; t < tri.length; t += 3) {
      int most = Math.max(ring[tri[t]], Math.max(ring[tri[t + 1]], ring[tri[t + 2]]));
      if (most > 0) {
        double a = Vec.length(Measures.cross(mesh, t / 3)) / 2;
        area += most == 1 ? a : 0;
        n += most == 1 ? 1 : 0;
        rimArea += most == 2 ? a : 0;
        rimN += most == 2 ? 1 : 0;
      }
    }
    double mean = n > 0 ? area / n : rimArea / Math.max(1, rimN);
    return Math.sqrt(4 / Math.sqrt(3) * mean);
  }

  /** Border edges with both ends on the plane, as pairs a, b in the direction of their triangle. */
  private static int[] openEdges(FieldSplit split, Work work) {
    Mesh mesh = split.mesh();
    int[] tri = mesh.triangles();
    boolean[] on = split.onCut();
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
    int[] twin = Adjacency.of(new Mesh(mesh.xyz(), Arrays.copyOf(own, at))).twin();
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
    return Arrays.copyOf(out, n);
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
