package holotome.core.reduce;

/**
 * A heap of vertices by cost, four children to a node; a vertex's cost can be changed. Infinite
 * costs stay out. Equal costs go by vertex number, so that the order is always the same.
 *
 * <p>A node holds the bits of the cost (not below zero, so that they order as numbers do) above the
 * vertex: comparing takes no look elsewhere, and four children share a cache line.
 */
final class CollapseHeap {
  private static final float NEVER = Float.POSITIVE_INFINITY;

  private final long[] heap;
  private final int[] place;
  private int size;

  /** One cost per vertex. */
  CollapseHeap(float[] cost) {
    heap = new long[cost.length];
    place = new int[cost.length];
    for (int v = 0; v < cost.length; v++) {
      place[v] = -1;
      if (cost[v] < NEVER) {
        heap[size] = node(cost[v], v);
        place[v] = size++;
      }
    }
    for (int i = (size - 2) / 4; i >= 0; i--) {
      down(i, heap[i]);
    }
  }

  private static long node(float cost, int v) {
    return (long) Float.floatToRawIntBits(cost + 0f) << 32 | v;
  }

  /** The cheapest vertex; -1 if there is none. */
  int top() {
    return size == 0 ? -1 : (int) heap[0];
  }

  /** A vertex's cost; infinite where it stays out. */
  float cost(int v) {
    int i = place[v];
    return i < 0 ? NEVER : Float.intBitsToFloat((int) (heap[i] >>> 32));
  }

  void set(int v, float c) {
    if (!(c < NEVER)) {
      remove(v);
      return;
    }
    long n = node(c, v);
    int i = place[v];
    if (i < 0) {
      up(size++, n);
    } else if (n < heap[i]) {
      up(i, n);
    } else {
      down(i, n);
    }
  }

  void remove(int v) {
    int i = place[v];
    if (i < 0) {
      return;
    }
    place[v] = -1;
    long last = heap[--size];
    if (i < size) {
      if (i > 0 && last < heap[(i - 1) >> 2]) {
        up(i, last);
      } else {
        down(i, last);
      }
    }
  }

  private void put(int i, long n) {
    heap[i] = n;
    place[(int) n] = i;
  }

  /** Puts a node at place i or above. */
  private void up(int from, long n) {
    int i = from;
    while (i > 0) {
      int parent = (i - 1) >> 2;
      if (heap[parent] <= n) {
        break;
      }
      put(i, heap[parent]);
      i = parent;
    }
    put(i, n);
  }

  /** Puts a node at place i or below. */
  private void down(int from, long n) {
    int i = from;
    while (true) {
      int child = 4 * i + 1;
      if (child >= size) {
        break;
      }
      int end = Math.min(child + 4, size);
      int least = child;
      long value = heap[child];
      for (int c = child + 1; c < end; c++) {
        if (heap[c] < value) {
          value = heap[c];
          least = c;
        }
      }
      if (value >= n) {
        break;
      }
      put(i, value);
      i = least;
    }
    put(i, n);
  }
}
