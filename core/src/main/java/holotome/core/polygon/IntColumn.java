package holotome.core.polygon;

import java.util.Arrays;

/** A growing array of ints whose writes, and whose length, are noted in a journal. */
final class IntColumn implements Journal.Store {
  private static final int LENGTH = -1;

  private final Journal journal;
  private int[] values = new int[16];
  private int size;

  IntColumn(Journal journal) {
    this.journal = journal;
  }

  int size() {
    return size;
  }

  int get(int i) {
    return values[i];
  }

  void set(int i, int value) {
    if (values[i] != value) {
      journal.note(this, i, values[i]);
      values[i] = value;
    }
  }

  void add(int value) {
    if (size == values.length) {
      values = Arrays.copyOf(values, 2 * size);
    }
    journal.note(this, LENGTH, size);
    values[size++] = value;
  }

  @Override
  public void restore(int index, long old) {
    if (index == LENGTH) {
      size = (int) old;
    } else {
      values[index] = (int) old;
    }
  }

  int[] toArray() {
    return Arrays.copyOf(values, size);
  }
}
