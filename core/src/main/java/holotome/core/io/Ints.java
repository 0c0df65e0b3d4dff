package holotome.core.io;

import java.util.Arrays;

/** A growing list of ints. */
final class Ints {
  int[] a;
  int n;

  Ints(int capacity) {
    a = new int[Math.max(16, capacity)];
  }

  void add(int x) {
    if (n == a.length) {
      a = Arrays.copyOf(a, n + (n >> 1));
    }
    a[n++] = x;
  }

  int[] toArray() {
    return n == a.length ? a : Arrays.copyOf(a, n);
  }
}
