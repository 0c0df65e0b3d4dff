package holotome.core.attribute;

import java.util.Arrays;

/**
 * Triangles of a new mesh that are not simply one of the old: each lies within one old triangle,
 * with its corners at stated weights of that one's, or belongs to a patch. In the order of their
 * new numbers. 12 bytes a triangle, and 36 more unless it belongs to a patch.
 */
public final class Redrawn {
  /** Instead of an old triangle: made in a patch. */
  public static final int PATCH = -1;

  private int[] triangle = new int[16];
  private int[] source = new int[16];
  private int[] at = new int[16];
  private float[] weights = new float[9 * 16];
  private int size;
  private int weighted;
  private int patches;

  /** None yet. */
  public Redrawn() {
    // Added one by one.
  }

  /** Triangles {@code from ... to - 1} of a patch. */
  public static Redrawn patch(int from, int to) {
    Redrawn r = new Redrawn();
    r.triangle = new int[to - from];
    r.source = new int[to - from];
    r.at = new int[to - from];
    for (int i = 0; i < to - from; i++) {
      r.triangle[i] = from + i;
    }
    Arrays.fill(r.source, PATCH);
    r.size = to - from;
    r.patches = r.size;
    return r;
  }

  private void room() {
    if (size == triangle.length) {
      triangle = Arrays.copyOf(triangle, 2 * size);
      source = Arrays.copyOf(source, 2 * size);
      at = Arrays.copyOf(at, 2 * size);
    }
  }

  /**
   * A triangle within an old one.
   *
   * @param number of the new triangle, above those before
   * @param of the old triangle
   * @param nine weights of the old triangle's three corners, for each corner in turn; copied
   */
  public void add(int number, int of, float[] nine) {
    if (size > 0 && triangle[size - 1] >= number) {
      throw new IllegalArgumentException("redrawn triangles come in rising order");
    }
    room();
    if (9 * weighted + 9 > weights.length) {
      weights = Arrays.copyOf(weights, 2 * weights.length);
    }
    System.arraycopy(nine, 0, weights, 9 * weighted, 9);
    triangle[size] = number;
    source[size] = of;
    at[size++] = weighted++;
  }

  public int size() {
    return size;
  }

  /** How many belong to a patch. */
  public int patches() {
    return patches;
  }

  /** The new number of the i-th. */
  public int triangle(int i) {
    return triangle[i];
  }

  /** The old triangle the i-th lies in, or {@link #PATCH}. */
  public int source(int i) {
    return source[i];
  }

  /** The weight that corner k of the i-th gives to corner j of the old triangle. */
  float weight(int i, int k, int j) {
    return weights[9 * at[i] + 3 * k + j];
  }
}
