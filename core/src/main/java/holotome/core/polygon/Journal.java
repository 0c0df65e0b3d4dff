package holotome.core.polygon;

import java.util.Arrays;

/**
 * What was where before each write, so that writes are taken back in reverse, to the last bit. 20
 * bytes a write.
 */
final class Journal {
  /** Something that can be written back. */
  interface Store {
    /** Puts an old value back: of an int, or the bits of a double. */
    void restore(int index, long old);
  }

  private Store[] stores = new Store[64];
  private int[] indices = new int[64];
  private long[] olds = new long[64];
  private int size;

  int size() {
    return size;
  }

  void note(Store store, int index, long old) {
    if (size == indices.length) {
      stores = Arrays.copyOf(stores, 2 * size);
      indices = Arrays.copyOf(indices, 2 * size);
      olds = Arrays.copyOf(olds, 2 * size);
    }
    stores[size] = store;
    indices[size] = index;
    olds[size++] = old;
  }

  /** Takes all writes after a place back. */
  void backTo(int mark) {
    while (size > mark) {
      size--;
      stores[size].restore(indices[size], olds[size]);
      stores[size] = null;
    }
  }

  /** Forgets what was: nothing before this can be taken back any more. */
  void forget() {
    Arrays.fill(stores, 0, size, null);
    size = 0;
  }
}
