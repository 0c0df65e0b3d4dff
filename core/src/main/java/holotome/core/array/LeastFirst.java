package holotome.core.array;

import java.util.Arrays;

/**
 * Numbers that wait, the one with the least key first; of equal keys the lower number. A binary
 * heap, 12 bytes an entry; O(log n) to add and to take. A number may wait more than once. Not for
 * several threads.
 */
public final class LeastFirst {
  private double[] keys = new double[64];
  private int[] numbers = new int[64];
  private int size;

  /** With nothing waiting. */
  public LeastFirst() {}

  public boolean isEmpty() {
    return size == 0;
  }

  /** The least key; only while something waits. */
  public double key() {
    return keys[0];
  }

  public void add(double key, int number) {
    if (size == keys.length) {
      keys = Arrays.copyOf(keys, 2 * size);
      numbers = Arrays.copyOf(numbers, 2 * size);
    }
    int at = size++;
    while (at > 0) {
      int up = (at - 1) >> 1;
      if (!isBefore(key, number, keys[up], numbers[up])) {
        break;
      }
      keys[at] = keys[up];
      numbers[at] = numbers[up];
      at = up;
    }
    keys[at] = key;
    numbers[at] = number;
  }

  /** Takes the number with the least key away. */
  public int take() {
    int out = numbers[0];
    size--;
    double key = keys[size];
    int number = numbers[size];
    int at = 0;
    while (true) {
      int down = 2 * at + 1;
      if (down >= size) {
        break;
      }
      if (down + 1 < size
          && isBefore(keys[down + 1], numbers[down + 1], keys[down], numbers[down])) {
        down++;
      }
      if (!isBefore(keys[down], numbers[down], key, number)) {
        break;
      }
      keys[at] = keys[down];
      numbers[at] = numbers[down];
      at = down;
    }
    keys[at] = key;
    numbers[at] = number;
    return out;
  }

  private static boolean isBefore(double a, int m, double b, int n) {
    return a < b || a == b && m < n;
  }
}
