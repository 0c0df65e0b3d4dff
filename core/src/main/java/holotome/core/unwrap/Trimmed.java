package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * A large piece that lies flat but for some of its triangles: those that lie on their back, where
 * it is stretched too much those that are squeezed, and at its rim those that lie over others, are
 * cut off, and become small pieces by themselves. O(T) a round.
 */
final class Trimmed {
  private static final int ROUNDS = 30;

  /**
   * Where the whole is stretched too much: what is cut off with the rest, {@link Piece#squeezed}.
   */
  private static final double SQUEEZED = 4;

  private Trimmed() {}

  /** The piece without what is wrong, first, and what was cut off. */
  static List<Piece> of(Piece p, PieceFlattening flattening, double most, Work work) {
    int n = p.triangles().length;
    BitSet off = new BitSet(n);
    for (int t = 0; t < n; t++) {
      if (!(p.flatArea(t) > Settling.UPRIGHT * p.restArea(t))) {
        off.set(t);
      }
    }
    if (!(p.stretch() <= most)) {
      for (int t = 0; t < n; t++) {
        if (p.squeezed(t) > SQUEEZED) {
          off.set(t);
        }
      }
    }
    for (int round = 0; round < ROUNDS; round++) {
      work.check();
      int[] kept = largest(parts(p, places(off, n, false), work));
      Piece main = p.subset(kept);
      work.check();
      int[] outline = ChartOutline.of(main.corners());
      work.check();
      int[] over = ChartOutline.over(main.corners(), main.uv(), outline);
      if (over == null || over.length == 0) {
        break;
      }
      for (int h : over) {
        off.set(kept[h / 3]);
      }
    }
    List<Piece> out = new ArrayList<>();
    for (int side = 0; side < 2; side++) {
      for (int[] places : parts(p, places(off, n, side == 1), work)) {
        Piece part = p.subset(places);
        Piece sound = part.isUpright(Settling.UPRIGHT) ? Settling.checked(part, most) : null;
        if (sound != null) {
          out.add(sound);
        } else {
          int[] members = part.triangles().clone();
          Arrays.sort(members);
          out.addAll(flattening.flat(members, work));
        }
      }
    }
    return out;
  }

  private static int[] largest(List<int[]> parts) {
    int[] best = new int[0];
    for (int[] p : parts) {
      best = p.length > best.length ? p : best;
    }
    return best;
  }

  private static int[] places(BitSet off, int n, boolean isOff) {
    int[] out = new int[isOff ? off.cardinality() : n - off.cardinality()];
    int count = 0;
    for (int t = 0; t < n; t++) {
      if (off.get(t) == isOff) {
        out[count++] = t;
      }
    }
    return out;
  }

  /** What hangs together over edges. */
  private static List<int[]> parts(Piece p, int[] places, Work work) {
    int[] k = new int[3 * places.length];
    for (int i = 0; i < places.length; i++) {
      System.arraycopy(p.corners(), 3 * places[i], k, 3 * i, 3);
    }
    int[] twin =
        Adjacency.of(new Mesh(new float[3 * p.vertices()], k), work.part(0, work.label())).twin();
    boolean[] isSeen = new boolean[places.length];
    int[] queue = new int[places.length];
    List<int[]> out = new ArrayList<>();
    int end = 0;
    for (int t = 0; t < places.length; t++) {
      if (isSeen[t]) {
        continue;
      }
      int begin = end;
      isSeen[t] = true;
      queue[end++] = t;
      for (int at = begin; at < end; at++) {
        for (int h = 3 * queue[at]; h < 3 * queue[at] + 3; h++) {
          int u = twin[h] < 0 ? t : twin[h] / 3;
          if (!isSeen[u]) {
            isSeen[u] = true;
            queue[end++] = u;
          }
        }
      }
      int[] part = new int[end - begin];
      for (int i = begin; i < end; i++) {
        part[i - begin] = places[queue[i]];
      }
      Arrays.sort(part);
      out.add(part);
    }
    return out;
  }
}
