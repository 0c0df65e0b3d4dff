package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.List;

/**
 * Builds a {@link Bvh}. Triangles are dealt out to the cells of a grid; the upper part of the tree
 * is made of the cells, down to parts of some thousand triangles, and each of these by itself, side
 * by side and within the processor's caches (after Ganestam, Barringer, Doggett and Akenine-Möller,
 * "Bonsai: rapid bounding volume hierarchy generation using mini trees", 2015). The result does not
 * depend on the number of threads.
 */
final class BvhBuilder {
  private static final int GRAIN = 1 << 15;
  private static final int BOX = BvhSplitter.BOX;
  private static final int HIGH = BvhSplitter.HIGH;

  /** Parts of at most so many triangles are made by one thread each. */
  private static final int PART = 2048;

  /** Parts made one after the other in the same scratch. */
  private static final int TOGETHER = 4;

  private final Mesh mesh;
  private final int n;

  BvhBuilder(Mesh mesh) {
    this.mesh = mesh;
    n = mesh.triangleCount();
  }

  Bvh build(Work work) {
    String label = CoreWords.of("work.indexing-the-surface");
    if (n == 0) {
      return new Bvh(new BvhNodes(0), new float[Bvh.WIDE], new int[0], new float[6]);
    }
    BvhCells cells = BvhCells.of(mesh, PART, work.part(0.2, label));
    Top top = top(cells, work.part(0.2, label));
    int[] ids = new int[n];
    BvhNodes[] made = made(top, cells, ids, work.part(0.4, label));
    BvhNodes all = top.nodes;
    if (all.count == 0 && made[0] == null) {
      all.put(all.add(), top.around, 1);
      Arrays.fill(all.children, 0, Bvh.WIDE, Bvh.NONE);
      all.children[0] = Bvh.leaf(0, n);
    }
    all = together(top, made);
    float[] rootBox = new float[6];
    for (int k = 0; k < 3; k++) {
      rootBox[k] = top.around[k];
      rootBox[3 + k] = -top.around[HIGH + k];
    }
    return new Bvh(all, corners(all, ids, work.part(0.2, label)), ids, rootBox);
  }

  /** The box of a triangle, as {@link BvhSplitter} has them, written at a place. */
  private void box(int t, float[] out, int at) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    for (int k = 0; k < 3; k++) {
      float x = p[a + k];
      float y = p[b + k];
      float z = p[c + k];
      float low = x < y ? x : y;
      float high = x > y ? x : y;
      out[at + k] = low < z ? low : z;
      out[at + HIGH + k] = -(high > z ? high : z);
    }
  }

  /**
   * The upper part of the tree.
   *
   * @param ids cells in its order
   * @param parts first and last cell in that order of each part below it, and where it hangs
   * @param start where the triangles of each part begin, and the end
   * @param around the box around everything
   */
  private record Top(BvhNodes nodes, int[] ids, List<int[]> parts, int[] start, float[] around) {}

  private Top top(BvhCells cells, Work work) {
    int count = cells.count();
    int[] ids = new int[count];
    int[] weights = new int[count];
    float[] around = new float[BOX * count];
    BvhSplitter.clear(around);
    Parallel.range(
        count,
        16,
        work,
        (from, to) -> {
          float[] one = new float[BOX];
          for (int c = from; c < to; c++) {
            ids[c] = c;
            weights[c] = cells.starts()[c + 1] - cells.starts()[c];
            for (int i = cells.starts()[c]; i < cells.starts()[c + 1]; i++) {
              box(cells.order()[i], one, 0);
              for (int k = 0; k < BOX; k++) {
                float f = one[k];
                around[BOX * c + k] = f < around[BOX * c + k] ? f : around[BOX * c + k];
              }
            }
          }
        });
    float[] all = new float[2 * BOX];
    BvhSplitter.clear(all);
    for (int c = 0; c < count; c++) {
      for (int k = 0; k < BOX; k++) {
        all[k] = Math.min(all[k], around[BOX * c + k]);
      }
    }
    BvhNodes nodes = new BvhNodes(64);
    BvhTree tree = new BvhTree(nodes, BvhSplitter.of(ids, around, weights), PART);
    List<int[]> parts = tree.left;
    if (count > 1) {
      tree.make(0, count, 0);
    } else {
      parts.add(new int[] {0, 1, -1});
    }
    int[] start = new int[parts.size() + 1];
    for (int i = 0; i < parts.size(); i++) {
      start[i + 1] = start[i];
      for (int c = parts.get(i)[0]; c < parts.get(i)[1]; c++) {
        start[i + 1] += weights[ids[c]];
      }
    }
    return new Top(nodes, ids, parts, start, all);
  }

  /** The subtree of each part; null for one that is a leaf. Fills in the triangles' order. */
  private BvhNodes[] made(Top top, BvhCells cells, int[] ids, Work work) {
    BvhNodes[] made = new BvhNodes[top.parts.size()];
    Parallel.range(
        made.length,
        TOGETHER,
        work,
        (from, to) -> {
          int most = 0;
          for (int i = from; i < to; i++) {
            most = Math.max(most, top.start[i + 1] - top.start[i]);
          }
          int[] own = new int[most];
          float[] around = new float[BOX * most];
          for (int i = from; i < to; i++) {
            int count = 0;
            for (int c = top.parts.get(i)[0]; c < top.parts.get(i)[1]; c++) {
              int first = cells.starts()[top.ids[c]];
              int size = cells.starts()[top.ids[c] + 1] - first;
              System.arraycopy(cells.order(), first, own, count, size);
              count += size;
            }
            for (int k = 0; k < count; k++) {
              box(own[k], around, BOX * k);
            }
            if (count > Bvh.WIDE) {
              made[i] = new BvhNodes(count / 12 + 8);
              BvhSplitter splitter = BvhSplitter.of(own, around, null);
              new BvhTree(made[i], splitter, Bvh.WIDE).make(0, count, top.start[i]);
            }
            System.arraycopy(own, 0, ids, top.start[i], count);
          }
        });
    return made;
  }

  private static BvhNodes together(Top top, BvhNodes[] made) {
    int total = top.nodes.count;
    for (BvhNodes m : made) {
      total += m == null ? 0 : m.count;
    }
    BvhNodes out = new BvhNodes(total);
    copy(top.nodes, out);
    for (int i = 0; i < made.length; i++) {
      int slot = top.parts.get(i)[2];
      if (slot >= 0) {
        int count = top.start[i + 1] - top.start[i];
        out.children[slot] = made[i] == null ? Bvh.leaf(top.start[i], count) : out.count;
      }
      if (made[i] != null) {
        copy(made[i], out);
        made[i] = null;
      }
    }
    return out;
  }

  private static void copy(BvhNodes from, BvhNodes to) {
    int base = to.count;
    System.arraycopy(from.frames, 0, to.frames, 6 * base, 6 * from.count);
    System.arraycopy(from.planes, 0, to.planes, 48 * base, 48 * from.count);
    for (int i = 0; i < Bvh.WIDE * from.count; i++) {
      int ref = from.children[i];
      to.children[Bvh.WIDE * base + i] = ref >= 0 ? ref + base : ref;
    }
    to.count += from.count;
  }

  private float[] corners(BvhNodes nodes, int[] ids, Work work) {
    float[] out = new float[9 * n + Bvh.WIDE];
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    Parallel.range(
        nodes.count,
        1 << 10,
        work,
        (from, to) -> {
          for (int slot = Bvh.WIDE * from; slot < Bvh.WIDE * to; slot++) {
            int ref = nodes.children[slot];
            if (ref >= 0 || ref == Bvh.NONE) {
              continue;
            }
            int first = Bvh.firstOf(ref);
            int count = Bvh.countOf(ref);
            for (int i = 0; i < count; i++) {
              for (int c = 0; c < 3; c++) {
                int v = 3 * tri[3 * ids[first + i] + c];
                int at = 9 * first + 3 * c * count + i;
                out[at] = p[v];
                out[at + count] = p[v + 1];
                out[at + 2 * count] = p[v + 2];
              }
            }
          }
        });
    return out;
  }
}
