package holotome.core.reduce;

/**
 * How many triangles went at what cost: eight classes for each power of two. From it follows up to
 * which cost to go for a number of triangles.
 */
final class CostCount {
  private static final int SHIFT = 20;

  private final long[] gone = new long[(0x7f800000 >>> SHIFT) + 1];

  void add(float cost, int triangles) {
    gone[Float.floatToRawIntBits(cost) >>> SHIFT] += triangles;
  }

  void add(CostCount o) {
    for (int i = 0; i < gone.length; i++) {
      gone[i] += o.gone[i];
    }
  }

  long total() {
    long n = 0;
    for (long g : gone) {
      n += g;
    }
    return n;
  }

  /** The cost up to which so many went; within a class they are taken to be evenly spread. */
  float upTo(double triangles) {
    double n = 0;
    for (int i = 0; i < gone.length; i++) {
      if (gone[i] > 0 && n + gone[i] >= triangles) {
        double part = Math.clamp((triangles - n) / gone[i], 0.0, 1.0);
        return Float.intBitsToFloat((i << SHIFT) + (int) (part * (1 << SHIFT)));
      }
      n += gone[i];
    }
    return Float.MAX_VALUE;
  }

  /**
   * How many triangles each is to give for so many in all, the cheapest first; within the last
   * class in proportion, in even numbers.
   */
  int[] shares(CostCount[] parts, long wanted) {
    int last = 0;
    long before = 0;
    while (last < gone.length - 1 && before + gone[last] < wanted) {
      before += gone[last++];
    }
    double share = gone[last] == 0 ? 0 : Math.min(1, (double) (wanted - before) / gone[last]);
    int[] out = new int[parts.length];
    double owed = 0;
    for (int i = 0; i < parts.length; i++) {
      long n = 0;
      for (int c = 0; c < last; c++) {
        n += parts[i].gone[c];
      }
      // What rounding leaves over is carried on to the next.
      double here = share * parts[i].gone[last] + owed;
      long even = (long) (n + here) & -2L;
      owed = n + here - even;
      out[i] = (int) even;
    }
    return out;
  }
}
