package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/**
 * The pieces of a mesh that share no vertex with each other.
 *
 * @param count how many there are
 * @param ofTriangle island per triangle, numbered from the largest (most triangles) down; equal
 *     ones in the order of their first triangle
 * @param sizes triangles per island
 */
public record Islands(int count, int[] ofTriangle, int[] sizes) {

  /** Triangles between two looks for a cancel. */
  private static final int OFTEN = 1 << 18;

  /** Finds the islands by union-find with path halving; O(T) in practice, 4 (V + T) bytes. */
  public static Islands of(Mesh mesh) {
    return of(mesh, Work.unwatched());
  }

  public static Islands of(Mesh mesh, Work work) {
    int[] tri = mesh.triangles();
    int n = mesh.vertexCount();
    int[] parent = new int[n];
    for (int v = 0; v < n; v++) {
      parent[v] = v;
    }
    for (int i = 0; i < tri.length; i += 3) {
      int a = find(parent, tri[i]);
      a = union(parent, a, find(parent, tri[i + 1]));
      union(parent, a, find(parent, tri[i + 2]));
      if (i / 3 % OFTEN == 0) {
        work.check();
      }
    }
    work.advance(0.6);
    int t = mesh.triangleCount();
    int[] label = new int[n];
    int[] sizeByLabel = new int[16];
    int[] of = new int[t];
    int count = 0;
    for (int i = 0; i < t; i++) {
      int root = find(parent, tri[3 * i]);
      if (label[root] == 0) {
        label[root] = ++count;
        if (count >= sizeByLabel.length) {
          sizeByLabel = java.util.Arrays.copyOf(sizeByLabel, 2 * count);
        }
      }
      of[i] = label[root] - 1;
      sizeByLabel[of[i]]++;
      if (i % OFTEN == 0) {
        work.check();
      }
    }
    work.advance(0.3);
    long[] order = new long[count];
    for (int i = 0; i < count; i++) {
      order[i] = (long) (Integer.MAX_VALUE - sizeByLabel[i]) << 32 | i;
    }
    java.util.Arrays.sort(order);
    int[] rank = new int[count];
    int[] sizes = new int[count];
    for (int i = 0; i < count; i++) {
      rank[(int) order[i]] = i;
      sizes[i] = sizeByLabel[(int) order[i]];
    }
    for (int i = 0; i < t; i++) {
      of[i] = rank[of[i]];
    }
    work.advance(0.1);
    return new Islands(count, of, sizes);
  }

  private static int find(int[] parent, int v) {
    int at = v;
    while (parent[at] != at) {
      parent[at] = parent[parent[at]];
      at = parent[at];
    }
    return at;
  }

  private static int union(int[] parent, int a, int b) {
    if (a < b) {
      parent[b] = a;
      return a;
    }
    parent[a] = b;
    return b;
  }

  /** The box around each island, 6 doubles each: min x, y, z, max x, y, z. */
  public double[] boxes(Mesh mesh, Work work) {
    double[] box = new double[6 * count];
    for (int i = 0; i < count; i++) {
      for (int k = 0; k < 3; k++) {
        box[6 * i + k] = Double.POSITIVE_INFINITY;
        box[6 * i + 3 + k] = Double.NEGATIVE_INFINITY;
      }
    }
    int[] tri = mesh.triangles();
    float[] xyz = mesh.xyz();
    for (int c = 0; c < tri.length; c++) {
      if (c % OFTEN == 0) {
        work.check();
      }
      int o = 6 * ofTriangle[c / 3];
      for (int k = 0; k < 3; k++) {
        double p = xyz[3 * tri[c] + k];
        box[o + k] = Math.min(box[o + k], p);
        box[o + 3 + k] = Math.max(box[o + 3 + k], p);
      }
    }
    return box;
  }

  /** The diagonal of each island's box. */
  public double[] diameters(Mesh mesh, Work work) {
    double[] box = boxes(mesh, work);
    double[] d = new double[count];
    for (int i = 0; i < count; i++) {
      d[i] =
          Math.sqrt(
              sq(box[6 * i + 3] - box[6 * i])
                  + sq(box[6 * i + 4] - box[6 * i + 1])
                  + sq(box[6 * i + 5] - box[6 * i + 2]));
    }
    return d;
  }

  private static double sq(double x) {
    return x * x;
  }
}
