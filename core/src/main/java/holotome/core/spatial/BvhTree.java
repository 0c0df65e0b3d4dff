package holotome.core.spatial;

import java.util.ArrayList;
import java.util.List;

/**
 * Makes wide nodes of a range of boxes: of what a node holds the largest part is split in two until
 * there are eight or none is worth it. One per thread.
 */
final class BvhTree {
  /** Past this depth the tree would outgrow the queries' stacks; halving bounds it. */
  private static final int DEEPEST = 48;

  private static final int BOX = BvhSplitter.BOX;

  private final BvhSplitter splitter;
  private final BvhNodes nodes;
  private final int most;
  private final int[] ids;
  private final int[] weights;
  private int first;

  /** What was left as it is: first and last box, and the node's place it hangs in. */
  final List<int[]> left = new ArrayList<>();

  /**
   * @param splitter of the boxes; where they have no weights, parts of eight become leaves
   * @param most what parts that are left as they are may count
   */
  BvhTree(BvhNodes nodes, BvhSplitter splitter, int most) {
    this.nodes = nodes;
    this.splitter = splitter;
    this.most = most;
    ids = splitter.ids;
    weights = splitter.weights;
  }

  /** The parts of a node while it is made. */
  private static final class Parts {
    final int[] from = new int[Bvh.WIDE];
    final int[] to = new int[Bvh.WIDE];

    /** The box of each, and bounds of the centres. */
    final float[] boxes = new float[2 * BOX * Bvh.WIDE];

    final boolean[] isWhole = new boolean[Bvh.WIDE];
    int count = 1;
  }

  /**
   * Makes a node, and all below it.
   *
   * @param base what is added to the places of leaves
   * @return its number
   */
  int make(int from, int to, int base) {
    float[] around = new float[2 * BOX];
    BvhSplitter.clear(around);
    for (int i = from; i < to; i++) {
      splitter.take(around, 0, i);
    }
    first = base;
    return make(from, to, around, 0, 0);
  }

  private int make(int from, int to, float[] around, int at, int depth) {
    int node = nodes.add();
    Parts p = new Parts();
    p.from[0] = from;
    p.to[0] = to;
    System.arraycopy(around, at, p.boxes, 0, 2 * BOX);
    p.isWhole[0] = isWhole(from, to);
    while (p.count < Bvh.WIDE) {
      int largest = largest(p);
      if (largest < 0) {
        break;
      }
      split(p, largest, depth > DEEPEST);
    }
    nodes.put(node, p.boxes, p.count);
    for (int i = 0; i < Bvh.WIDE; i++) {
      int slot = Bvh.WIDE * node + i;
      int ref = Bvh.NONE;
      if (i < p.count && !p.isWhole[i]) {
        ref = make(p.from[i], p.to[i], p.boxes, 2 * BOX * i, depth + 1);
      } else if (i < p.count && weights == null) {
        ref = Bvh.leaf(first + p.from[i], p.to[i] - p.from[i]);
      } else if (i < p.count) {
        left.add(new int[] {p.from[i], p.to[i], slot});
      }
      nodes.children[slot] = ref;
    }
    return node;
  }

  private boolean isWhole(int from, int to) {
    if (weights == null) {
      return to - from <= most;
    }
    if (to - from == 1) {
      return true;
    }
    long sum = 0;
    for (int i = from; i < to; i++) {
      sum += weights[ids[i]];
    }
    return sum <= most;
  }

  private static int largest(Parts p) {
    int best = -1;
    float most = -1;
    for (int i = 0; i < p.count; i++) {
      float area = BvhSplitter.halfArea(p.boxes, 2 * BOX * i);
      if (!p.isWhole[i] && (area > most || best < 0)) {
        most = area;
        best = i;
      }
    }
    return best;
  }

  private void split(Parts p, int i, boolean isHalved) {
    int mid = splitter.split(p.from[i], p.to[i], p.boxes, 2 * BOX * i + BOX, isHalved);
    int j = p.count++;
    p.from[j] = mid;
    p.to[j] = p.to[i];
    p.to[i] = mid;
    System.arraycopy(splitter.sides, 0, p.boxes, 2 * BOX * i, 2 * BOX);
    System.arraycopy(splitter.sides, 2 * BOX, p.boxes, 2 * BOX * j, 2 * BOX);
    p.isWhole[i] = isWhole(p.from[i], p.to[i]);
    p.isWhole[j] = isWhole(p.from[j], p.to[j]);
  }
}
