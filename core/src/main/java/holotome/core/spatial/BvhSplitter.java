package holotome.core.spatial;

/** Parts ranges of triangles' boxes by the surface-area heuristic over bins; one per thread. */
final class BvhSplitter {
  private static final int MOST_BINS = 16;

  /** Ranges of few triangles are told apart by fewer bins. */
  private static final int FEW = 32;

  private static final int FEW_BINS = 8;

  /** Past this depth the tree would outgrow the queries' stacks; halving bounds it. */
  private static final int DEEPEST = 48;

  /** Depths there are at all: those, and halvings of what an int counts. */
  private static final int DEPTHS = DEEPEST + 34;

  private final int[] ids;
  private final float[] prims;
  private final int[] count = new int[MOST_BINS];
  private final float[] bins = new float[6 * MOST_BINS];
  private final float[] areaRight = new float[MOST_BINS];
  private final int[] right = new int[MOST_BINS];
  private final float[] box = new float[6];
  private int used;

  /** By depth, the bounds of the centres of the two sides of the last split there. */
  final float[] below = new float[12 * DEPTHS];

  BvhSplitter(int[] ids, float[] prims) {
    this.ids = ids;
    this.prims = prims;
  }

  /** Bounds of nothing, several times. */
  static float[] empty(int length) {
    float[] b = new float[length];
    clear(b, 0, length);
    return b;
  }

  private static void clear(float[] b, int from, int to) {
    for (int i = from; i < to; i += 3) {
      float f = (i - from) % 6 == 0 ? Float.POSITIVE_INFINITY : Float.NEGATIVE_INFINITY;
      b[i] = f;
      b[i + 1] = f;
      b[i + 2] = f;
    }
  }

  /** Makes the whole tree of a range of more than a leaf's triangles; its root is node 0. */
  void subtree(BvhBuilder.Nodes nodes, int from, int to, float[] centres) {
    make(nodes, from, to, centres, 0, 0);
  }

  private int make(BvhBuilder.Nodes nodes, int from, int to, float[] centres, int at, int depth) {
    int node = nodes.add();
    int mid = split(from, to, centres, at, depth, nodes.boxes, 12 * node);
    int own = 12 * depth;
    int a =
        mid - from <= Bvh.LEAF
            ? BvhBuilder.leaf(from, mid - from)
            : make(nodes, from, mid, below, own, depth + 1);
    nodes.children[2 * node] = a;
    int b =
        to - mid <= Bvh.LEAF
            ? BvhBuilder.leaf(mid, to - mid)
            : make(nodes, mid, to, below, own + 6, depth + 1);
    nodes.children[2 * node + 1] = b;
    return node;
  }

  /**
   * Orders a range so that the two sides of the best split found stand apart.
   *
   * @param centres of the range, from {@code at} on
   * @param out takes the boxes of both sides, 12 numbers from {@code outAt} on; the bounds of their
   *     centres are left in {@link #below} at the depth
   * @return where the second side begins
   */
  int split(int from, int to, float[] centres, int at, int depth, float[] out, int outAt) {
    float x = centres[at + 3] - centres[at];
    float y = centres[at + 4] - centres[at + 1];
    float z = centres[at + 5] - centres[at + 2];
    int axis = x >= y ? x >= z ? 0 : 2 : y >= z ? 1 : 2;
    float extent = axis == 0 ? x : axis == 1 ? y : z;
    int sides = 12 * depth;
    if (!(extent > 0) || depth > DEEPEST) {
      return halve(from, to, sides, out, outAt);
    }
    float origin = centres[at + axis];
    used = to - from <= FEW ? FEW_BINS : MOST_BINS;
    float toBin = used * 0.9999f / extent;
    fill(from, to, axis, origin, toBin);
    int best = bestSplit();
    if (best < 0) {
      return halve(from, to, sides, out, outAt);
    }
    unite(0, best + 1, out, outAt);
    unite(best + 1, used, out, outAt + 6);
    return part(from, to, axis, origin, toBin, best, sides);
  }

  private void fill(int from, int to, int axis, float origin, float toBin) {
    for (int b = 0; b < used; b++) {
      count[b] = 0;
    }
    clear(bins, 0, 6 * used);
    float[] p = prims;
    float[] b = bins;
    for (int o = 6 * from; o < 6 * to; o += 6) {
      int bin = bin(p[o + axis] + p[o + 3 + axis], origin, toBin);
      count[bin]++;
      int i = 6 * bin;
      b[i] = p[o] < b[i] ? p[o] : b[i];
      b[i + 1] = p[o + 1] < b[i + 1] ? p[o + 1] : b[i + 1];
      b[i + 2] = p[o + 2] < b[i + 2] ? p[o + 2] : b[i + 2];
      b[i + 3] = p[o + 3] > b[i + 3] ? p[o + 3] : b[i + 3];
      b[i + 4] = p[o + 4] > b[i + 4] ? p[o + 4] : b[i + 4];
      b[i + 5] = p[o + 5] > b[i + 5] ? p[o + 5] : b[i + 5];
    }
  }

  private int bin(float centre, float origin, float toBin) {
    int b = (int) ((centre - origin) * toBin);
    return b < 0 ? 0 : b < used ? b : used - 1;
  }

  private int part(int from, int to, int axis, float origin, float toBin, int best, int sides) {
    float[] p = prims;
    clear(below, sides, sides + 12);
    int i = from;
    int j = to - 1;
    while (i <= j) {
      int o = 6 * i;
      if (bin(p[o + axis] + p[o + 3 + axis], origin, toBin) <= best) {
        grow(sides, o);
        i++;
      } else {
        grow(sides + 6, o);
        swap(i, j);
        j--;
      }
    }
    return i;
  }

  private void swap(int i, int j) {
    int s = ids[i];
    ids[i] = ids[j];
    ids[j] = s;
    int a = 6 * i;
    int b = 6 * j;
    for (int k = 0; k < 6; k++) {
      float f = prims[a + k];
      prims[a + k] = prims[b + k];
      prims[b + k] = f;
    }
  }

  /** Takes the centre of a box into bounds. */
  private void grow(int bounds, int o) {
    float[] b = below;
    for (int k = 0; k < 3; k++) {
      float c = prims[o + k] + prims[o + 3 + k];
      b[bounds + k] = c < b[bounds + k] ? c : b[bounds + k];
      b[bounds + 3 + k] = c > b[bounds + 3 + k] ? c : b[bounds + 3 + k];
    }
  }

  /** Where nothing tells the sides apart: the first half and the second. */
  private int halve(int from, int to, int sides, float[] out, int outAt) {
    int mid = (from + to) >>> 1;
    clear(below, sides, sides + 12);
    clear(out, outAt, outAt + 12);
    for (int i = from; i < to; i++) {
      int side = i < mid ? 0 : 6;
      grow(sides + side, 6 * i);
      for (int k = 0; k < 3; k++) {
        int o = outAt + side + k;
        out[o] = Math.min(out[o], prims[6 * i + k]);
        out[o + 3] = Math.max(out[o + 3], prims[6 * i + 3 + k]);
      }
    }
    return mid;
  }

  private void unite(int first, int end, float[] out, int at) {
    clear(out, at, at + 6);
    for (int b = first; b < end; b++) {
      grow(out, at, b);
    }
  }

  private void grow(float[] out, int at, int bin) {
    for (int k = 0; k < 3; k++) {
      float lo = bins[6 * bin + k];
      float hi = bins[6 * bin + 3 + k];
      out[at + k] = lo < out[at + k] ? lo : out[at + k];
      out[at + 3 + k] = hi > out[at + 3 + k] ? hi : out[at + 3 + k];
    }
  }

  private int bestSplit() {
    clear(box, 0, 6);
    int n = 0;
    for (int b = used - 1; b > 0; b--) {
      grow(box, 0, b);
      n += count[b];
      areaRight[b] = n == 0 ? 0 : halfArea(box);
      right[b] = n;
    }
    clear(box, 0, 6);
    n = 0;
    int best = -1;
    float bestCost = Float.POSITIVE_INFINITY;
    for (int b = 0; b < used - 1; b++) {
      grow(box, 0, b);
      n += count[b];
      if (n == 0 || right[b + 1] == 0) {
        continue;
      }
      float cost = n * halfArea(box) + right[b + 1] * areaRight[b + 1];
      if (cost < bestCost) {
        bestCost = cost;
        best = b;
      }
    }
    return best;
  }

  private static float halfArea(float[] b) {
    float x = b[3] - b[0];
    float y = b[4] - b[1];
    float z = b[5] - b[2];
    return x * y + y * z + z * x;
  }
}
