package holotome.core.cut;

import holotome.core.array.Ranks;
import holotome.core.attribute.Blends;
import holotome.core.attribute.Compaction;
import holotome.core.attribute.Provenance;
import holotome.core.attribute.Redrawn;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/**
 * A mesh put together from triangles of another and pieces of some of them, over its vertices and
 * new ones numbered on from them; what no triangle uses is left out.
 *
 * @param mesh the mesh
 * @param map its vertex per old or new vertex, -1 where it is left out; one element longer
 */
public record Assembly(Mesh mesh, int[] map) {

  /**
   * @param kept triangles that go on whole
   * @param pieces those that stand behind them, each within an old triangle
   * @param corners 3 vertices per triangle, old or new; numbered anew in place
   * @param added what the new vertices lie between
   * @param xyz positions of the new vertices
   */
  public static Assembly of(
      Mesh from, Ranks kept, Redrawn pieces, int[] corners, Blends added, float[] xyz, Work work) {
    int all = from.vertexCount() + xyz.length / 3;
    int[] map = Compaction.of(corners, all);
    Provenance p =
        Provenance.of(from.vertexCount(), from.triangleCount())
            .kept(kept)
            .redrawn(pieces)
            .added(added)
            .vertices(map, map[all])
            .build();
    return new Assembly(from.derive(p, xyz, corners, work), map);
  }
}
