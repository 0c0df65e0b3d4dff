package holotome.core.bake;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.concurrent.atomic.AtomicLongArray;

/**
 * Which vertices of a mesh lie on a rim. Around a vertex inside of the surface each neighbour
 * follows one triangle and precedes another, so that a sum over the triangles, of a number made of
 * the one that follows less one of the one that precedes, is 0; where it is not, there is a rim. By
 * chance it is 0 at one rim vertex in 2^64. O(T), 8 bytes a vertex, no neighbours needed.
 */
final class RimVertices {
  private static final int GRAIN = 1 << 16;
  private final AtomicLongArray sums;

  RimVertices(Mesh mesh) {
    sums = new AtomicLongArray(mesh.vertexCount());
    int[] tri = mesh.triangles();
    Parallel.range(
        mesh.triangleCount(),
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            long a = mixed(tri[3 * t]);
            long b = mixed(tri[3 * t + 1]);
            long c = mixed(tri[3 * t + 2]);
            sums.addAndGet(tri[3 * t], b - c);
            sums.addAndGet(tri[3 * t + 1], c - a);
            sums.addAndGet(tri[3 * t + 2], a - b);
          }
        });
  }

  boolean has(int vertex) {
    return sums.get(vertex) != 0;
  }

  /** Steele, Lea and Flood, "Fast splittable pseudorandom number generators", 2014. */
  private static long mixed(int vertex) {
    long z = (vertex + 1) * 0x9e3779b97f4a7c15L;
    z = (z ^ z >>> 30) * 0xbf58476d1ce4e5b9L;
    z = (z ^ z >>> 27) * 0x94d049bb133111ebL;
    return z ^ z >>> 31;
  }
}
