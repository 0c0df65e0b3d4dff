package holotome.core.io;

import java.util.Arrays;

/** A growing list of floats. */
final class Floats {
  float[] a;
  int n;

  Floats(int capacity) {
    a = new float[Math.max(16, capacity)];
  }

  void add(float x) {
    if (n == a.length) {
      a = Arrays.copyOf(a, n + (n >> 1));
    }
    a[n++] = x;
  }

  float[] toArray() {
    return n == a.length ? a : Arrays.copyOf(a, n);
  }
}
