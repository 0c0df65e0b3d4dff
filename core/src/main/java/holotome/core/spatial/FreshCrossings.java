package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections.Found;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import java.util.BitSet;
import java.util.function.IntFunction;

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

  /**
   * @param first per vertex the first one on the same spot; null to find out where it is asked
   * @param some the fresh triangles
   * @param stride of the others only every so many-th is looked at
   */
  FreshCrossings(Mesh mesh, int[] first, BitSet some, int stride, Work work) {
    p = mesh.xyz();
    near = NearTriangles.of(mesh, some, stride, work);
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
    tri = first == null ? welded(corners) : SelfIntersections.Search.welded(corners, first);
    fresh = list;
  }

  /** Of corners on one spot the first in the list stands for all. */
  private int[] welded(int[] corners) {
    float[] spots = new float[3 * corners.length];
    for (int c = 0; c < corners.length; c++) {
      System.arraycopy(p, 3 * corners[c], spots, 3 * c, 3);
    }
    int[] lead = PointWeld.representatives(spots, Work.unwatched());
    int[] out = new int[corners.length];
    for (int c = 0; c < out.length; c++) {
      out[c] = corners[lead[c]];
    }
    return out;
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
    Found[] found = new Found[chunks()];
    againstOthers(
        c -> {
          Found f = new Found();
          found[c] = f;
          return (t, u) -> {
            f.add(t, u);
            return true;
          };
        },
        work.part(0.7, work.label()));
    for (Found f : found) {
      all.addAll(f, near);
    }
  }

  /** Told of each pair: a triangle and a fresh one, by their places in the list. */
  interface Meeting {
    /** Whether more pairs of the first triangle are asked for. */
    boolean met(int t, int fresh);
  }

  int chunks() {
    return Parallel.chunks(near.length, GRAIN);
  }

  /** The number in the mesh of a triangle by its place in the list. */
  int number(int place) {
    return near[place];
  }

  /**
   * Holds what is near the fresh triangles against them, on all cores.
   *
   * @param told who is told, for each chunk of the list
   */
  void againstOthers(IntFunction<Meeting> told, Work work) {
    int[] corners = new int[3 * fresh.length];
    for (int i = 0; i < fresh.length; i++) {
      System.arraycopy(tri, 3 * fresh[i], corners, 3 * i, 3);
    }
    BoxTree tree = BoxTree.of(p, corners, work.part(0.1, work.label()));
    Parallel.chunked(
        near.length,
        GRAIN,
        work.part(0.9, work.label()),
        (c, from, to) -> {
          Against against = new Against(tree, told.apply(c));
          for (int i = from; i < to; i++) {
            if (!isFresh.get(i)) {
              against.look(i);
            }
          }
        });
  }

  /** Holds single triangles against the fresh ones. */
  private final class Against {
    private final BoxTree tree;
    private final Meeting told;
    private final TriangleOverlap overlap = new TriangleOverlap(p, tri);
    private final int[] stack;
    private final int[][] leaves = new int[1][64];
    private final float[] box = new float[6];
    private final float[] other = new float[6];

    Against(BoxTree tree, Meeting told) {
      this.tree = tree;
      this.told = told;
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
          if (overlap.meet(0, i, u) && !told.met(i, u)) {
            return;
          }
        }
      }
    }
  }
}
