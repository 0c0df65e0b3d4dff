package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/** Which patches cut through the surface, each other or themselves. */
final class PatchCheck {
  private static final SelfIntersections NONE = new SelfIntersections(0, new int[0]);

  private PatchCheck() {}

  /**
   * How many pairs of triangles cross that each of some patches is in; costs what looking for what
   * is near them does.
   *
   * @param filled a mesh with the patches behind its own triangles, in their order
   * @param first the triangle that the first patch begins with
   */
  static int[] crossings(Mesh filled, int first, List<HoleFill> fills, Work work) {
    BitSet fresh = new BitSet();
    fresh.set(first, filled.triangleCount());
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
    int[] pairs =
        SelfIntersections.after(
                NONE,
                t -> -1,
                fresh,
                filled,
                spots,
                work.part(0.7, CoreWords.of("common.looking-for-self-intersections")))
            .pairs();
    int[] out = new int[fills.size()];
    // Two patches that cross: where one of them cuts through the surface it is that one's doing.
    for (int pass = 0; pass < 2; pass++) {
      int[] before = out.clone();
      for (int i = 0; i < pairs.length; i += 2) {
        int a = pairs[i] < first ? -1 : of[pairs[i] - first];
        int b = pairs[i + 1] < first ? -1 : of[pairs[i + 1] - first];
        boolean own = a < 0 || b < 0 || a == b;
        if (pass == 0 && own) {
          out[Math.max(a, b)]++;
        } else if (pass == 1 && !own && before[a] == 0 && before[b] == 0) {
          out[a]++;
          out[b]++;
        }
      }
    }
    return out;
  }
}
