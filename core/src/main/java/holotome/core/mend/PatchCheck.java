package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.CrossingParts;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/** Which patches cut through the surface, each other or themselves. */
final class PatchCheck {
  private PatchCheck() {}

  /**
   * Those of some patches that cross something; costs what looking for what is near them does.
   *
   * @param filled a mesh with the patches behind its own triangles, in their order
   * @param first the triangle that the first patch begins with
   */
  static BitSet crossing(Mesh filled, int first, List<HoleFill> fills, Work work) {
    int[] of = new int[filled.triangleCount() - first];
    int at = 0;
    for (int i = 0; i < fills.size(); i++) {
      for (int k = 0; k < fills.get(i).triangles().length / 3; k++) {
        of[at++] = i;
      }
    }
    int[] spots =
        PointWeld.representatives(
            filled.xyz(), work.part(0.3, CoreWords.of("work.comparing-points")));
    Work rest = work.part(0.7, CoreWords.of("common.looking-for-self-intersections"));
    return CrossingParts.of(filled, spots, first, of, rest);
  }
}
