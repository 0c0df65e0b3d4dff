package holotome.core.contour;

import holotome.core.array.LongIndex;
import java.util.Arrays;

/**
 * A set of bricks of 8 x 8 x 8 nodes of one level of a lattice, in the order they were added, each
 * with its 26 neighbours. Node (i, j, k) of a brick is its number i + 8 j + 64 k.
 */
final class Bricks {
  static final int SIDE = 8;
  static final int NODES = SIDE * SIDE * SIDE;

  /** Places along an axis in the room of a brick and one node around it. */
  static final int WIDE = SIDE + 2;

  private static final int BITS = 21;
  private static final int MASK = (1 << BITS) - 1;

  private final LongIndex index;

  /** 27 for each brick, the middle one itself; -1 where there is none. */
  private final int[] around;

  /** The set is whole: nothing is added to the index after this. */
  Bricks(LongIndex index) {
    this.index = index;
    around = new int[27 * index.size()];
    Arrays.fill(around, -1);
    for (int b = 0; b < index.size(); b++) {
      long key = index.key(b);
      for (int n = 0; n < 27; n++) {
        int i = i(key) + n % 3 - 1;
        int j = j(key) + n / 3 % 3 - 1;
        int k = k(key) + n / 9 - 1;
        around[27 * b + n] = i < 0 || j < 0 || k < 0 ? -1 : index.find(key(i, j, k));
      }
    }
  }

  static long key(int i, int j, int k) {
    return i | (long) j << BITS | (long) k << 2 * BITS;
  }

  static int i(long key) {
    return (int) key & MASK;
  }

  static int j(long key) {
    return (int) (key >> BITS) & MASK;
  }

  static int k(long key) {
    return (int) (key >> 2 * BITS) & MASK;
  }

  int size() {
    return index.size();
  }

  long key(int brick) {
    return index.key(brick);
  }

  /** The brick with this key; -1 for none. */
  int find(long key) {
    return index.find(key);
  }

  /** The neighbour of a brick, each step -1, 0 or 1; -1 for none. */
  int beside(int brick, int di, int dj, int dk) {
    return around[27 * brick + 13 + di + 3 * dj + 9 * dk];
  }

  Nodes nodes() {
    return new Nodes();
  }

  /** Finds nodes, quickly where one is in the brick of the last; one for each thread. */
  final class Nodes {
    private long last = -1;
    private int brick = -1;

    /** The number of the value that belongs to a node; -1 where no brick has it. */
    int node(int i, int j, int k) {
      if (i < 0 || j < 0 || k < 0) {
        return -1;
      }
      long key = Bricks.key(i >> 3, j >> 3, k >> 3);
      if (key != last) {
        last = key;
        brick = index.find(key);
      }
      return brick < 0 ? -1 : NODES * brick + (i & 7) + 8 * (j & 7) + 64 * (k & 7);
    }

    /** Whether any corner of a cell is in a brick. */
    boolean reaches(int i, int j, int k) {
      int n = (i & 7) < 7 && (j & 7) < 7 && (k & 7) < 7 ? 1 : 8;
      for (int c = 0; c < n; c++) {
        if (node(i + (c & 1), j + (c >> 1 & 1), k + (c >> 2)) >= 0) {
          return true;
        }
      }
      return false;
    }
  }

  /**
   * The values of a brick and of one node around it; nought where there is no brick.
   *
   * @param out 10 x 10 x 10, filled
   */
  void gather(float[] values, int brick, float[] out) {
    for (int z = -1; z <= SIDE; z++) {
      int dk = z < 0 ? -1 : z >> 3;
      for (int y = -1; y <= SIDE; y++) {
        int dj = y < 0 ? -1 : y >> 3;
        int row = 8 * (y & 7) + 64 * (z & 7);
        int to = WIDE * (WIDE * (z + 1) + y + 1);
        int low = beside(brick, -1, dj, dk);
        int mid = beside(brick, 0, dj, dk);
        int high = beside(brick, 1, dj, dk);
        out[to] = low < 0 ? 0 : values[NODES * low + row + 7];
        if (mid < 0) {
          Arrays.fill(out, to + 1, to + 9, 0);
        } else {
          System.arraycopy(values, NODES * mid + row, out, to + 1, SIDE);
        }
        out[to + 9] = high < 0 ? 0 : values[NODES * high + row];
      }
    }
  }
}
