package holotome.core.polygon;

import java.util.Arrays;

/** A growing array of doubles, so many for each element, whose writes are noted in a journal. */
final class DoubleColumn implements Journal.Store {
  private static final int LENGTH = -1;

  private final Journal journal;
  private final int width;
  private double[] values;
  private int size;

  DoubleColumn(Journal journal, int width) {
    this.journal = journal;
    this.width = width;
    values = new double[16 * width];
  }

  int width() {
    return width;
  }

  /** Elements. */
  int size() {
    return size;
  }

  double get(int element, int k) {
    return values[width * element + k];
  }

  void set(int element, int k, double value) {
    int i = width * element + k;
    long before = Double.doubleToRawLongBits(values[i]);
    if (before != Double.doubleToRawLongBits(value)) {
      journal.note(this, i, before);
      values[i] = value;
    }
  }

  /** Adds an element of noughts; what stood there before was taken back. */
  void add() {
    if (width * (size + 1) > values.length) {
      values = Arrays.copyOf(values, 2 * values.length);
    }
    journal.note(this, LENGTH, size);
    size++;
    for (int k = 0; k < width; k++) {
      set(size - 1, k, 0);
    }
  }

  void copy(int from, int to) {
    for (int k = 0; k < width; k++) {
      set(to, k, get(from, k));
    }
  }

  /** Element {@code to} becomes what lies between two others. */
  void mix(int a, int b, double f, int to) {
    for (int k = 0; k < width; k++) {
      set(to, k, get(a, k) + f * (get(b, k) - get(a, k)));
    }
  }

  @Override
  public void restore(int index, long old) {
    if (index == LENGTH) {
      size = (int) old;
    } else {
      values[index] = Double.longBitsToDouble(old);
    }
  }

  double[] toArray() {
    return Arrays.copyOf(values, width * size);
  }
}
