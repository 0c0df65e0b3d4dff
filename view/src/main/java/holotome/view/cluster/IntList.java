package holotome.view.cluster;

import java.util.Arrays;

/** A growing list of whole numbers. */
final class IntList {
  private int[] list = new int[16];
  private int size;

  void add(int x) {
    if (size == list.length) {
      list = Arrays.copyOf(list, 2 * size);
    }
    list[size++] = x;
  }

  /** Adds a number unless it was the last one added. */
  void addOnce(int x) {
    if (size == 0 || list[size - 1] != x) {
      add(x);
    }
  }

  void addAll(IntList other) {
    for (int i = 0; i < other.size; i++) {
      add(other.list[i]);
    }
  }

  int[] toArray() {
    return Arrays.copyOf(list, size);
  }
}
