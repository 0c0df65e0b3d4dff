package holotome.core.spatial;

/** Number by number. */
final class PlainSplitter extends BvhSplitter {
  PlainSplitter(int[] ids, float[] boxes, int[] weights) {
    super(ids, boxes, weights);
  }

  @Override
  void fill(int from, int to, int axis, float origin, float scale) {
    for (int i = from; i < to; i++) {
      int b = bin(centre(i, axis), origin, scale);
      count[b] += weight(i);
      take(bins, 2 * BOX * b, i);
    }
  }

  @Override
  int part(int from, int to, int axis, float origin, float scale, int last) {
    int mid = from;
    for (int i = from; i < to; i++) {
      boolean isFirst = bin(centre(i, axis), origin, scale) <= last;
      swap(i, mid);
      mid += isFirst ? 1 : 0;
    }
    return mid;
  }

  private void swap(int i, int j) {
    int s = ids[i];
    ids[i] = ids[j];
    ids[j] = s;
    for (int k = 0; k < BOX; k++) {
      float f = boxes[BOX * i + k];
      boxes[BOX * i + k] = boxes[BOX * j + k];
      boxes[BOX * j + k] = f;
    }
  }

  @Override
  void unite(float[] into, int at, float[] other, int of) {
    for (int k = 0; k < BOX; k++) {
      float f = other[of + k];
      into[at + k] = f < into[at + k] ? f : into[at + k];
    }
  }
}
