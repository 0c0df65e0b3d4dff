package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.solve.SparseSystem;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;

/**
 * Refines a patch to the density of its surroundings and fairs it so that it continues the surface.
 *
 * <p>Refinement splits triangles at their centre while they are larger than the edge lengths
 * blended in from the border, with edge swaps towards Delaunay in between; wide holes get coarser
 * inwards. Fairing minimises the sum of squared umbrella vectors over the patch and its border, so
 * that the patch leaves the border along the surface outside it (second-order fairing, Liepa 2003;
 * Kobbelt and others 1998); umbrellas are weighted by the inverse of the edge lengths.
 */
final class PatchFairing {
  private static final double ALPHA = 1.41421356;
  private static final int MOST = 2_000_000;

  /** Wide holes, of more border edges than this, are filled coarser towards their middle. */
  private static final int WIDE = 400;

  /** By so much at each splitting, and more the wider: vertices grow with the border's. */
  private static final double GRADE = 1.6;

  private static final double MORE = 0.25;

  private final Mesh mesh;
  private final Adjacency adjacency;
  private final int[] loop;
  private final HoleRing ring;
  private final Chords chords;
  private final double grade;
  private double[] p;
  private double[] size;
  private int vertices;
  private int[] tri;
  private int corners;

  /**
   * @param ring the places around the hole, in the direction of the patch
   * @param triangles over the ring's places
   * @param least by how much triangles grow at each splitting, at least
   */
  PatchFairing(
      Mesh mesh,
      Adjacency adjacency,
      int[] loop,
      HoleRing ring,
      int[] triangles,
      Chords chords,
      double least) {
    this.mesh = mesh;
    this.adjacency = adjacency;
    this.loop = loop;
    this.ring = ring;
    this.chords = chords;
    this.tri = triangles.clone();
    this.corners = triangles.length;
    this.vertices = ring.size();
    double wide = Math.log((double) vertices / WIDE) / Math.log(2);
    grade = Math.max(least, vertices > WIDE ? GRADE + MORE * wide : 1);
    p = new double[3 * vertices];
    size = new double[vertices];
    for (int i = 0; i < vertices; i++) {
      for (int k = 0; k < 3; k++) {
        p[3 * i + k] = mesh.xyz()[3 * ring.vertices()[i] + k];
      }
    }
    for (int i = 0; i < vertices; i++) {
      int a = ring.next()[i];
      int b = ring.previous()[i];
      size[i] = (distance(i, a) + distance(i, b)) / 2;
    }
    // Single long or short edges on a ragged border must not set the density: average along it.
    for (int pass = 0; pass < 3; pass++) {
      double[] old = size.clone();
      for (int i = 0; i < vertices; i++) {
        size[i] = (old[ring.next()[i]] + old[i] + old[ring.previous()[i]]) / 3;
      }
    }
  }

  HoleFill run(Work work) {
    swapEdges(work);
    while (splitLarge() && vertices < MOST) {
      swapEdges(work);
      swapEdges(work);
    }
    work.advance(0.4);
    int inner = vertices - ring.size();
    boolean settled = inner == 0 || fair(work);
    float[] xyz = new float[3 * inner];
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) p[3 * ring.size() + i];
    }
    int[] out = new int[corners];
    for (int i = 0; i < corners; i++) {
      out[i] =
          tri[i] < ring.size()
              ? ring.vertices()[tri[i]]
              : mesh.vertexCount() + tri[i] - ring.size();
    }
    return new HoleFill(xyz, out, settled);
  }

  private double distance(int a, int b) {
    double x = p[3 * a] - p[3 * b];
    double y = p[3 * a + 1] - p[3 * b + 1];
    double z = p[3 * a + 2] - p[3 * b + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }

  private boolean splitLarge() {
    boolean any = false;
    int end = corners;
    for (int t = 0; t < end; t += 3) {
      int a = tri[t];
      int b = tri[t + 1];
      int c = tri[t + 2];
      double s = (size[a] + size[b] + size[c]) / 3;
      grow();
      int m = vertices;
      for (int k = 0; k < 3; k++) {
        p[3 * m + k] = (p[3 * a + k] + p[3 * b + k] + p[3 * c + k]) / 3;
      }
      if (tooNear(m, a, s) || tooNear(m, b, s) || tooNear(m, c, s)) {
        continue;
      }
      size[m] = grade * s;
      vertices++;
      tri[t + 2] = m;
      put(b, c, m);
      put(c, a, m);
      any = true;
    }
    return any;
  }

  private boolean tooNear(int m, int v, double s) {
    double d = ALPHA * distance(m, v);
    return !(d > s && d > size[v]);
  }

  private void grow() {
    if (3 * vertices + 3 > p.length) {
      p = Arrays.copyOf(p, 2 * p.length + 3);
    }
    if (vertices + 1 > size.length) {
      size = Arrays.copyOf(size, 2 * size.length + 1);
    }
  }

  private void put(int a, int b, int c) {
    if (corners + 3 > tri.length) {
      tri = Arrays.copyOf(tri, 2 * tri.length);
    }
    tri[corners++] = a;
    tri[corners++] = b;
    tri[corners++] = c;
  }

  /** One pass of swaps: an edge whose two opposite angles sum to more than 180 degrees. */
  private void swapEdges(Work work) {
    float[] none = new float[3 * vertices];
    int[] twin = Adjacency.of(new Mesh(none, Arrays.copyOf(tri, corners))).twin();
    java.util.HashSet<Long> edges = new java.util.HashSet<>(2 * corners);
    for (int h = 0; h < corners; h++) {
      edges.add(key(tri[h], tri[Adjacency.next(h)]));
    }
    boolean[] touched = new boolean[corners / 3];
    for (int h = 0; h < corners; h++) {
      if ((h & 0x3fff) == 0) {
        work.check();
      }
      int g = twin[h];
      if (g < h || touched[h / 3] || touched[g / 3]) {
        continue;
      }
      int a = tri[h];
      int b = tri[Adjacency.next(h)];
      int c = tri[Adjacency.previous(h)];
      int d = tri[Adjacency.previous(g)];
      if (angle(c, a, b) + angle(d, a, b) <= Math.PI + 1e-9
          || chords.has(c, d)
          || edges.contains(key(c, d))
          || edges.contains(key(d, c))) {
        continue;
      }
      if (!convex(a, b, c, d)) {
        continue;
      }
      int t = h / 3 * 3;
      int s = g / 3 * 3;
      tri[t] = c;
      tri[t + 1] = a;
      tri[t + 2] = d;
      tri[s] = d;
      tri[s + 1] = b;
      tri[s + 2] = c;
      touched[t / 3] = true;
      touched[s / 3] = true;
      edges.add(key(c, d));
      edges.add(key(d, c));
    }
  }

  /** Whether the swapped triangles would look the same way as those they replace. */
  private boolean convex(int a, int b, int c, int d) {
    double[] n = Vec.add(normal(a, b, c), normal(b, a, d));
    return Vec.dot(normal(c, a, d), n) > 0 && Vec.dot(normal(d, b, c), n) > 0;
  }

  private double[] at(int v) {
    return Vec.of(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
  }

  private double[] normal(int a, int b, int c) {
    return Vec.cross(Vec.sub(at(b), at(a)), Vec.sub(at(c), at(a)));
  }

  private double angle(int apex, int a, int b) {
    double[] u = Vec.sub(at(a), at(apex));
    double[] v = Vec.sub(at(b), at(apex));
    return Math.atan2(Vec.length(Vec.cross(u, v)), Vec.dot(u, v));
  }

  private static long key(int a, int b) {
    return (long) a << 32 | b;
  }

  /**
   * Fairs the inner vertices; false where they did not come to rest. Beside the patch, the umbrella
   * of a border vertex reaches to the mesh's vertices around it, which stand fixed behind the
   * patch's own in the numbering.
   */
  private boolean fair(Work work) {
    int border = ring.size();
    int inner = vertices - border;
    Umbrella umbrella =
        new Umbrella(mesh, adjacency, loop, ring.vertices(), p, vertices, tri, corners);
    double[] fixed = umbrella.positions();
    SparseSystem membrane = umbrella.membrane(border, inner);
    double[][] x = new double[3][inner];
    for (int k = 0; k < 3; k++) {
      for (int i = 0; i < inner; i++) {
        x[k][i] = p[3 * (border + i) + k];
      }
      // Only where the plate begins from: it need not be exact.
      membrane.solve(umbrella.membraneRight(k, fixed, border, inner), x[k], 1e-6, 2000, work);
    }
    work.advance(0.2);
    SparseSystem plate = umbrella.plate(border, inner);
    boolean settled = true;
    for (int k = 0; k < 3; k++) {
      double[] right = umbrella.plateRight(k, fixed, border, inner);
      boolean rests = plate.solve(right, x[k], 1e-6, 6000, work).converged();
      // The plate's condition grows with the fourth power of the hole's width in edges.
      settled &= rests || plate.solve(right, x[k], 1e-6, 60_000, work).converged();
      for (int i = 0; i < inner; i++) {
        p[3 * (border + i) + k] = x[k][i];
      }
    }
    work.advance(0.3);
    return settled;
  }
}
