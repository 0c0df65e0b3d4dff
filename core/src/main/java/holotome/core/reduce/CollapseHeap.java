package holotome.core.reduce;

/**
 * A heap of vertices by cost, four children to a node; a vertex's cost can be changed. Infinite
 * costs stay out. Equal costs go by vertex number, so that the order is always the same.
 */
final class CollapseHeap {
  private final float[] cost;
  private final int[] heap;
  private final int[] place;
  private int size;

  /** Takes the costs over. */
  CollapseHeap(float[] cost) {
    this.cost = cost;
    heap = new int[cost.length];
    place = new int[cost.length];
    for (int v = 0; v < cost.length; v++) {
      place[v] = -1;
      if (cost[v] < Float.POSITIVE_INFINITY) {
        heap[size] = v;
        place[v] = size++;
      }
    }
    for (int i = (size - 2) / 4; i >= 0; i--) {
      down(i);
    }
  }

  /** The cheapest vertex; -1 if there is none. */
  int top() {
    return size == 0 ? -1 : heap[0];
  }

  float cost(int v) {
    return cost[v];
  }

  void set(int v, float c) {
    if (!(c < Float.POSITIVE_INFINITY)) {
      remove(v);
      cost[v] = Float.POSITIVE_INFINITY;
      return;
    }
    float old = cost[v];
    cost[v] = c;
    if (place[v] < 0) {
      heap[size] = v;
      place[v] = size++;
      up(place[v]);
    } else if (c < old) {
      up(place[v]);
    } else {
      down(place[v]);
    }
  }

  void remove(int v) {
    int i = place[v];
    if (i < 0) {
      return;
    }
    place[v] = -1;
    cost[v] = Float.POSITIVE_INFINITY;
    size--;
    if (i < size) {
      int w = heap[size];
      heap[i] = w;
      place[w] = i;
      up(i);
      down(place[w]);
    }
  }

  private boolean less(int v, int w) {
    return cost[v] < cost[w] || cost[v] == cost[w] && v < w;
  }

  private void up(int from) {
    int i = from;
    int v = heap[i];
    while (i > 0) {
      int parent = (i - 1) >> 2;
      int w = heap[parent];
      if (!less(v, w)) {
        break;
      }
      heap[i] = w;
      place[w] = i;
      i = parent;
    }
    heap[i] = v;
    place[v] = i;
  }

  private void down(int from) {
    int i = from;
    if (i >= size) {
      return;
    }
    int v = heap[i];
    while (true) {
      int child = 4 * i + 1;
      if (child >= size) {
        break;
      }
      int end = Math.min(child + 4, size);
      int least = child;
      for (int c = child + 1; c < end; c++) {
        if (less(heap[c], heap[least])) {
          least = c;
        }
      }
      int w = heap[least];
      if (!less(w, v)) {
        break;
      }
      heap[i] = w;
      place[w] = i;
      i = least;
    }
    heap[i] = v;
    place[v] = i;
  }
}
