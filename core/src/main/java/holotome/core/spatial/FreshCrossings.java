package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections.Found;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * The pairs of triangles that cross of which at least one is among some: these are held against
 * each other, and every triangle near them against a tree of their boxes, so that nothing is spent
 * on pairs of the others.
 */
final class FreshCrossings {
  private static final int GRAIN = 1 << 11;

  private final float[] p;

  /** The triangles that are looked at, by their numbers in the mesh. */
  private final int[] near;

  /** Their corners, points on one spot as one. */
  private final int[] tri;

  /** Those of them that are fresh, by their places in the list. */
  private final int[] fresh;

  private final BitSet isFresh = new BitSet();

  FreshCrossings(Mesh mesh, int[] first, BitSet some, Work work) {
    p = mesh.xyz();
    near = NearTriangles.of(mesh, some, work);
    int[] corners = new int[3 * near.length];
    int[] list = new int[some.cardinality()];
    int n = 0;
    for (int i = 0; i < near.length; i++) {
      System.arraycopy(mesh.triangles(), 3 * near[i], corners, 3 * i, 3);
      if (some.get(near[i])) {
        isFresh.set(i);
        list[n++] = i;
      }
    }
    tri = SelfIntersections.Search.welded(corners, first);
    fresh = list;
  }

  /** Adds what is found, in the mesh's numbers. */
  void into(Found all, Work work) {
    if (fresh.length == 0) {
      return;
    }
    int[] corners = new int[3 * fresh.length];
    int[] numbers = new int[fresh.length];
    for (int i = 0; i < fresh.length; i++) {
      System.arraycopy(tri, 3 * fresh[i], corners, 3 * i, 3);
      numbers[i] = near[fresh[i]];
    }
    SelfIntersections.Search own = new SelfIntersections.Search(p, corners);
    for (Found f : own.found(work.part(0.3, work.label()))) {
      all.addAll(f, numbers);
    }
    BoxTree tree = BoxTree.of(p, corners, work.part(0.1, work.label()));
    Found[] found = new Found[Parallel.chunks(near.length, GRAIN)];
    Parallel.chunked(
        near.length,
        GRAIN,
        work.part(0.6, work.label()),
        (c, from, to) -> {
          found[c] = new Found();
          Against against = new Against(tree, found[c]);
          for (int i = from; i < to; i++) {
            if (!isFresh.get(i)) {
              against.look(i);
            }
          }
        });
    for (Found f : found) {
      all.addAll(f, near);
    }
  }

  /** Holds single triangles against the fresh ones. */
  private final class Against {
    private final BoxTree tree;
    private final Found found;
    private final TriangleOverlap overlap = new TriangleOverlap(p, tri);
    private final int[] stack;
    private final int[][] leaves = new int[1][64];
    private final float[] box = new float[6];
    private final float[] other = new float[6];

    Against(BoxTree tree, Found found) {
      this.tree = tree;
      this.found = found;
      stack = new int[tree.stackSize()];
    }

    void look(int i) {
      BoxTree.empty(box, 0);
      BoxTree.include(p, tri, i, box, 0);
      int count = tree.overlapping(box, 0, 0, stack, leaves);
      boolean taken = false;
      for (int l = 0; l < count; l++) {
        int begin = leaves[0][l] * BoxTree.LEAF;
        int end = Math.min(fresh.length, begin + BoxTree.LEAF);
        for (int j = begin; j < end; j++) {
          tree.box(leaves[0][l], j, other);
          if (!BoxTree.overlap(box, 0, other, 0)) {
            continue;
          }
          if (!taken) {
            overlap.take(0, i);
            taken = true;
          }
          int u = fresh[tree.order[j]];
          if (overlap.meet(0, i, u)) {
            found.add(i, u);
          }
        }
      }
    }
  }
}
