package holotome.core.attribute;

import java.util.Arrays;

/**
 * Where elements come from that were not there before: row i says which elements make the i-th new
 * one, and with which weights, which sum to 1. Sources below {@link #old} are elements that were
 * there; those from there on are earlier rows. A row without sources is made in a patch: its values
 * follow from the patch's rim. 12 bytes a source and 4 a row.
 */
public final class Blends {
  private final int old;
  private int[] start = new int[17];
  private int[] source = new int[32];
  private float[] weight = new float[32];
  private int rows;

  /** Sources of the row being put together. */
  private int pending;

  private boolean hasPatch;

  /**
   * @param old how many elements there were
   */
  public Blends(int old) {
    this.old = old;
  }

  /** A row for each of several elements that go on twice. */
  public static Blends copies(int old, int[] of, int count) {
    Blends b = new Blends(old);
    for (int i = 0; i < count; i++) {
      b.copy(of[i]);
    }
    return b;
  }

  /** Rows that are all made in a patch. */
  public static Blends patch(int old, int count) {
    Blends b = new Blends(old);
    b.start = new int[count + 1];
    b.rows = count;
    b.hasPatch = count > 0;
    return b;
  }

  public int old() {
    return old;
  }

  public int rows() {
    return rows;
  }

  public boolean hasPatch() {
    return hasPatch;
  }

  /** One more of an element; returns its number, from {@link #old} on. */
  public int copy(int of) {
    put(of, 1);
    return end();
  }

  /** An element between two others, at the share f of the way from a to b; returns its number. */
  public int between(int a, int b, float f) {
    put(a, 1 - f);
    put(b, f);
    return end();
  }

  /** An element between three others; returns its number. */
  public int between(int a, int b, int c, float wa, float wb, float wc) {
    put(a, wa);
    put(b, wb);
    put(c, wc);
    return end();
  }

  private void put(int of, float w) {
    int at = start[rows];
    int n = at + pending;
    if (n == source.length) {
      source = Arrays.copyOf(source, 2 * n);
      weight = Arrays.copyOf(weight, 2 * n);
    }
    source[n] = of;
    weight[n] = w;
    pending++;
  }

  private int end() {
    if (rows + 2 > start.length) {
      start = Arrays.copyOf(start, 2 * start.length);
    }
    start[rows + 1] = start[rows] + pending;
    pending = 0;
    return old + rows++;
  }

  int from(int row) {
    return start[row];
  }

  int to(int row) {
    return start[row + 1];
  }

  int source(int i) {
    return source[i];
  }

  float weight(int i) {
    return weight[i];
  }
}
