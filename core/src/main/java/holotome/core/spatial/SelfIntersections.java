package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;
import java.util.function.IntUnaryOperator;

/**
 * The pairs of triangles that meet where they should not: in more than the corners and edges they
 * share, told exactly ({@link TriangleOverlap}); points on the same spot count as one, so that a
 * torn mesh does not meet itself along its tears. Of triangles without area nothing is said.
 *
 * <p>Pairs whose boxes overlap come from a tree of boxes over the triangles in the order of a
 * space-filling curve. O(n log n) as a rule; 20 bytes a triangle and 8 while it is sorted, 12 more
 * where points are doubled.
 *
 * @param count how many pairs there are
 * @param pairs their triangles, the lower number of each pair first, 2 a pair; the first {@link
 *     #MOST} pairs only
 */
public record SelfIntersections(long count, int[] pairs) {
  /** Pairs that are kept. */
  public static final int MOST = 1 << 24;

  /** Triangles whose boxes can be numbered, 6 bytes each. */
  private static final int MANY = Integer.MAX_VALUE / 6 - 8;

  private static final int GRAIN = 1 << 6;

  /** How many pairs there are. */
  public static long count(Mesh mesh, Work work) {
    return of(mesh, work).count();
  }

  public static SelfIntersections of(Mesh mesh, Work work) {
    int[] first =
        PointWeld.representatives(
            mesh.xyz(), work.part(0.1, CoreWords.of("work.comparing-points")));
    return of(mesh, first, work.part(0.9, CoreWords.of("common.looking-for-self-intersections")));
  }

  /**
   * @param first per vertex the first one on the same spot
   */
  public static SelfIntersections of(Mesh mesh, int[] first, Work work) {
    if (mesh.triangleCount() > MANY) {
      throw Failure.cannot(CoreWords.of("self-intersections.too-many", MANY));
    }
    return new Search(mesh.xyz(), Search.welded(mesh.triangles(), first)).run(work);
  }

  /**
   * As {@link #of(Mesh, Work)}, for a mesh that was made from one looked at before: only what is
   * new is held against the rest. Costs two passes over the triangles and what is near the new.
   *
   * @param before what was found on the mesh before, all of it
   * @param to the number now of a triangle of the mesh before; -1 where it is gone or changed
   * @param fresh the triangles that were not there before
   */
  public static SelfIntersections after(
      SelfIntersections before, IntUnaryOperator to, BitSet fresh, Mesh mesh, Work work) {
    if (mesh.triangleCount() > MANY) {
      throw Failure.cannot(CoreWords.of("self-intersections.too-many", MANY));
    }
    Found found = new Found();
    for (int i = 0; i < before.pairs.length; i += 2) {
      int t = to.applyAsInt(before.pairs[i]);
      int u = to.applyAsInt(before.pairs[i + 1]);
      if (t >= 0 && u >= 0) {
        found.add(t, u);
      }
    }
    new FreshCrossings(mesh, null, fresh, 1, work.part(0.3, work.label()))
        .into(found, work.part(0.7, work.label()));
    return new SelfIntersections(found.count, Arrays.copyOf(found.pairs, found.size));
  }

  /** Whether all pairs are kept. */
  public boolean isWhole() {
    return pairs.length == 2 * count;
  }

  /** The triangles that are in any of the pairs. */
  public BitSet triangles() {
    BitSet set = new BitSet();
    for (int t : pairs) {
      set.set(t);
    }
    return set;
  }

  /** Growing lists of pairs, one a chunk. */
  static final class Found {
    private int[] pairs = new int[16];
    private int size;
    private long count;

    void add(int t, int u) {
      count++;
      if (size == 2 * MOST) {
        return;
      }
      if (size == pairs.length) {
        pairs = Arrays.copyOf(pairs, 2 * size);
      }
      pairs[size++] = Math.min(t, u);
      pairs[size++] = Math.max(t, u);
    }

    /** Adds those of another list, whose triangles have other numbers here. */
    void addAll(Found other, int[] numbers) {
      for (int i = 0; i < other.size; i += 2) {
        add(numbers[other.pairs[i]], numbers[other.pairs[i + 1]]);
      }
      count += other.count - other.size / 2;
    }
  }

  static final class Search {
    private final float[] p;
    private final int[] tri;

    /**
     * @param corners 3 a triangle, points on the same spot as one
     */
    Search(float[] xyz, int[] corners) {
      p = xyz;
      tri = corners;
    }

    SelfIntersections run(Work work) {
      Found[] found = found(work);
      long count = 0;
      long size = 0;
      for (Found f : found) {
        count += f.count;
        size += f.size;
      }
      int[] pairs = new int[(int) Math.min(size, 2L * MOST)];
      int at = 0;
      for (Found f : found) {
        int take = Math.min(f.size, pairs.length - at);
        System.arraycopy(f.pairs, 0, pairs, at, take);
        at += take;
      }
      return new SelfIntersections(count, pairs);
    }

    /** What is found, part by part in order. */
    Found[] found(Work work) {
      if (tri.length == 0) {
        return new Found[0];
      }
      long[] plain = PlainFans.of(p, tri, work.part(0.1, CoreWords.of("work.finding-neighbours")));
      BoxTree tree = BoxTree.of(p, tri, work.part(0.3, CoreWords.of("work.indexing-the-surface")));
      int groups = Parallel.chunks(tree.leaves(), BoxTree.GROUP);
      Found[] found = new Found[Parallel.chunks(groups, GRAIN)];
      Parallel.chunked(
          groups,
          GRAIN,
          work.part(0.6, CoreWords.of("common.looking-for-self-intersections")),
          (c, from, to) -> {
            found[c] = new Found();
            Pairs pairs = new Pairs(tree, plain, found[c]);
            for (int group = from; group < to; group++) {
              pairs.ofGroup(group);
            }
          });
      return found;
    }

    /** Compares the triangles of a leaf with those of the leaves that overlap it. */
    private final class Pairs {
      private final BoxTree tree;
      private final Found found;
      private final TriangleOverlap overlap;
      private final int[] stack;
      private final int[][] leaves = new int[1][64];
      private final LeafGrid grid = new LeafGrid();
      private final float[] other = new float[6];
      private final int[] whole = new int[6];

      Pairs(BoxTree tree, long[] plain, Found found) {
        this.tree = tree;
        overlap = new TriangleOverlap(p, tri, plain);
        this.found = found;
        stack = new int[tree.stackSize()];
      }

      void ofGroup(int group) {
        int count = tree.overlappingGroup(group, stack, leaves);
        int first = BoxTree.GROUP * group;
        for (int leaf = first; leaf < Math.min(tree.leaves(), first + BoxTree.GROUP); leaf++) {
          of(leaf, count);
        }
      }

      /**
       * @param count of leaves that may overlap its group
       */
      private void of(int leaf, int count) {
        int n = tree.order.length;
        int begin = leaf * BoxTree.LEAF;
        int end = Math.min(n, begin + BoxTree.LEAF);
        grid.take(tree, leaf);
        for (int i = begin; i < end; i++) {
          overlap.take(i - begin, tree.order[i]);
        }
        for (int l = 0; l < count; l++) {
          if (leaves[0][l] < leaf || !tree.leavesOverlap(leaf, leaves[0][l])) {
            continue;
          }
          int from = leaves[0][l] * BoxTree.LEAF;
          tree.inLeaf(leaves[0][l], tree.leafBoxes(), 6 * leaf, whole);
          for (int j = from; j < Math.min(n, from + BoxTree.LEAF); j++) {
            if (!tree.mayOverlap(j, whole)) {
              continue;
            }
            tree.box(leaves[0][l], j, other);
            int near = grid.overlapping(other);
            near &= j < end ? (1 << j - begin) - 1 : -1;
            for (; near != 0; near &= near - 1) {
              int slot = Integer.numberOfTrailingZeros(near);
              if (overlap.meet(slot, tree.order[begin + slot], tree.order[j])) {
                found.add(tree.order[begin + slot], tree.order[j]);
              }
            }
          }
        }
      }
    }

    static int[] welded(int[] tri, int[] first) {
      boolean isWelded = true;
      for (int v = 0; v < first.length && isWelded; v++) {
        isWelded = first[v] == v;
      }
      if (isWelded) {
        return tri;
      }
      int[] out = new int[tri.length];
      for (int c = 0; c < tri.length; c++) {
        out[c] = first[tri[c]];
      }
      return out;
    }
  }
}
