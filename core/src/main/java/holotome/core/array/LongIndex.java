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
    int mask = slots.length - 1;
    int at = (int) (key * SPREAD >>> 33) & mask;
    while (slots[at] != 0) {
      if (keys[slots[at] - 1] == key) {
        return slots[at] - 1;
      }
      at = at + 1 & mask;
    }
    return -1;
  }

  /** Adds a key, or finds it; its number is below the size before where it was there. */
  public int add(long key) {
    int mask = slots.length - 1;
    int at = (int) (key * SPREAD >>> 33) & mask;
    while (slots[at] != 0) {
      if (keys[slots[at] - 1] == key) {
        return slots[at] - 1;
      }
      at = at + 1 & mask;
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
    int mask = slots.length - 1;
    for (int i = 0; i < size; i++) {
      int at = (int) (keys[i] * SPREAD >>> 33) & mask;
      while (slots[at] != 0) {
        at = at + 1 & mask;
      }
      slots[at] = i + 1;
    }
  }
}
