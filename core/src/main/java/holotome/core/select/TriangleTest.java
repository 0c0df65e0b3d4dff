package holotome.core.select;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/** Asks one thing of each triangle, given its centre in base coordinates. */
@FunctionalInterface
interface TriangleTest {
  boolean holds(int triangle, double x, double y, double z);

  /** The triangles of which it holds; one parallel pass, T / 8 bytes. */
  static BitSet select(Mesh mesh, Work work, TriangleTest test) {
    int n = mesh.triangleCount();
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    // Chunks of a multiple of 64 triangles own whole words of the set.
    long[] words = new long[(n + 63) / 64];
    Parallel.range(
        n,
        1 << 14,
        work,
        (from, to) -> {
          for (int t = from; t < to; t++) {
            int a = 3 * tri[3 * t];
            int b = 3 * tri[3 * t + 1];
            int c = 3 * tri[3 * t + 2];
            double x = ((double) p[a] + p[b] + p[c]) / 3;
            double y = ((double) p[a + 1] + p[b + 1] + p[c + 1]) / 3;
            double z = ((double) p[a + 2] + p[b + 2] + p[c + 2]) / 3;
            if (test.holds(t, x, y, z)) {
              words[t >>> 6] |= 1L << t;
            }
          }
        });
    return BitSet.valueOf(words);
  }
}
