package holotome.core.spatial;

import java.util.Arrays;

/**
 * Parts ranges of boxes by the surface-area heuristic over bins; one per thread. Large ranges of
 * single triangles are looked at along their longest axis: all three make a tree in which rays meet
 * three nodes in a hundred fewer, in half as much time again. What a leaf costs goes by eights:
 * that many triangles are tested at once.
 *
 * <p>A box is eight floats: the low x, y and z, 0, the high ones with their signs turned, 0. The
 * box around two is then the lesser of each.
 */
abstract class BvhSplitter {
  static final int BOX = 8;

  /** Where the high ends begin. */
  static final int HIGH = 4;

  private static final int MOST_BINS = 16;

  /** Ranges of few boxes are told apart by fewer bins. */
  private static final int FEW = 64;

  private static final int FEW_BINS = 8;

  final int[] ids;
  final float[] boxes;
  final int[] weights;
  final int[] count = new int[MOST_BINS];

  /** Per bin the box around what lies in it, and bounds of the centres. */
  final float[] bins = new float[2 * BOX * MOST_BINS];

  private final float[] areaRight = new float[MOST_BINS];
  private final int[] right = new int[MOST_BINS];
  private final float[] box = new float[BOX];
  int used;
  private float bestCost;

  /** Of the two sides of the last split each: the box, and bounds of the sums of both ends. */
  final float[] sides = new float[4 * BOX];

  /**
   * @param ids moved along with the boxes
   * @param weights what each id counts; null for 1
   */
  BvhSplitter(int[] ids, float[] boxes, int[] weights) {
    this.ids = ids;
    this.boxes = boxes;
    this.weights = weights;
  }

  /** As fast as this machine and the way the program was started allow. */
  static BvhSplitter of(int[] ids, float[] boxes, int[] weights) {
    return Lanes.best() instanceof VectorLanes
        ? new VectorSplitter(ids, boxes, weights)
        : new PlainSplitter(ids, boxes, weights);
  }

  /** Takes the boxes of a range, and their centres, into the bins along an axis. */
  abstract void fill(int from, int to, int axis, float origin, float scale);

  /**
   * Orders a range by whether boxes lie in the bins up to the last one or beyond.
   *
   * @return where those beyond begin
   */
  abstract int part(int from, int to, int axis, float origin, float scale, int last);

  /** Makes a box one around it and another. */
  abstract void unite(float[] into, int at, float[] other, int of);

  static void clear(float[] b) {
    Arrays.fill(b, Float.POSITIVE_INFINITY);
  }

  final int bin(float centre, float origin, float scale) {
    int b = (int) ((centre - origin) * scale);
    return b < 0 ? 0 : b < used ? b : used - 1;
  }

  /** The sum of both ends of a box along an axis. */
  final float centre(int i, int axis) {
    return boxes[BOX * i + axis] - boxes[BOX * i + HIGH + axis];
  }

  final int weight(int i) {
    return weights == null ? 1 : weights[ids[i]];
  }

  /** Takes a box into one, and its centre into the bounds that come after it. */
  final void take(float[] into, int at, int i) {
    unite(into, at, boxes, BOX * i);
    for (int k = 0; k < 3; k++) {
      float c = centre(i, k);
      into[at + BOX + k] = Math.min(into[at + BOX + k], c);
      into[at + BOX + HIGH + k] = Math.min(into[at + BOX + HIGH + k], -c);
    }
  }

  /**
   * Orders a range so that the two sides of the best split found stand apart; {@link #sides} are
   * theirs then.
   *
   * @param of bounds of the centres of the range, from {@code at} on
   * @param isHalved whether it is simply halved: where a tree grew too deep
   * @return where the second side begins
   */
  final int split(int from, int to, float[] of, int at, boolean isHalved) {
    float longest = 0;
    for (int k = 0; k < 3; k++) {
      longest = Math.max(longest, extent(of, at, k));
    }
    if (!(longest > 0) || isHalved) {
      return halve(from, to);
    }
    used = to - from <= FEW ? FEW_BINS : MOST_BINS;
    bestCost = Float.POSITIVE_INFINITY;
    int axis = -1;
    int last = -1;
    for (int k = 0; k < 3; k++) {
      float extent = extent(of, at, k);
      if (!(extent > 0) || weights == null && extent < longest) {
        continue;
      }
      Arrays.fill(bins, 0, 2 * BOX * used, Float.POSITIVE_INFINITY);
      Arrays.fill(count, 0, used, 0);
      fill(from, to, k, of[at + k], scale(extent));
      int best = bestSplit();
      if (best >= 0) {
        axis = k;
        last = best;
      }
    }
    if (axis < 0) {
      return halve(from, to);
    }
    return part(from, to, axis, of[at + axis], scale(extent(of, at, axis)), last);
  }

  private float scale(float extent) {
    return used * 0.9999f / extent;
  }

  private static float extent(float[] of, int at, int axis) {
    return -of[at + HIGH + axis] - of[at + axis];
  }

  /** Where nothing tells the sides apart: the first half and the second. */
  private int halve(int from, int to) {
    int mid = (from + to) >>> 1;
    clear(sides);
    for (int i = from; i < to; i++) {
      take(sides, i < mid ? 0 : 2 * BOX, i);
    }
    return mid;
  }

  /** The last bin of the first side, where that is better than what was found; else -1. */
  private int bestSplit() {
    clear(box);
    int n = 0;
    for (int b = used - 1; b > 0; b--) {
      if (count[b] > 0) {
        unite(box, 0, bins, 2 * BOX * b);
        n += count[b];
      }
      areaRight[b] = n == 0 ? 0 : halfArea(box, 0);
      right[b] = n;
    }
    clear(box);
    n = 0;
    int best = -1;
    for (int b = 0; b < used - 1; b++) {
      if (count[b] == 0) {
        continue;
      }
      unite(box, 0, bins, 2 * BOX * b);
      n += count[b];
      if (right[b + 1] == 0) {
        continue;
      }
      float cost = eights(n) * halfArea(box, 0) + eights(right[b + 1]) * areaRight[b + 1];
      if (cost < bestCost) {
        bestCost = cost;
        best = b;
      }
    }
    if (best >= 0) {
      clear(sides);
      for (int b = 0; b < used; b++) {
        int side = b <= best ? 0 : 2 * BOX;
        unite(sides, side, bins, 2 * BOX * b);
        unite(sides, side + BOX, bins, 2 * BOX * b + BOX);
      }
    }
    return best;
  }

  private static int eights(int n) {
    return (n + Bvh.WIDE - 1) / Bvh.WIDE;
  }

  static float halfArea(float[] b, int at) {
    float x = -b[at + HIGH] - b[at];
    float y = -b[at + HIGH + 1] - b[at + 1];
    float z = -b[at + HIGH + 2] - b[at + 2];
    return x * y + y * z + z * x;
  }
}
