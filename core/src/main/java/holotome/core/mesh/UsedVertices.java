package holotome.core.mesh;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * Which vertices a triangle uses: most meshes use all of theirs, and sizes are those of the
 * surface. One parallel pass over the triangles, a byte per vertex while it runs.
 *
 * @param unused null for none
 */
record UsedVertices(BitSet unused) {
  private static final int GRAIN = 1 << 18;

  static UsedVertices of(Mesh mesh) {
    byte[] marks = new byte[mesh.vertexCount()];
    int[] tri = mesh.triangles();
    Parallel.range(
        mesh.triangleCount(),
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          // All write the same value: whoever comes first, it is the same in the end.
          for (int i = 3 * from; i < 3 * to; i++) {
            marks[tri[i]] = 1;
          }
        });
    BitSet out = null;
    for (int v = 0; v < marks.length; v++) {
      if (marks[v] == 0) {
        out = out == null ? new BitSet() : out;
        out.set(v);
      }
    }
    return new UsedVertices(out);
  }
}
