package holotome.view.cluster;

import java.util.Arrays;

/** Numbers whole numbers 0, 1, 2, ... in the order in which they first appear; to be used again. */
final class IntIndex {
  /** Number plus one by slot; 0 where free. */
  private int[] table = new int[2048];

  private int[] keys = new int[1024];
  private int size;

  void clear() {
    Arrays.fill(table, 0);
    size = 0;
  }

  int size() {
    return size;
  }

  /** The key with a number. */
  int key(int number) {
    return keys[number];
  }

  /** The number of a key, a new one if it is new. */
  int of(int key) {
    int mask = table.length - 1;
    int slot = slot(key);
    int found = table[slot];
    while (found != 0) {
      if (keys[found - 1] == key) {
        return found - 1;
      }
      slot = slot + 1 & mask;
      found = table[slot];
    }
    if (size == keys.length) {
      grow();
      return of(key);
    }
    keys[size++] = key;
    table[slot] = size;
    return size - 1;
  }

  /** Where to look first: the upper bits of the product, as many as the table has. */
  private int slot(int key) {
    return key * 0x9E3779B9 >>> Integer.numberOfLeadingZeros(table.length) + 1;
  }

  private void grow() {
    keys = Arrays.copyOf(keys, 2 * keys.length);
    table = new int[2 * table.length];
    int mask = table.length - 1;
    for (int i = 0; i < size; i++) {
      int slot = slot(keys[i]);
      while (table[slot] != 0) {
        slot = slot + 1 & mask;
      }
      table[slot] = i + 1;
    }
  }
}
