package holotome.core.contour;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Where the triangles of a mesh cross the edges of a lattice, sorted by edge.
 *
 * @param edges the edge of each crossing
 * @param along how far along the edge it is, 0 to 1
 * @param triangle which triangle crosses there
 */
record EdgeHits(long[] edges, float[] along, int[] triangle) {
  private static final int GRAIN = 1 << 14;

  /** Bits for the number of a crossing while they are sorted. */
  private static final int NUMBER = 28;

  private static final class Some {
    private long[] edges = new long[64];
    private float[] along = new float[64];
    private int[] triangle = new int[64];
    private int size;

    void add(long edge, double at, int t) {
      if (size == edges.length) {
        edges = Arrays.copyOf(edges, 2 * size);
        along = Arrays.copyOf(along, 2 * size);
        triangle = Arrays.copyOf(triangle, 2 * size);
      }
      edges[size] = edge;
      along[size] = (float) at;
      triangle[size++] = t;
    }
  }

  static EdgeHits of(Mesh mesh, Lattice lattice, Work work) {
    int n = mesh.triangleCount();
    Some[] parts = new Some[Parallel.chunks(n, GRAIN)];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.6, CoreWords.of("work.making-the-surface")),
        (c, from, to) -> {
          Some s = new Some();
          for (int t = from; t < to; t++) {
            for (int axis = 0; axis < 3; axis++) {
              cross(mesh, lattice, t, axis, s);
            }
          }
          parts[c] = s;
        });
    long total = 0;
    for (Some s : parts) {
      total += s.size;
    }
    if (total >= 1L << NUMBER) {
      throw holotome.core.task.Failure.cannot(CoreWords.of("lattice.detail-is-too-fine"));
    }
    return sorted(parts, (int) total, work);
  }

  private static EdgeHits sorted(Some[] parts, int total, Work work) {
    long[] edges = new long[total];
    float[] along = new float[total];
    int[] triangle = new int[total];
    int at = 0;
    for (Some s : parts) {
      System.arraycopy(s.edges, 0, edges, at, s.size);
      System.arraycopy(s.along, 0, along, at, s.size);
      System.arraycopy(s.triangle, 0, triangle, at, s.size);
      at += s.size;
    }
    // Edges take 35 bits, numbers 28: one sort, in an order that nothing else decides.
    long[] keys = new long[total];
    for (int i = 0; i < total; i++) {
      keys[i] = edges[i] << NUMBER | i;
    }
    Arrays.parallelSort(keys);
    long[] e = new long[total];
    float[] a = new float[total];
    int[] t = new int[total];
    for (int i = 0; i < total; i++) {
      int from = (int) (keys[i] & (1 << NUMBER) - 1);
      e[i] = edges[from];
      a[i] = along[from];
      t[i] = triangle[from];
    }
    work.advance(0.4);
    return new EdgeHits(e, a, t);
  }

  /** The crossings of one triangle with the lattice's lines along one axis. */
  private static void cross(Mesh mesh, Lattice l, int t, int axis, Some out) {
    float[] p = mesh.xyz();
    int[] tri = mesh.triangles();
    int ua = (axis + 1) % 3;
    int va = (axis + 2) % 3;
    double u0 = at(p, tri[3 * t], ua, l);
    double v0 = at(p, tri[3 * t], va, l);
    double u1 = at(p, tri[3 * t + 1], ua, l);
    double v1 = at(p, tri[3 * t + 1], va, l);
    double u2 = at(p, tri[3 * t + 2], ua, l);
    double v2 = at(p, tri[3 * t + 2], va, l);
    double area = (u1 - u0) * (v2 - v0) - (u2 - u0) * (v1 - v0);
    if (area == 0) {
      return;
    }
    double w0 = at(p, tri[3 * t], axis, l);
    double w1 = at(p, tri[3 * t + 1], axis, l);
    double w2 = at(p, tri[3 * t + 2], axis, l);
    int fromU = (int) Math.ceil(Math.min(u0, Math.min(u1, u2)));
    int toU = (int) Math.floor(Math.max(u0, Math.max(u1, u2)));
    int fromV = (int) Math.ceil(Math.min(v0, Math.min(v1, v2)));
    int toV = (int) Math.floor(Math.max(v0, Math.max(v1, v2)));
    for (int v = fromV; v <= toV; v++) {
      for (int u = fromU; u <= toU; u++) {
        double a = ((u1 - u) * (v2 - v) - (u2 - u) * (v1 - v)) / area;
        double b = ((u2 - u) * (v0 - v) - (u0 - u) * (v2 - v)) / area;
        double c = 1 - a - b;
        // A hair's overlap: an edge between two triangles is never missed by both.
        if (a >= -1e-9 && b >= -1e-9 && c >= -1e-9) {
          double w = a * w0 + b * w1 + c * w2;
          int cell = (int) Math.floor(w);
          int[] ijk = new int[3];
          ijk[axis] = cell;
          ijk[ua] = u;
          ijk[va] = v;
          out.add(Lattice.edge(l.point(ijk[0], ijk[1], ijk[2]), axis), w - cell, t);
        }
      }
    }
  }

  /** A coordinate in steps of the lattice. */
  private static double at(float[] p, int vertex, int axis, Lattice l) {
    double origin = axis == 0 ? l.x() : axis == 1 ? l.y() : l.z();
    return (p[3 * vertex + axis] - origin) / l.step();
  }

  int size() {
    return edges.length;
  }

  /** The first crossing of an edge; minus the place it would have, less 1, if there is none. */
  int first(long edge) {
    int lo = 0;
    int hi = edges.length;
    while (lo < hi) {
      int mid = (lo + hi) >>> 1;
      if (edges[mid] < edge) {
        lo = mid + 1;
      } else {
        hi = mid;
      }
    }
    return lo < edges.length && edges[lo] == edge ? lo : -1 - lo;
  }
}
