package holotome.core.array;

import java.util.Arrays;

/**
 * Numbers things by keys in the order they come: an open-addressed hash table of whole numbers, 16
 * to 40 bytes a key. Not for several threads while keys are added; may be asked by many.
 */
public final class LongIndex {
  private static final long SPREAD = 0x9E3779B97F4A7C15L;

  private long[] keys;
  private int[] slots = new int[64];
  private int size;

  public LongIndex() {
    keys = new long[32];
  }

  public int size() {
    return size;
  }

  /** The key of a number given out. */
  public long key(int number) {
    return keys[number];
  }

  /** The number of a key; -1 if it was not added. */
  public int find(long key) {
    return slots[slot(key)] - 1;
  }

  /** The slot that a key has or would have. */
  private int slot(long key) {
    int mask = slots.length - 1;
    int at = (int) (key * SPREAD >>> 33) & mask;
    while (slots[at] != 0 && keys[slots[at] - 1] != key) {
      at = at + 1 & mask;
    }
    return at;
  }

  /** Adds a key, or finds it; its number is below the size before where it was there. */
  public int add(long key) {
    int at = slot(key);
    if (slots[at] != 0) {
      return slots[at] - 1;
    }
    if (size == keys.length) {
      keys = Arrays.copyOf(keys, 2 * size);
    }
    keys[size] = key;
    slots[at] = ++size;
    if (2 * size > slots.length) {
      grow();
    }
    return size - 1;
  }

  private void grow() {
    slots = new int[4 * slots.length];
    for (int i = 0; i < size; i++) {
      slots[slot(keys[i])] = i + 1;
    }
  }
}
