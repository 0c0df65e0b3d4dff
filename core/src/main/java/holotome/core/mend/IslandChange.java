package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import java.util.Arrays;

/**
 * How the islands of a mesh went on over a small change that neither parted nor joined any: in the
 * region around it the same kept triangles hang together before and after, so that they do in the
 * whole. Islands may grow, shrink, go and come.
 *
 * @param islands of the mesh after
 * @param seen per island its first triangle
 * @param rank per island before its number after; -1 where it is gone
 * @param before per triangle of the region before its island, numbered as before
 * @param after per triangle of the region after its island, numbered as after
 */
record IslandChange(Islands islands, int[] seen, int[] rank, int[] before, int[] after) {
  private static final int GRAIN = 1 << 16;

  /**
   * Two passes over the triangles at most.
   *
   * @param old the islands before
   * @param first per island before its first triangle
   * @return null where islands may have come apart or together
   */
  static IslandChange of(Islands old, int[] first, Mesh mesh, ChangedRegion region) {
    ChangedRegion.Side was = region.before();
    ChangedRegion.Side now = region.after();
    int[] wasPiece = Islands.of(was.mesh()).ofTriangle();
    Islands pieces = Islands.of(now.mesh());
    int[] piece = pieces.ofTriangle();
    int[] pieceWas = new int[pieces.count()];
    int[] pieceBecame = new int[was.mesh().triangleCount()];
    Arrays.fill(pieceWas, -1);
    Arrays.fill(pieceBecame, -1);
    int[] of = new int[pieces.count()];
    Arrays.fill(of, -1);
    for (int i = 0; i < now.kept().length; i++) {
      int a = wasPiece[was.kept()[i]];
      int b = piece[now.kept()[i]];
      if (pieceWas[b] >= 0 && pieceWas[b] != a || pieceBecame[a] >= 0 && pieceBecame[a] != b) {
        return null;
      }
      pieceWas[b] = a;
      pieceBecame[a] = b;
      of[b] = old.ofTriangle()[was.triangles()[was.kept()[i]]];
    }
    int count = old.count();
    for (int p = 0; p < of.length; p++) {
      of[p] = of[p] < 0 ? count++ : of[p];
    }
    int[] before = Arrays.stream(was.triangles()).map(t -> old.ofTriangle()[t]).toArray();
    int[] after = Arrays.stream(piece).map(p -> of[p]).toArray();
    int[] sizes = Arrays.copyOf(old.sizes(), count);
    Arrays.stream(before).forEach(i -> sizes[i]--);
    Arrays.stream(after).forEach(i -> sizes[i]++);
    int[] begin = begins(old, first, sizes, now, after, region);
    int[] rank = ranks(sizes, begin);
    int[] all = new int[mesh.triangleCount()];
    Parallel.range(
        all.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            int o = region.from(t);
            all[t] = o < 0 ? -1 : rank[old.ofTriangle()[o]];
          }
        });
    for (int i = 0; i < after.length; i++) {
      after[i] = rank[after[i]];
      all[now.triangles()[i]] = after[i];
    }
    int left = (int) Arrays.stream(rank).filter(r -> r >= 0).count();
    int[] ranked = new int[left];
    int[] seen = new int[left];
    for (int i = 0; i < count; i++) {
      if (rank[i] >= 0) {
        ranked[rank[i]] = sizes[i];
        seen[rank[i]] = begin[i];
      }
    }
    return new IslandChange(
        new Islands(left, all, ranked), seen, Arrays.copyOf(rank, old.count()), before, after);
  }

  /** The first triangle of each island now. */
  private static int[] begins(
      Islands old,
      int[] first,
      int[] sizes,
      ChangedRegion.Side now,
      int[] after,
      ChangedRegion region) {
    int[] begin = new int[sizes.length];
    Arrays.fill(begin, Integer.MAX_VALUE);
    for (int i = 0; i < first.length; i++) {
      int t = first[i];
      // What went may have been the first: the next one that stayed.
      while (sizes[i] > 0
          && t < old.ofTriangle().length
          && (old.ofTriangle()[t] != i || region.to(t) < 0)) {
        t++;
      }
      begin[i] = sizes[i] > 0 && t < old.ofTriangle().length ? region.to(t) : begin[i];
    }
    for (int i = 0; i < after.length; i++) {
      begin[after[i]] = Math.min(begin[after[i]], now.triangles()[i]);
    }
    return begin;
  }

  /** Numbers from the largest down, equal ones by their first triangle; -1 for none left. */
  private static int[] ranks(int[] sizes, int[] begin) {
    Integer[] order = new Integer[sizes.length];
    Arrays.setAll(order, i -> i);
    Arrays.sort(
        order,
        (a, b) ->
            sizes[a] != sizes[b]
                ? Integer.compare(sizes[b], sizes[a])
                : Integer.compare(begin[a], begin[b]));
    int[] rank = new int[sizes.length];
    for (int r = 0; r < order.length; r++) {
      rank[order[r]] = sizes[order[r]] > 0 ? r : -1;
    }
    return rank;
  }
}
