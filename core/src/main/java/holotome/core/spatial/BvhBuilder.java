package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Builds a {@link Bvh}. The boxes of the triangles are moved along with their numbers, so that each
 * pass over a range reads memory in order; a split takes two passes (count into bins; part, and
 * bound the centres of both sides). The first splits are made side by side, those of a round
 * together, the subtrees below them each on its own; neither depends on the number of threads.
 */
final class BvhBuilder {
  private static final int GRAIN = 1 << 15;

  /** Subtrees of at most so large a part of the whole are made by one thread. */
  private static final int PARTS = 64;

  private static final int LEAST = 4096;

  private final Mesh mesh;
  private final int n;
  private final int[] ids;

  /** Min x, y, z, max x, y, z of each triangle, in the order of {@link #ids}. */
  private final float[] prims;

  private final Nodes top = new Nodes();
  private final List<Range> branches = new ArrayList<>();

  BvhBuilder(Mesh mesh) {
    this.mesh = mesh;
    n = mesh.triangleCount();
    ids = new int[n];
    prims = new float[6 * n];
  }

  /** A growing list of nodes in the layout of {@link Bvh}. */
  static final class Nodes {
    float[] boxes = new float[12 * 64];
    int[] children = new int[2 * 64];
    int count;

    int add() {
      if (2 * count == children.length) {
        boxes = Arrays.copyOf(boxes, 24 * count);
        children = Arrays.copyOf(children, 4 * count);
      }
      return count++;
    }
  }

  /**
   * A range of more than a leaf's triangles, still to be split.
   *
   * @param centres bounds of the sums of both ends of the triangles' boxes: min x, y, z, max
   * @param parent node of the top whose child on a side it becomes; -1 for the root
   */
  private record Range(int from, int to, float[] centres, int parent, int side) {
    int count() {
      return to - from;
    }
  }

  Bvh build(Work work) {
    float[] rootBox = new float[6];
    float[] centres = load(rootBox, work.part(0.1, CoreWords.of("work.indexing-the-surface")));
    int root = n == 0 ? Integer.MIN_VALUE : n <= Bvh.LEAF ? leaf(0, n) : 0;
    if (n > Bvh.LEAF) {
      first(new Range(0, n, centres, -1, 0), work);
    }
    Nodes[] parts = new Nodes[branches.size()];
    Parallel.range(
        parts.length,
        1,
        work.part(0.7, CoreWords.of("work.indexing-the-surface")),
        (from, to) -> {
          BvhSplitter s = new BvhSplitter(ids, prims);
          for (int i = from; i < to; i++) {
            Range b = branches.get(i);
            parts[i] = new Nodes();
            s.subtree(parts[i], b.from, b.to, b.centres);
          }
        });
    return together(parts, root, rootBox, work);
  }

  static int leaf(int from, int count) {
    return ~(from * 8 + count - 1);
  }

  /** Loads the boxes; returns the bounds of their centres and fills in those of everything. */
  private float[] load(float[] rootBox, Work work) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    float[][] found = new float[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        work,
        (chunk, from, to) -> {
          float[] b = BvhSplitter.empty(12);
          for (int t = from; t < to; t++) {
            ids[t] = t;
            for (int k = 0; k < 3; k++) {
              float x = p[3 * tri[3 * t] + k];
              float y = p[3 * tri[3 * t + 1] + k];
              float z = p[3 * tri[3 * t + 2] + k];
              float lo = Math.min(x, Math.min(y, z));
              float hi = Math.max(x, Math.max(y, z));
              prims[6 * t + k] = lo;
              prims[6 * t + 3 + k] = hi;
              b[k] = Math.min(b[k], lo);
              b[3 + k] = Math.max(b[3 + k], hi);
              b[6 + k] = Math.min(b[6 + k], lo + hi);
              b[9 + k] = Math.max(b[9 + k], lo + hi);
            }
          }
          found[chunk] = b;
        });
    float[] all = BvhSplitter.empty(12);
    for (float[] b : found) {
      for (int k = 0; k < 3; k++) {
        for (int o = 0; o < 12; o += 6) {
          all[o + k] = Math.min(all[o + k], b[o + k]);
          all[o + 3 + k] = Math.max(all[o + 3 + k], b[o + 3 + k]);
        }
      }
    }
    if (n > 0) {
      System.arraycopy(all, 0, rootBox, 0, 6);
    }
    return Arrays.copyOfRange(all, 6, 12);
  }

  /** Splits until what is left is small enough for one thread each. */
  private void first(Range root, Work work) {
    int size = Math.max(LEAST, n / PARTS);
    List<Range> now = List.of(root);
    if (n <= size) {
      // The only branch hangs under nothing: its own first node is the root.
      branches.add(root);
      return;
    }
    for (int round = 0; !now.isEmpty(); round++) {
      List<Range> ranges = now;
      int depth = round;
      int base = top.count;
      ranges.forEach(r -> top.add());
      int[] mid = new int[ranges.size()];
      float[][] centres = new float[2 * mid.length][6];
      Parallel.range(
          mid.length,
          1,
          work.part(0.02, CoreWords.of("work.indexing-the-surface")),
          (from, to) -> {
            BvhSplitter s = new BvhSplitter(ids, prims);
            for (int i = from; i < to; i++) {
              Range r = ranges.get(i);
              mid[i] = s.split(r.from, r.to, r.centres, 0, depth, top.boxes, 12 * (base + i));
              System.arraycopy(s.below, 12 * depth, centres[2 * i], 0, 6);
              System.arraycopy(s.below, 12 * depth + 6, centres[2 * i + 1], 0, 6);
            }
          });
      List<Range> next = new ArrayList<>();
      for (int i = 0; i < mid.length; i++) {
        Range r = ranges.get(i);
        hang(new Range(r.from, mid[i], centres[2 * i], base + i, 0), size, next);
        hang(new Range(mid[i], r.to, centres[2 * i + 1], base + i, 1), size, next);
        if (r.parent >= 0) {
          top.children[2 * r.parent + r.side] = base + i;
        }
      }
      now = next;
    }
  }

  private void hang(Range r, int size, List<Range> next) {
    if (r.count() <= Bvh.LEAF) {
      top.children[2 * r.parent + r.side] = leaf(r.from, r.count());
    } else if (r.count() <= size) {
      branches.add(r);
    } else {
      next.add(r);
    }
  }

  private Bvh together(Nodes[] parts, int root, float[] rootBox, Work work) {
    int total = top.count;
    for (Nodes part : parts) {
      total += part.count;
    }
    float[] boxes = new float[12 * total];
    int[] children = new int[2 * total];
    System.arraycopy(top.boxes, 0, boxes, 0, 12 * top.count);
    System.arraycopy(top.children, 0, children, 0, 2 * top.count);
    int at = top.count;
    for (int i = 0; i < parts.length; i++) {
      Nodes part = parts[i];
      System.arraycopy(part.boxes, 0, boxes, 12 * at, 12 * part.count);
      for (int c = 0; c < 2 * part.count; c++) {
        int ref = part.children[c];
        children[2 * at + c] = ref >= 0 ? ref + at : ref;
      }
      Range b = branches.get(i);
      if (b.parent >= 0) {
        children[2 * b.parent + b.side] = at;
      }
      at += part.count;
      parts[i] = null;
    }
    float[] corners = new float[9 * n];
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    Parallel.range(
        n,
        GRAIN,
        work.part(0.1, CoreWords.of("work.indexing-the-surface")),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            for (int c = 0; c < 3; c++) {
              int v = 3 * tri[3 * ids[i] + c];
              corners[9 * i + 3 * c] = p[v];
              corners[9 * i + 3 * c + 1] = p[v + 1];
              corners[9 * i + 3 * c + 2] = p[v + 2];
            }
          }
        });
    return new Bvh(boxes, children, corners, ids, root, rootBox);
  }
}
