package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * Which parts at the end of a mesh, such as patches that were added to it, cut through the rest of
 * it, each other or themselves. Only whether, not how often: what is seen to cut through from a
 * sample of the rest is not looked at further, however much of it there is.
 */
public final class CrossingParts {
  /** Every so many-th triangle of the rest is asked, time after time. */
  private static final int[] STRIDES = {1024, 32, 1};

  private static final int MANY = 2_000_000;

  private final Mesh mesh;
  private final int[] first;
  private final int from;
  private final int[] part;
  private final BitSet crossing = new BitSet();

  private CrossingParts(Mesh mesh, int[] first, int from, int[] part) {
    this.mesh = mesh;
    this.first = first;
    this.from = from;
    this.part = part;
  }

  /**
   * @param first per vertex the first one on the same spot
   * @param from the first triangle that belongs to a part
   * @param part which one each triangle from there on belongs to
   * @return the parts that cross something. Of two that only cross each other both; a part is not
   *     held to cross another that cuts through the rest or itself
   */
  public static BitSet of(Mesh mesh, int[] first, int from, int[] part, Work work) {
    return new CrossingParts(mesh, first, from, part).run(work);
  }

  private BitSet run(Work work) {
    int[] pairs = amongParts(work.part(0.2, work.label()));
    for (int i = 0; i < pairs.length; i += 2) {
      if (part[pairs[i]] == part[pairs[i + 1]]) {
        crossing.set(part[pairs[i]]);
      }
    }
    for (int stride : STRIDES) {
      // Of what is small all can be asked at once.
      if (stride == 1 || from > MANY) {
        againstRest(stride, work.part(0.8 / STRIDES.length, work.label()));
      }
    }
    BitSet both = new BitSet();
    for (int i = 0; i < pairs.length; i += 2) {
      int a = part[pairs[i]];
      int b = part[pairs[i + 1]];
      if (!crossing.get(a) && !crossing.get(b)) {
        both.set(a);
        both.set(b);
      }
    }
    crossing.or(both);
    return crossing;
  }

  /** Pairs that cross among the parts, by their triangles counted from the first of them. */
  private int[] amongParts(Work work) {
    int[] corners = new int[3 * part.length];
    System.arraycopy(mesh.triangles(), 3 * from, corners, 0, corners.length);
    return SelfIntersections.of(new Mesh(mesh.xyz(), corners), first, work).pairs();
  }

  private void againstRest(int stride, Work work) {
    BitSet open = new BitSet();
    for (int i = 0; i < part.length; i++) {
      open.set(from + i, !crossing.get(part[i]));
    }
    if (open.isEmpty()) {
      return;
    }
    FreshCrossings near =
        new FreshCrossings(mesh, first, open, stride, work.part(0.3, work.label()));
    BitSet[] met = new BitSet[near.chunks()];
    near.againstOthers(
        c -> {
          BitSet own = new BitSet();
          met[c] = own;
          return (t, fresh) -> {
            if (near.number(t) >= from) {
              return false;
            }
            own.set(part[near.number(fresh) - from]);
            return true;
          };
        },
        work.part(0.7, work.label()));
    for (BitSet m : met) {
      crossing.or(m);
    }
  }
}
