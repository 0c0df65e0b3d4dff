package holotome.core.unwrap;

import holotome.core.array.DisjointSets;
import holotome.core.array.Grouping;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Charts with their borders straightened ({@link SeamStraightening}), each laid flat anew from
 * where it lay: what it got from a neighbour is unfolded beside it first. A chart that would not
 * lie flat any more keeps its triangles, and so do its neighbours towards it.
 */
final class Straightened {
  private final Ground ground;
  private final List<Piece> pieces;
  private final double most;
  private final int rounds;

  /** The chart of each triangle before and after, and its place in the one before. */
  private final int[] before;

  private final int[] after;
  private final int[] slot;

  /** Half-edges with the same chart on both sides that are seams nevertheless. */
  private final BitSet slits;

  private Straightened(Ground ground, List<Piece> pieces, double most, int rounds) {
    this.ground = ground;
    this.pieces = pieces;
    this.most = most;
    this.rounds = rounds;
    before = new int[ground.area().length];
    slot = new int[before.length];
    slits = new BitSet(3 * before.length);
    BitSet pinned = new BitSet(ground.mesh().vertexCount());
    for (int c = 0; c < pieces.size(); c++) {
      int[] t = pieces.get(c).triangles();
      for (int i = 0; i < t.length; i++) {
        before[t[i]] = c;
        slot[t[i]] = i;
      }
    }
    int[] tri = ground.mesh().triangles();
    for (int c = 0; c < pieces.size(); c++) {
      Piece p = pieces.get(c);
      for (int h : ChartOutline.of(p.corners())) {
        int g = 3 * p.triangles()[h / 3] + h % 3;
        if (ground.twin()[g] >= 0 && before[ground.twin()[g] / 3] == c) {
          slits.set(g);
          pinned.set(tri[g]);
          pinned.set(tri[Adjacency.next(g)]);
        }
      }
    }
    after = before.clone();
    new SeamStraightening(ground, after, pieces.size(), pinned).run(Work.unwatched());
  }

  /**
   * @param most stretch allowed
   * @param rounds of laying flat, {@link AsRigid}
   */
  static List<Piece> of(Ground ground, List<Piece> pieces, double most, int rounds, Work work) {
    return new Straightened(ground, pieces, most, rounds).run(work);
  }

  private List<Piece> run(Work work) {
    int n = pieces.size();
    Piece[] made = new Piece[n];
    boolean[] isKept = new boolean[n];
    boolean[] isDue = new boolean[n];
    Arrays.fill(isDue, true);
    double share = 1;
    while (true) {
      Grouping by = Grouping.of(after, n, Work.unwatched());
      Work part = work.part(share / 2, work.label());
      Parallel.range(
          n,
          1,
          part,
          (from, to) -> {
            for (int c = from; c < to; c++) {
              if (isDue[c]) {
                made[c] = laid(c, by);
              }
            }
          });
      share /= 2;
      boolean isAll = true;
      boolean[] isFailed = new boolean[n];
      for (int c = 0; c < n; c++) {
        if (made[c] == null) {
          isAll = false;
          isFailed[c] = true;
          isKept[c] = true;
        }
      }
      if (isAll) {
        return Arrays.asList(made);
      }
      Arrays.fill(isDue, false);
      for (int t = 0; t < after.length; t++) {
        if (after[t] != before[t] && (isFailed[after[t]] || isFailed[before[t]])) {
          isDue[after[t]] = true;
          isDue[before[t]] = true;
          after[t] = before[t];
        }
      }
      for (int c = 0; c < n; c++) {
        if (isKept[c]) {
          made[c] = pieces.get(c);
          isDue[c] = false;
        }
      }
    }
  }

  private Piece laid(int c, Grouping by) {
    int[] members = Arrays.copyOfRange(by.order(), by.start()[c], by.start()[c + 1]);
    Piece old = pieces.get(c);
    Piece p = Piece.unplaced(ground, members, corners(members, c));
    int[] corners = p.corners();
    double[] uv = p.uv();
    boolean[] isKnown = new boolean[p.vertices()];
    for (int i = 0; i < members.length; i++) {
      if (before[members[i]] != c) {
        continue;
      }
      for (int k = 0; k < 3; k++) {
        int v = corners[3 * i + k];
        int o = old.corners()[3 * slot[members[i]] + k];
        uv[2 * v] = old.uv()[2 * o];
        uv[2 * v + 1] = old.uv()[2 * o + 1];
        isKnown[v] = true;
      }
    }
    return Unfold.all(p, isKnown) ? Settling.settled(p, rounds, most) : null;
  }

  /** Corners joined over the edges within, but for slits. */
  private int[] corners(int[] members, int c) {
    DisjointSets sets = new DisjointSets(3 * members.length);
    int[] twin = ground.twin();
    for (int i = 0; i < members.length; i++) {
      for (int h = 3 * members[i]; h < 3 * members[i] + 3; h++) {
        int g = twin[h];
        if (g < 0 || after[g / 3] != c || slits.get(h)) {
          continue;
        }
        int j = 3 * Arrays.binarySearch(members, g / 3);
        int k = h % 3;
        sets.join(3 * i + k, j + Adjacency.next(g) % 3);
        sets.join(3 * i + (k + 1) % 3, j + g % 3);
      }
    }
    return sets.numbered();
  }
}
