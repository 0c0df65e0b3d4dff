package holotome.core.spatial;

import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * A light stand-in for a large mesh, for searches that ask only for its form: vertices in one cell
 * of an even grid become their mean, triangles with two corners in one cell vanish (vertex
 * clustering: Rossignac and Borrel, "Multi-resolution 3D approximations for rendering complex
 * scenes", 1993). No colour, and not fit to be kept: sheets that meet in a cell are joined.
 *
 * <p>O(T) and 12 bytes per vertex of the mesh beside what comes out.
 */
public final class ClusteredMesh {
  private static final int GRAIN = 1 << 16;
  private static final int BITS = 20;

  private ClusteredMesh() {}

  /**
   * The stand-in; the mesh itself where it has no more triangles than asked for.
   *
   * @param triangles about how many are wanted
   */
  public static Mesh of(Mesh mesh, int triangles, Work work) {
    if (mesh.triangleCount() <= triangles) {
      work.advance(1);
      return mesh;
    }
    Box b = mesh.bounds();
    double side = Math.max(b.width(), Math.max(b.depth(), b.height()));
    // A surface as large as the sides of its box has about two triangles a cell.
    double across = Math.max(2, Math.sqrt(triangles / 12.0));
    double k = Math.min(across, 1 << BITS) / Math.max(side, 1e-30);
    int n = mesh.vertexCount();
    long[] cell = new long[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.3, CoreWords.of("work.looking-from-afar")),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            cell[v] =
                part(mesh.xyz()[3 * v] - b.minX(), k) << 2 * BITS
                    | part(mesh.xyz()[3 * v + 1] - b.minY(), k) << BITS
                    | part(mesh.xyz()[3 * v + 2] - b.minZ(), k);
          }
        });
    int[] cluster = new int[n];
    float[] means =
        means(mesh, cell, cluster, work.part(0.4, CoreWords.of("work.looking-from-afar")));
    return new Mesh(
        means, triangles(mesh, cluster, work.part(0.3, CoreWords.of("work.looking-from-afar"))));
  }

  private static long part(double along, double k) {
    return Math.clamp((long) (along * k), 0, (1L << BITS) - 1);
  }

  /** Numbers the cells in the order their first vertices come in; means of their vertices. */
  private static float[] means(Mesh mesh, long[] cell, int[] cluster, Work work) {
    int mask = (1 << 16) - 1;
    long[] keys = new long[mask + 1];
    int[] numbers = new int[mask + 1];
    Arrays.fill(numbers, -1);
    double[] sum = new double[4 << 12];
    int count = 0;
    for (int v = 0; v < cell.length; v++) {
      int at = slot(keys, numbers, cell[v], mask);
      if (numbers[at] < 0) {
        keys[at] = cell[v];
        numbers[at] = count++;
        if (4 * count > sum.length) {
          sum = Arrays.copyOf(sum, 2 * sum.length);
        }
      }
      int c = numbers[at];
      cluster[v] = c;
      for (int i = 0; i < 3; i++) {
        sum[4 * c + i] += mesh.xyz()[3 * v + i];
      }
      sum[4 * c + 3]++;
      if (2 * count > mask) {
        mask = 2 * mask + 1;
        long[] was = keys;
        int[] numbered = numbers;
        keys = new long[mask + 1];
        numbers = new int[mask + 1];
        Arrays.fill(numbers, -1);
        for (int i = 0; i < was.length; i++) {
          if (numbered[i] >= 0) {
            int to = slot(keys, numbers, was[i], mask);
            keys[to] = was[i];
            numbers[to] = numbered[i];
          }
        }
      }
      if ((v & 0xfffff) == 0) {
        work.check();
      }
    }
    work.advance(1);
    float[] out = new float[3 * count];
    for (int c = 0; c < count; c++) {
      for (int i = 0; i < 3; i++) {
        out[3 * c + i] = (float) (sum[4 * c + i] / sum[4 * c + 3]);
      }
    }
    return out;
  }

  private static int slot(long[] keys, int[] numbers, long key, int mask) {
    long h = key * 0x9e3779b97f4a7c15L;
    int at = (int) (h >>> 32) & mask;
    while (numbers[at] >= 0 && keys[at] != key) {
      at = at + 1 & mask;
    }
    return at;
  }

  /** The triangles whose corners lie in three cells. */
  private static int[] triangles(Mesh mesh, int[] cluster, Work work) {
    int[] tri = mesh.triangles();
    int[] out = new int[3 << 12];
    int n = 0;
    for (int t = 0; t < tri.length; t += 3) {
      int a = cluster[tri[t]];
      int b = cluster[tri[t + 1]];
      int c = cluster[tri[t + 2]];
      if (a != b && b != c && c != a) {
        if (n + 3 > out.length) {
          out = Arrays.copyOf(out, 2 * out.length);
        }
        out[n] = a;
        out[n + 1] = b;
        out[n + 2] = c;
        n += 3;
      }
      if ((t & 0xfffff) < 3) {
        work.check();
      }
    }
    work.advance(1);
    return Arrays.copyOf(out, n);
  }
}
