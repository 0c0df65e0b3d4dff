package holotome.core.mesh;

import holotome.core.geometry.Vec;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/** Area, volume and normals, in double precision, summed in a fixed order. */
public final class Measures {
  private static final int GRAIN = 1 << 16;

  private Measures() {}

  /** Twice the area vector of a triangle: the cross product of two sides. */
  public static double[] cross(Mesh mesh, int triangle) {
    double[] out = new double[3];
    cross(mesh.xyz(), mesh.triangles(), triangle, out);
    return out;
  }

  /** The same of bare arrays, 3 floats a vertex and 3 vertices a triangle, into three numbers. */
  public static void cross(float[] p, int[] tri, int triangle, double[] out) {
    int a = 3 * tri[3 * triangle];
    int b = 3 * tri[3 * triangle + 1];
    int c = 3 * tri[3 * triangle + 2];
    double ux = (double) p[b] - p[a];
    double uy = (double) p[b + 1] - p[a + 1];
    double uz = (double) p[b + 2] - p[a + 2];
    double vx = (double) p[c] - p[a];
    double vy = (double) p[c + 1] - p[a + 1];
    double vz = (double) p[c + 2] - p[a + 2];
    out[0] = uy * vz - uz * vy;
    out[1] = uz * vx - ux * vz;
    out[2] = ux * vy - uy * vx;
  }

  /** Per triangle, whether it has a corner twice or exactly no area. */
  public static boolean[] withoutArea(Mesh mesh) {
    int[] tri = mesh.triangles();
    boolean[] out = new boolean[mesh.triangleCount()];
    Parallel.range(
        out.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          double[] n = new double[3];
          for (int t = from; t < to; t++) {
            cross(mesh.xyz(), tri, t, n);
            boolean isTwice =
                tri[3 * t] == tri[3 * t + 1]
                    || tri[3 * t + 1] == tri[3 * t + 2]
                    || tri[3 * t + 2] == tri[3 * t];
            out[t] = isTwice || Vec.length(n) == 0;
          }
        });
    return out;
  }

  /** The area of all triangles. */
  public static double area(Mesh mesh) {
    return sum(mesh, t -> Vec.length(cross(mesh, t)) / 2);
  }

  /** The area of some triangles. */
  public static double area(Mesh mesh, BitSet triangles) {
    return sum(mesh, t -> triangles.get(t) ? Vec.length(cross(mesh, t)) / 2 : 0);
  }

  /**
   * The signed volume by the divergence theorem, taken about the centre of the bounds; a true
   * volume only where the mesh is closed and consistently oriented.
   */
  public static double volume(Mesh mesh) {
    double[] o = mesh.bounds().centre();
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    return sum(
        mesh,
        t -> {
          int a = 3 * tri[3 * t];
          double[] n = cross(mesh, t);
          return (n[0] * (p[a] - o[0]) + n[1] * (p[a + 1] - o[1]) + n[2] * (p[a + 2] - o[2])) / 6;
        });
  }

  private static double sum(Mesh mesh, java.util.function.IntToDoubleFunction f) {
    int n = mesh.triangleCount();
    double[] parts = new double[Parallel.chunks(n, GRAIN)];
    Parallel.chunked(
        n,
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          double s = 0;
          for (int t = from; t < to; t++) {
            s += f.applyAsDouble(t);
          }
          parts[c] = s;
        });
    double s = 0;
    for (double x : parts) {
      s += x;
    }
    return s;
  }

  /**
   * Unit normals per vertex, 3 floats each, weighted by the triangles' areas; null vectors where no
   * triangle gives a direction.
   */
  public static float[] vertexNormals(Mesh mesh) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    float[] n = new float[p.length];
    // Each stretch of vertices takes its share of all triangles, in their order: the sums are the
    // same for any number of stretches.
    int stretch = Math.max(1, (p.length / 3 + Parallel.threads() - 1) / Parallel.threads());
    Parallel.range(
        p.length / 3, stretch, Work.unwatched(), (from, to) -> addNormals(p, tri, n, from, to));
    Parallel.range(
        n.length / 3,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int i = 3 * from; i < 3 * to; i += 3) {
            double l =
                Math.sqrt(
                    (double) n[i] * n[i]
                        + (double) n[i + 1] * n[i + 1]
                        + (double) n[i + 2] * n[i + 2]);
            if (l > 0) {
              n[i] = (float) (n[i] / l);
              n[i + 1] = (float) (n[i + 1] / l);
              n[i + 2] = (float) (n[i + 2] / l);
            }
          }
        });
    return n;
  }

  private static void addNormals(float[] p, int[] tri, float[] n, int from, int to) {
    for (int i = 0; i < tri.length; i += 3) {
      int va = tri[i];
      int vb = tri[i + 1];
      int vc = tri[i + 2];
      boolean hasA = va >= from && va < to;
      boolean hasB = vb >= from && vb < to;
      boolean hasC = vc >= from && vc < to;
      if (!(hasA || hasB || hasC)) {
        continue;
      }
      int a = 3 * va;
      int b = 3 * vb;
      int c = 3 * vc;
      float ux = p[b] - p[a];
      float uy = p[b + 1] - p[a + 1];
      float uz = p[b + 2] - p[a + 2];
      float vx = p[c] - p[a];
      float vy = p[c + 1] - p[a + 1];
      float vz = p[c + 2] - p[a + 2];
      float x = uy * vz - uz * vy;
      float y = uz * vx - ux * vz;
      float z = ux * vy - uy * vx;
      if (hasA) {
        add(n, a, x, y, z);
      }
      if (hasB) {
        add(n, b, x, y, z);
      }
      if (hasC) {
        add(n, c, x, y, z);
      }
    }
  }

  private static void add(float[] n, int at, float x, float y, float z) {
    n[at] += x;
    n[at + 1] += y;
    n[at + 2] += z;
  }
}
