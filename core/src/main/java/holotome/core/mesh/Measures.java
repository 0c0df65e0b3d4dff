package holotome.core.mesh;

import holotome.core.task.Parallel;
import holotome.core.task.Work;

/** Area, volume and normals, in double precision, summed in a fixed order. */
public final class Measures {
  private static final int GRAIN = 1 << 16;

  private Measures() {}

  /** Twice the area vector of a triangle: the cross product of two sides. */
  public static double[] cross(Mesh mesh, int triangle) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    int a = 3 * tri[3 * triangle];
    int b = 3 * tri[3 * triangle + 1];
    int c = 3 * tri[3 * triangle + 2];
    double ux = (double) p[b] - p[a];
    double uy = (double) p[b + 1] - p[a + 1];
    double uz = (double) p[b + 2] - p[a + 2];
    double vx = (double) p[c] - p[a];
    double vy = (double) p[c + 1] - p[a + 1];
    double vz = (double) p[c + 2] - p[a + 2];
    return new double[] {uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx};
  }

  /** The area of all triangles. */
  public static double area(Mesh mesh) {
    return sum(mesh, t -> Vec.length(cross(mesh, t)) / 2);
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
    for (int i = 0; i < tri.length; i += 3) {
      int a = 3 * tri[i];
      int b = 3 * tri[i + 1];
      int c = 3 * tri[i + 2];
      float ux = p[b] - p[a];
      float uy = p[b + 1] - p[a + 1];
      float uz = p[b + 2] - p[a + 2];
      float vx = p[c] - p[a];
      float vy = p[c + 1] - p[a + 1];
      float vz = p[c + 2] - p[a + 2];
      float x = uy * vz - uz * vy;
      float y = uz * vx - ux * vz;
      float z = ux * vy - uy * vx;
      n[a] += x;
      n[a + 1] += y;
      n[a + 2] += z;
      n[b] += x;
      n[b + 1] += y;
      n[b + 2] += z;
      n[c] += x;
      n[c + 1] += y;
      n[c + 2] += z;
    }
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
}
