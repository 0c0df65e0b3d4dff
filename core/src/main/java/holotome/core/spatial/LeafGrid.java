package holotome.core.spatial;

/**
 * The boxes of one leaf's triangles on a grid of 255 steps along each side of the leaf's, the three
 * bounds of a corner in one number, so that a box is held against all of them in a few steps
 * without branches, which would be guessed wrong as often as not.
 */
final class LeafGrid {
  /** Bits from one bound to the next, and the bit above each that tells which of two is larger. */
  private static final int FIELD = 16;

  private static final long GUARDS = 1L << 15 | 1L << 31 | 1L << 47;

  /** The grid runs from 1 on: 0 lies before it, and this behind. */
  private static final int BEHIND = 258;

  private final long[] low = new long[BoxTree.LEAF];
  private final long[] high = new long[BoxTree.LEAF];
  private final float[] origin = new float[3];
  private final float[] scale = new float[3];

  /** How many boxes there are. */
  private int size;

  /** Takes the boxes of a leaf's triangles. */
  void take(BoxTree tree, int leaf) {
    int begin = leaf * BoxTree.LEAF;
    size = Math.min(tree.order.length - begin, BoxTree.LEAF);
    float[] box = tree.leafBoxes();
    for (int k = 0; k < 3; k++) {
      origin[k] = box[6 * leaf + k];
      float unit = (box[6 * leaf + 3 + k] - origin[k]) / 255;
      // Of what is smaller the inverse is infinite.
      scale[k] = unit >= Float.MIN_NORMAL ? 1 / unit : 0;
    }
    for (int i = 0; i < size; i++) {
      low[i] = 0;
      high[i] = GUARDS;
      for (int k = 0; k < 3; k++) {
        low[i] |= tree.fine(begin + i, k) + 1L << FIELD * k;
        high[i] |= tree.fine(begin + i, 3 + k) + 1L << FIELD * k;
      }
    }
  }

  /**
   * A bit for each box that may overlap another.
   *
   * @param box min x, y, z, max x, y, z
   */
  int overlapping(float[] box) {
    long from = 0;
    long to = GUARDS;
    for (int k = 0; k < 3; k++) {
      // The grid's bounds are rounded outwards; one step more each way covers roundings here. Along
      // a side without length everything overlaps.
      int lo = (int) ((box[k] - origin[k]) * scale[k]);
      int hi = (int) ((box[3 + k] - origin[k]) * scale[k]);
      boolean isFlat = scale[k] == 0;
      from |= (long) (isFlat ? 0 : Math.clamp(lo, 0, BEHIND)) << FIELD * k;
      to |= (long) (isFlat ? BEHIND : Math.clamp(hi, -2, BEHIND - 2) + 2) << FIELD * k;
    }
    int out = 0;
    for (int i = 0; i < size; i++) {
      // A guard stays where nothing had to be borrowed: where the bound is no less.
      long apart = ~((to - low[i]) & (high[i] - from)) & GUARDS;
      out |= (int) (apart - 1 >>> 63) << i;
    }
    return out;
  }
}
