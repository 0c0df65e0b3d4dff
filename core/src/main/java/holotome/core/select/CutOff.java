package holotome.core.select;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * What a removal would cut off inside an outline: hidden walls of joints and undersides that were
 * not seen, and hang on to nothing but what is removed. The far side of a whole thing is not meant:
 * a piece of more than a tenth of what is removed stays. O(T) once over the triangles, then in
 * proportion to those within the outline.
 */
public final class CutOff {
  /** A piece of more than this part of what is removed is no leftover, but a side of its own. */
  private static final int LARGEST = 10;

  private CutOff() {}

  /**
   * The triangles that would be left as pieces of their own.
   *
   * @param removed what is to be removed
   * @param within only pieces wholly within these are meant
   */
  public static BitSet of(Mesh mesh, BitSet removed, BitSet within, Work work) {
    int[] tri = mesh.triangles();
    BitSet inside = (BitSet) within.clone();
    inside.andNot(removed);
    BitSet out = new BitSet(mesh.triangleCount());
    if (inside.isEmpty()) {
      work.advance(1);
      return out;
    }
    BitSet corners = vertices(tri, inside, mesh.vertexCount());
    BitSet gone = vertices(tri, removed, mesh.vertexCount());
    work.advance(0.2);
    // What lies around shows whether a piece goes on outside.
    BitSet part = (BitSet) inside.clone();
    for (int t = 0; t < mesh.triangleCount(); t++) {
      boolean beside =
          corners.get(tri[3 * t]) || corners.get(tri[3 * t + 1]) || corners.get(tri[3 * t + 2]);
      if (beside && !removed.get(t)) {
        part.set(t);
      }
      if ((t & 0xfffff) == 0) {
        work.check();
      }
    }
    work.advance(0.2);
    Mesh around =
        Submesh.of(mesh, part, work.part(0.3, CoreWords.of("work.finding-what-is-cut-off")));
    Islands islands =
        Islands.of(around, work.part(0.3, CoreWords.of("work.finding-what-is-cut-off")));
    boolean[] goesOn = new boolean[islands.count()];
    boolean[] hangs = new boolean[islands.count()];
    int[] size = new int[islands.count()];
    int most = removed.cardinality() / LARGEST;
    int i = 0;
    for (int t = part.nextSetBit(0); t >= 0; t = part.nextSetBit(t + 1)) {
      int island = islands.ofTriangle()[i++];
      goesOn[island] |= !inside.get(t);
      size[island]++;
      int shared = 0;
      for (int k = 0; k < 3; k++) {
        shared += gone.get(tri[3 * t + k]) ? 1 : 0;
      }
      hangs[island] |= shared >= 2;
    }
    i = 0;
    for (int t = part.nextSetBit(0); t >= 0; t = part.nextSetBit(t + 1)) {
      int island = islands.ofTriangle()[i++];
      if (!goesOn[island] && hangs[island] && size[island] <= most) {
        out.set(t);
      }
    }
    return out;
  }

  private static BitSet vertices(int[] tri, BitSet triangles, int count) {
    BitSet out = new BitSet(count);
    for (int t = triangles.nextSetBit(0); t >= 0; t = triangles.nextSetBit(t + 1)) {
      out.set(tri[3 * t]);
      out.set(tri[3 * t + 1]);
      out.set(tri[3 * t + 2]);
    }
    return out;
  }
}
