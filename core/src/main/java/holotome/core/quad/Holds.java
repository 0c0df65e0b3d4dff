package holotome.core.quad;

import java.util.Arrays;

/**
 * What the fields are held to at points: nothing, a direction, a direction and a line along it that
 * the points of the lattice lie on, or one place.
 *
 * @param kind per point, {@link #FREE} and so on
 * @param along of unit length where there is one, 3 floats each
 * @param through a point of the line, or the place, 3 each
 */
record Holds(byte[] kind, float[] along, float[] through) {
  static final byte FREE = 0;
  static final byte ALONG = 1;
  static final byte LINE = 2;
  static final byte PLACE = 3;

  static Holds none(int n) {
    return new Holds(new byte[n], new float[3 * n], new float[3 * n]);
  }

  boolean turns(int v) {
    return kind[v] == FREE;
  }

  /** Those of fewer points: of the two that one stands for it takes what holds more. */
  Holds coarser(int[] parent, int count, FieldLevel fine) {
    Holds out = none(count);
    int[] of = new int[count];
    Arrays.fill(of, -1);
    for (int v = 0; v < parent.length; v++) {
      int p = parent[v];
      // A corner's place is no place of what stands for it and others: a line is.
      byte k = kind[v] == PLACE ? LINE : kind[v];
      if (k > out.kind[p]) {
        out.kind[p] = k;
        of[p] = v;
      }
    }
    for (int p = 0; p < count; p++) {
      if (of[p] >= 0) {
        System.arraycopy(along, 3 * of[p], out.along, 3 * p, 3);
        System.arraycopy(through, 3 * of[p], out.through, 3 * p, 3);
      }
    }
    return out;
  }
}
