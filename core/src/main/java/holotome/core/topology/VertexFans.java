package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.BitSet;

/**
 * The triangles around each vertex, as one array of triangle numbers with a start per vertex:
 * {@code triangles[start[v]] .. triangles[start[v + 1] - 1]}, in rising order. A vertex where
 * several fans meet has those of all of them.
 *
 * <p>O(V + T) time in one thread, 4 (V + 3T) bytes.
 */
public record VertexFans(int[] start, int[] triangles) {
  private static final int OFTEN = (1 << 20) - 1;

  public static VertexFans of(Mesh mesh, Work work) {
    return of(mesh.vertexCount(), mesh.triangles(), work);
  }

  public static VertexFans of(int vertices, int[] corners, Work work) {
    int[] start = new int[vertices + 1];
    for (int h = 0; h < corners.length; h++) {
      if ((h & OFTEN) == 0) {
        work.check();
      }
      start[corners[h]]++;
    }
    work.advance(0.3);
    int sum = 0;
    for (int v = 0; v < vertices; v++) {
      int n = start[v];
      start[v] = sum;
      sum += n;
    }
    start[vertices] = sum;
    int[] of = new int[corners.length];
    for (int h = 0; h < corners.length; h++) {
      if ((h & OFTEN) == 0) {
        work.check();
      }
      of[start[corners[h]]++] = h / 3;
    }
    // Filling moved each start to the next one's place.
    System.arraycopy(start, 0, start, 1, vertices);
    start[0] = 0;
    work.advance(0.7);
    return new VertexFans(start, of);
  }

  /**
   * Adds up the places of a vertex's neighbours, each as often as a triangle has it: twice where
   * both sides of its edge are there.
   *
   * @param xyz 3 floats a vertex
   * @param sum filled in, 3 numbers
   * @return how many were added up
   */
  public int around(int vertex, int[] corners, float[] xyz, double[] sum) {
    double x = 0;
    double y = 0;
    double z = 0;
    for (int i = start[vertex]; i < start[vertex + 1]; i++) {
      int t = 3 * triangles[i];
      for (int k = 0; k < 3; k++) {
        int u = corners[t + k];
        if (u != vertex) {
          x += xyz[3 * u];
          y += xyz[3 * u + 1];
          z += xyz[3 * u + 2];
        }
      }
    }
    sum[0] = x;
    sum[1] = y;
    sum[2] = z;
    return 2 * count(vertex);
  }

  /** Some vertices and those up to so many edges from them. */
  public BitSet near(int[] vertices, int edges, int[] corners) {
    BitSet in = new BitSet(start.length - 1);
    int[] rim = vertices;
    for (int v : vertices) {
      in.set(v);
    }
    for (int row = 0; row < edges; row++) {
      int[] next = new int[16];
      int n = 0;
      for (int v : rim) {
        for (int i = start[v]; i < start[v + 1]; i++) {
          for (int c = 3 * triangles[i]; c < 3 * triangles[i] + 3; c++) {
            if (!in.get(corners[c])) {
              in.set(corners[c]);
              next = n == next.length ? Arrays.copyOf(next, 2 * n) : next;
              next[n++] = corners[c];
            }
          }
        }
      }
      rim = Arrays.copyOf(next, n);
    }
    return in;
  }

  /** How many triangles a vertex has. */
  public int count(int vertex) {
    return start[vertex + 1] - start[vertex];
  }
}
