package holotome.core.select;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** Steps over a mesh from triangles to those that share a vertex with them. O(V + T) a step. */
public final class Rings {
  private static final int GRAIN = 1 << 16;

  private Rings() {}

  /** The vertices of triangles, one byte each. */
  static byte[] vertices(Mesh mesh, BitSet triangles, boolean in, Work work) {
    int[] tri = mesh.triangles();
    byte[] marked = new byte[mesh.vertexCount()];
    // Several threads may write the same 1 to the same byte.
    Parallel.range(
        mesh.triangleCount(),
        GRAIN,
        work,
        (from, to) -> {
          for (int t = from; t < to; t++) {
            if (triangles.get(t) == in) {
              marked[tri[3 * t]] = 1;
              marked[tri[3 * t + 1]] = 1;
              marked[tri[3 * t + 2]] = 1;
            }
          }
        });
    return marked;
  }

  /** The triangles with at least one marked vertex. */
  static BitSet touching(Mesh mesh, byte[] marked, Work work) {
    int[] tri = mesh.triangles();
    return TriangleTest.select(
        mesh,
        work,
        (t, x, y, z) ->
            (marked[tri[3 * t]] | marked[tri[3 * t + 1]] | marked[tri[3 * t + 2]]) != 0);
  }

  public static BitSet grown(Mesh mesh, BitSet from, int times, Work work) {
    BitSet set = from;
    for (int i = 0; i < times; i++) {
      byte[] marked =
          vertices(mesh, set, true, work.part(0.5 / times, CoreWords.of("work.selecting")));
      set = touching(mesh, marked, work.part(0.5 / times, CoreWords.of("work.selecting")));
    }
    return set;
  }
}
