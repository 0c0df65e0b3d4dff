package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.solve.PlaneFit;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.triangulation.EvenTriangulation;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.List;
import java.util.function.Predicate;

/**
 * A patch for one hole.
 *
 * <p>A border of up to {@link #EXACT} edges is triangulated for the least area, a longer one flat
 * in its best plane, or, where that fails, ear by ear, the one with the shortest closing edge
 * first. A smooth patch is then refined to the density around it and faired, after Liepa, "Filling
 * holes in meshes" (SGP 2003).
 *
 * @param xyz new vertices, numbered on from the mesh's
 * @param triangles over old and new vertices
 * @param settled whether the surface came to rest: if not, it is less smooth than it could be
 */
record HoleFill(float[] xyz, int[] triangles, boolean settled) {
  private static final int EXACT = 160;

  /**
   * The patch, or null where the border allows none.
   *
   * @param loop border half-edges round the hole, then round each island within it
   * @param grade by how much the triangles of a smooth patch grow at each splitting; 1 for a patch
   *     as dense as what is around it
   */
  static HoleFill of(
      Mesh mesh, Adjacency adjacency, int[] loop, boolean smooth, double grade, Work work) {
    HoleRing ring = HoleRing.of(mesh, loop);
    int n = ring.size();
    if (n < 3 || ring.repeats()) {
      return null;
    }
    double[][] p = new double[n][];
    for (int i = 0; i < n; i++) {
      p[i] = Vec.at(mesh.xyz(), ring.vertices()[i]);
    }
    Chords chords = new Chords(mesh, adjacency, loop, ring);
    boolean isOne = ring.begins().length == 1;
    int[] tri =
        isOne && n <= EXACT ? leastArea(p, chords, work) : new FlatRing(mesh, ring).triangulated();
    if (tri == null && !isOne) {
      return null;
    }
    if (tri == null) {
      tri = byEars(p, work);
    }
    if (!chords.swapAway(tri)) {
      return null;
    }
    work.advance(0.2);
    if (!smooth || n == 3) {
      int[] out = new int[tri.length];
      for (int i = 0; i < tri.length; i++) {
        out[i] = ring.vertices()[tri[i]];
      }
      return new HoleFill(new float[0], out, true);
    }
    return new PatchFairing(mesh, adjacency, loop, ring, tri, chords, grade)
        .run(work.part(0.8, CoreWords.of("work.filling-holes")));
  }

  /**
   * A patch in the plane of the rim or on another shape, as dense as what is around it, however
   * wide; null where the rim cannot be laid flat.
   *
   * @param loop as in {@link #of}
   * @param laying how the shape is laid flat; null for the plane of the rim
   */
  static HoleFill even(Mesh mesh, Adjacency adjacency, int[] loop, Laying laying, Work work) {
    HoleRing ring = HoleRing.of(mesh, loop);
    FlatRing flat = ring.size() < 3 || ring.repeats() ? null : new FlatRing(mesh, ring, laying);
    int[] tri = flat == null ? null : flat.triangulated();
    if (tri == null) {
      return null;
    }
    EvenTriangulation.Result even =
        EvenTriangulation.refine(flat.places(), flat.lengths(), tri, work);
    Chords chords = new Chords(mesh, adjacency, loop, ring);
    int[] out = even.triangles();
    for (int h = 0; h < out.length; h++) {
      if (chords.has(out[h], out[Adjacency.next(h)])) {
        return null;
      }
    }
    int n = ring.size();
    for (int c = 0; c < out.length; c++) {
      out[c] = out[c] < n ? ring.vertices()[out[c]] : mesh.vertexCount() + out[c] - n;
    }
    return new HoleFill(flat.lifted(even.xy()), out, true);
  }

  /**
   * The patches of several holes, side by side; null for those that allow none.
   *
   * @param smooth whether a border is filled smoothly
   * @param grade see {@link #of}
   */
  static HoleFill[] all(
      Mesh mesh,
      Adjacency adjacency,
      List<int[]> loops,
      Predicate<int[]> smooth,
      double grade,
      Work work) {
    HoleFill[] out = new HoleFill[loops.size()];
    Parallel.range(
        out.length,
        1,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            int[] loop = loops.get(i);
            Work part = work.part(1.0 / out.length, CoreWords.of("work.filling-holes"));
            out[i] = of(mesh, adjacency, loop, smooth.test(loop), grade, part);
          }
        });
    return out;
  }

  /** How far its new vertices are from the plane of its rim at most. */
  double standsOut(Mesh mesh) {
    if (xyz.length == 0) {
      return 0;
    }
    PlaneFit.Sum sum = new PlaneFit.Sum();
    for (int v : triangles) {
      if (v < mesh.vertexCount()) {
        sum.add(mesh.xyz()[3 * v], mesh.xyz()[3 * v + 1], mesh.xyz()[3 * v + 2], 1);
      }
    }
    PlaneFit plane = sum.fit();
    double most = 0;
    for (int i = 0; i < xyz.length; i += 3) {
      double[] d = Vec.sub(Vec.of(xyz[i], xyz[i + 1], xyz[i + 2]), plane.point());
      most = Math.max(most, Math.abs(Vec.dot(d, plane.normal())));
    }
    return most;
  }

  /** Least total area by dynamic programming (Barequet and Sharir, 1995); O(n³), n is small. */
  private static int[] leastArea(double[][] p, Chords chords, Work work) {
    int n = p.length;
    double[][] cost = new double[n][n];
    int[][] cut = new int[n][n];
    for (int span = 2; span < n; span++) {
      work.check();
      for (int i = 0; i + span < n; i++) {
        int k = i + span;
        double best = Double.POSITIVE_INFINITY;
        for (int m = i + 1; m < k; m++) {
          double c = cost[i][m] + cost[m][k] + area(p[i], p[m], p[k]);
          if (chords.has(i, m) || chords.has(m, k) || chords.has(i, k)) {
            // Dearer than any patch without it, yet still to be told apart.
            c += 1e30;
          }
          if (c < best) {
            best = c;
            cut[i][k] = m;
          }
        }
        cost[i][k] = best;
      }
    }
    int[] out = new int[3 * (n - 2)];
    int[] stack = new int[4 * n];
    int top = 0;
    int at = 0;
    stack[top++] = 0;
    stack[top++] = n - 1;
    while (top > 0) {
      int k = stack[--top];
      int i = stack[--top];
      if (k - i < 2) {
        continue;
      }
      int m = cut[i][k];
      out[at++] = i;
      out[at++] = m;
      out[at++] = k;
      stack[top++] = i;
      stack[top++] = m;
      stack[top++] = m;
      stack[top++] = k;
    }
    return out;
  }

  private static double area(double[] a, double[] b, double[] c) {
    return Vec.length(Vec.cross(Vec.sub(b, a), Vec.sub(c, a))) / 2;
  }

  /** Whether an outline meets itself nowhere; a sweep along x. */
  static boolean simple(double[] ring) {
    int n = ring.length / 2;
    Integer[] order = new Integer[n];
    Arrays.setAll(order, i -> i);
    double[] left = new double[n];
    double[] right = new double[n];
    for (int i = 0; i < n; i++) {
      int j = (i + 1) % n;
      left[i] = Math.min(ring[2 * i], ring[2 * j]);
      right[i] = Math.max(ring[2 * i], ring[2 * j]);
    }
    Arrays.sort(order, (a, b) -> Double.compare(left[a], left[b]));
    for (int x = 0; x < n; x++) {
      int i = order[x];
      for (int y = x + 1; y < n && left[order[y]] <= right[i]; y++) {
        int j = order[y];
        if ((i + 1) % n != j && (j + 1) % n != i && cross(ring, i, j, n)) {
          return false;
        }
      }
    }
    return true;
  }

  private static boolean cross(double[] r, int i, int j, int n) {
    int k = (i + 1) % n;
    int l = (j + 1) % n;
    double a = side(r, i, k, j);
    double b = side(r, i, k, l);
    double c = side(r, j, l, i);
    double d = side(r, j, l, k);
    return a * b <= 0 && c * d <= 0 && !(a == 0 && b == 0);
  }

  private static double side(double[] r, int a, int b, int c) {
    return (r[2 * b] - r[2 * a]) * (r[2 * c + 1] - r[2 * a + 1])
        - (r[2 * c] - r[2 * a]) * (r[2 * b + 1] - r[2 * a + 1]);
  }

  /** Cuts the ear with the shortest closing edge again and again; O(n log n). */
  private static int[] byEars(double[][] p, Work work) {
    int n = p.length;
    int[] next = new int[n];
    int[] previous = new int[n];
    int[] version = new int[n];
    for (int i = 0; i < n; i++) {
      next[i] = (i + 1) % n;
      previous[i] = (i + n - 1) % n;
    }
    record Ear(double closing, int at, int version) {}
    java.util.PriorityQueue<Ear> ears =
        new java.util.PriorityQueue<>(
            (a, b) -> a.closing != b.closing ? Double.compare(a.closing, b.closing) : a.at - b.at);
    for (int i = 0; i < n; i++) {
      ears.add(new Ear(Vec.distance(p[previous[i]], p[next[i]]), i, 0));
    }
    int[] out = new int[3 * (n - 2)];
    int at = 0;
    while (at < out.length) {
      if (at % 3000 == 0) {
        work.check();
      }
      Ear e = ears.poll();
      if (e.version != version[e.at]) {
        continue;
      }
      int a = previous[e.at];
      int b = next[e.at];
      out[at++] = a;
      out[at++] = e.at;
      out[at++] = b;
      next[a] = b;
      previous[b] = a;
      version[e.at] = -1;
      ears.add(new Ear(Vec.distance(p[previous[a]], p[b]), a, ++version[a]));
      ears.add(new Ear(Vec.distance(p[a], p[next[b]]), b, ++version[b]));
    }
    return out;
  }
}
