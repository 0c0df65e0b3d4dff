package holotome.view.cluster;

import java.util.Arrays;

/** Numbers keys 0, 1, 2, ... in the order in which they first appear; for use again and again. */
final class LongIndex {
  private long[] keys = new long[1024];
  private int[] numbers = new int[1024];
  private int[] round = new int[1024];
  private int now = 1;
  private int size;

  void clear() {
    size = 0;
    if (++now == Integer.MAX_VALUE) {
      Arrays.fill(round, 0);
      now = 1;
    }
  }

  int size() {
    return size;
  }

  /** The number of a key, a new one if it is new: then it equals the size before. */
  int of(long key) {
    int slot = slot(key);
    if (round[slot] == now) {
      return numbers[slot];
    }
    keys[slot] = key;
    numbers[slot] = size;
    round[slot] = now;
    if (2 * ++size > keys.length) {
      grow();
    }
    return size - 1;
  }

  private int slot(long key) {
    long h = key * 0x9E3779B97F4A7C15L;
    int mask = keys.length - 1;
    int slot = (int) (h >>> 40) & mask;
    while (round[slot] == now && keys[slot] != key) {
      slot = slot + 1 & mask;
    }
    return slot;
  }

  private void grow() {
    long[] oldKeys = keys;
    int[] oldNumbers = numbers;
    int[] oldRound = round;
    keys = new long[2 * oldKeys.length];
    numbers = new int[keys.length];
    round = new int[keys.length];
    for (int i = 0; i < oldKeys.length; i++) {
      if (oldRound[i] == now) {
        int slot = slot(oldKeys[i]);
        keys[slot] = oldKeys[i];
        numbers[slot] = oldNumbers[i];
        round[slot] = now;
      }
    }
  }
}
