package holotome.demo;

import java.util.Arrays;

/** A growing list of ints. */
final class IntList {
  private int[] a = new int[1 << 16];
  private int n;

  void add(int x) {
    if (n == a.length) {
      a = Arrays.copyOf(a, (int) Math.min(Integer.MAX_VALUE - 16L, 2L * n));
    }
    a[n++] = x;
  }

  int size() {
    return n;
  }

  int get(int i) {
    return a[i];
  }

  int[] toArray() {
    return Arrays.copyOf(a, n);
  }
}
