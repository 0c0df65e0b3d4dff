package holotome.core.spatial;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * A tree of boxes over triangles in the order of a space-filling curve (Lauterbach and others,
 * "Fast BVH construction on GPUs", 2009), for finding pairs whose boxes overlap. Made many times
 * faster than a {@link Bvh}, whose rays it would follow more slowly.
 *
 * <p>Level 0 holds a box for every {@link #LEAF} triangles, each further one a box for two of the
 * level below. 20 bytes a triangle; 8 more while it is made.
 */
final class BoxTree {
  /** Triangles a leaf. */
  static final int LEAF = 8;

  private static final int GROUP_LEVEL = 3;

  /** Leaves that stand one after the other are looked up together, so many at a time. */
  static final int GROUP = 1 << GROUP_LEVEL;

  private static final int GRAIN = 1 << 14;

  /** The triangles in order. */
  final int[] order;

  /** Per level the boxes: min x, y, z, max x, y, z each. */
  private final float[][] boxes;

  /** Per triangle in order its box, in 255ths of its leaf's: rounded outwards. */
  private final byte[] fine;

  private BoxTree(int[] order, float[][] boxes, byte[] fine) {
    this.order = order;
    this.boxes = boxes;
    this.fine = fine;
  }

  int leaves() {
    return boxes[0].length / 6;
  }

  static BoxTree of(float[] p, int[] tri, Work work) {
    int n = tri.length / 3;
    float[] all = bounds(p, tri);
    double side = Math.max(all[3] - all[0], Math.max(all[4] - all[1], all[5] - all[2]));
    double k = side > 0 ? 1023.999 / side : 0;
    long[] keys = new long[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.2, CoreWords.of("work.ordering")),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            long key = 0;
            for (int a = 0; a < 3; a++) {
              double c =
                  ((double) p[3 * tri[3 * t] + a]
                          + p[3 * tri[3 * t + 1] + a]
                          + p[3 * tri[3 * t + 2] + a])
                      / 3;
              key |= (long) spread((int) ((c - all[a]) * k)) << a;
            }
            keys[t] = key << 32 | t;
          }
        });
    Arrays.parallelSort(keys);
    work.advance(0.5);
    int[] order = new int[n];
    Arrays.setAll(order, i -> (int) keys[i]);
    int leaves = Parallel.chunks(n, LEAF);
    int levels = 1;
    for (int c = leaves; c > 1; c = (c + 1) / 2) {
      levels++;
    }
    float[][] boxes = new float[levels][];
    float[] lowest = new float[6 * leaves];
    byte[] fine = new byte[6 * n];
    boxes[0] = lowest;
    Parallel.range(
        leaves,
        GRAIN,
        work.part(0.2, CoreWords.of("work.ordering")),
        (from, to) -> {
          for (int l = from; l < to; l++) {
            empty(lowest, 6 * l);
            for (int i = LEAF * l; i < Math.min(n, LEAF * (l + 1)); i++) {
              include(p, tri, order[i], lowest, 6 * l);
            }
            refine(p, tri, order, l, lowest, fine);
          }
        });
    for (int v = 1; v < levels; v++) {
      boxes[v] = above(boxes[v - 1]);
    }
    work.advance(0.1);
    return new BoxTree(order, boxes, fine);
  }

  /** Writes down the boxes of a leaf's triangles. */
  private static void refine(
      float[] p, int[] tri, int[] order, int leaf, float[] boxes, byte[] fine) {
    float[] box = new float[6];
    for (int i = LEAF * leaf; i < Math.min(order.length, LEAF * (leaf + 1)); i++) {
      empty(box, 0);
      include(p, tri, order[i], box, 0);
      for (int k = 0; k < 3; k++) {
        float low = boxes[6 * leaf + k];
        float unit = (boxes[6 * leaf + 3 + k] - low) / 255;
        int from = unit > 0 ? Math.clamp((long) Math.floor((box[k] - low) / unit), 0, 254) : 0;
        while (from > 0 && low + from * unit > box[k]) {
          from--;
        }
        int to = unit > 0 ? Math.clamp((long) Math.ceil((box[3 + k] - low) / unit), 1, 255) : 255;
        while (to < 255 && low + to * unit < box[3 + k]) {
          to++;
        }
        fine[6 * i + k] = (byte) from;
        fine[6 * i + 3 + k] = (byte) to;
      }
    }
  }

  /** A box in the 255ths of a leaf, rounded outwards, as {@link #mayOverlap} takes it. */
  void inLeaf(int leaf, float[] box, int at, int[] out) {
    float[] b = boxes[0];
    for (int k = 0; k < 3; k++) {
      float low = b[6 * leaf + k];
      float unit = (b[6 * leaf + 3 + k] - low) / 255;
      // One more each way covers all roundings.
      out[k] = unit > 0 ? (int) ((box[at + k] - low) / unit) - 2 : 0;
      out[3 + k] = unit > 0 ? (int) ((box[at + 3 + k] - low) / unit) + 2 : 255;
    }
  }

  /** Whether the box of the i-th triangle may overlap another, given in its leaf's 255ths. */
  boolean mayOverlap(int i, int[] box) {
    int o = 6 * i;
    int x = Math.max((fine[o] & 255) - box[3], box[0] - (fine[o + 3] & 255));
    int y = Math.max((fine[o + 1] & 255) - box[4], box[1] - (fine[o + 4] & 255));
    int z = Math.max((fine[o + 2] & 255) - box[5], box[2] - (fine[o + 5] & 255));
    return Math.max(x, Math.max(y, z)) <= 0;
  }

  /** A box around the i-th triangle in order, of the given leaf; at most a 255th too wide. */
  void box(int leaf, int i, float[] out) {
    float[] b = boxes[0];
    for (int k = 0; k < 3; k++) {
      float low = b[6 * leaf + k];
      float high = b[6 * leaf + 3 + k];
      float unit = (high - low) / 255;
      int to = fine[6 * i + 3 + k] & 255;
      out[k] = low + (fine[6 * i + k] & 255) * unit;
      out[3 + k] = to == 255 ? high : low + to * unit;
    }
  }

  /** A bound of the box of the i-th triangle in order, in 255ths of its leaf's. */
  int fine(int i, int bound) {
    return fine[6 * i + bound] & 255;
  }

  private static float[] above(float[] below) {
    int n = below.length / 6;
    float[] out = new float[6 * ((n + 1) / 2)];
    for (int i = 0; i < out.length / 6; i++) {
      int a = 12 * i;
      int b = 2 * i + 1 < n ? a + 6 : a;
      for (int k = 0; k < 3; k++) {
        out[6 * i + k] = Math.min(below[a + k], below[b + k]);
        out[6 * i + 3 + k] = Math.max(below[a + 3 + k], below[b + 3 + k]);
      }
    }
    return out;
  }

  private static float[] bounds(float[] p, int[] tri) {
    int n = tri.length / 3;
    float[] parts = new float[6 * Parallel.chunks(n, GRAIN)];
    Parallel.chunked(
        n,
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          empty(parts, 6 * c);
          for (int t = from; t < to; t++) {
            include(p, tri, t, parts, 6 * c);
          }
        });
    float[] box = new float[6];
    empty(box, 0);
    for (int i = 0; i < parts.length; i++) {
      int k = i % 6;
      box[k] = k < 3 ? Math.min(box[k], parts[i]) : Math.max(box[k], parts[i]);
    }
    return box;
  }

  /** A box that holds nothing. */
  static void empty(float[] box, int at) {
    Arrays.fill(box, at, at + 3, Float.POSITIVE_INFINITY);
    Arrays.fill(box, at + 3, at + 6, Float.NEGATIVE_INFINITY);
  }

  /** Widens a box by a triangle. */
  static void include(float[] p, int[] tri, int t, float[] box, int at) {
    for (int c = 3 * t; c < 3 * t + 3; c++) {
      for (int k = 0; k < 3; k++) {
        float x = p[3 * tri[c] + k];
        box[at + k] = Math.min(box[at + k], x);
        box[at + 3 + k] = Math.max(box[at + 3 + k], x);
      }
    }
  }

  static boolean overlap(float[] a, int i, float[] b, int j) {
    // The largest distance that parts them along any axis; without branches, which would be guessed
    // wrong as often as not.
    float x = Math.max(a[i] - b[j + 3], b[j] - a[i + 3]);
    float y = Math.max(a[i + 1] - b[j + 4], b[j + 1] - a[i + 4]);
    float z = Math.max(a[i + 2] - b[j + 5], b[j + 2] - a[i + 5]);
    return Math.max(x, Math.max(y, z)) <= 0;
  }

  /**
   * The leaves from the first of a group on whose boxes overlap the group's.
   *
   * @param group so many {@link #GROUP} leaves, from the first on
   */
  int overlappingGroup(int group, int[] stack, int[][] out) {
    if (boxes.length <= GROUP_LEVEL) {
      return overlapping(boxes[boxes.length - 1], 0, 0, stack, out);
    }
    return overlapping(boxes[GROUP_LEVEL], 6 * group, GROUP * group, stack, out);
  }

  /** Whether the boxes of two leaves overlap. */
  boolean leavesOverlap(int a, int b) {
    return overlap(boxes[0], 6 * a, boxes[0], 6 * b);
  }

  /**
   * The leaves from one on whose boxes overlap a box.
   *
   * @param box min x, y, z, max x, y, z from {@code from} on
   * @param leaf the first leaf that counts
   */
  int overlapping(float[] box, int from, int leaf, int[] stack, int[][] out) {
    int found = 0;
    int top = 0;
    int level = boxes.length - 1;
    stack[top++] = level;
    stack[top++] = 0;
    while (top > 0) {
      int node = stack[--top];
      int at = stack[--top];
      // The last leaf under the node.
      long last = ((long) node + 1 << at) - 1;
      if (last < leaf || !overlap(boxes[at], 6 * node, box, from)) {
        continue;
      }
      if (at == 0) {
        if (found == out[0].length) {
          out[0] = Arrays.copyOf(out[0], 2 * found);
        }
        out[0][found++] = node;
        continue;
      }
      int below = boxes[at - 1].length / 6;
      if (2 * node + 1 < below) {
        stack[top++] = at - 1;
        stack[top++] = 2 * node + 1;
      }
      stack[top++] = at - 1;
      stack[top++] = 2 * node;
    }
    return found;
  }

  /** Room a search's stack needs. */
  int stackSize() {
    return 4 * boxes.length + 4;
  }

  /** The box of a leaf, as an array and a place in it. */
  float[] leafBoxes() {
    return boxes[0];
  }

  private static int spread(int x) {
    int v = x & 1023;
    v = (v | v << 16) & 0x030000FF;
    v = (v | v << 8) & 0x0300F00F;
    v = (v | v << 4) & 0x030C30C3;
    return (v | v << 2) & 0x09249249;
  }
}
