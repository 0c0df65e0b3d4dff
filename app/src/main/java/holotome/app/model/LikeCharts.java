package holotome.app.model;

import holotome.core.mesh.Importance;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import java.util.BitSet;

/** Charts that have something in common with those chosen. */
public enum LikeCharts {
  /** No larger in the texture than the largest chosen. */
  SMALLER,
  /** No smaller than the smallest chosen. */
  LARGER,
  /** Of the same importance as one of them. */
  IMPORTANCE,
  /** Of the same material. */
  MATERIAL,
  /** That lie over one of them, or under it. */
  OVER,
  /** All but those. */
  OTHERS;

  /** By so much sizes may differ and count as the same, for roundings. */
  private static final double ALIKE = 1e-4;

  /**
   * The charts, those chosen among them but for {@link #OTHERS}; none where none is chosen. O(T).
   *
   * @param ofTriangle the chart of each triangle
   */
  BitSet of(Mesh mesh, int[] ofTriangle, int count, BitSet chosen) {
    BitSet out = new BitSet(count);
    if (chosen.isEmpty()) {
      return out;
    }
    if (this == OTHERS) {
      out.set(0, count);
      out.andNot(chosen);
      return out;
    }
    double[] key = keys(mesh, ofTriangle, count);
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (int c = chosen.nextSetBit(0); c >= 0; c = chosen.nextSetBit(c + 1)) {
      low = Math.min(low, key[c]);
      high = Math.max(high, key[c]);
    }
    for (int c = 0; c < count; c++) {
      out.set(
          c,
          switch (this) {
            case SMALLER -> key[c] <= high * (1 + ALIKE);
            case LARGER -> key[c] >= low * (1 - ALIKE);
            case OVER -> key[c] > 0 && isAmong(key[c], key, chosen);
            default -> isAmong(key[c], key, chosen);
          });
    }
    out.or(chosen);
    return out;
  }

  private static boolean isAmong(double value, double[] key, BitSet chosen) {
    for (int c = chosen.nextSetBit(0); c >= 0; c = chosen.nextSetBit(c + 1)) {
      if (key[c] == value) {
        return true;
      }
    }
    return false;
  }

  /** What charts are compared by: their area, or what their first triangle has. */
  private double[] keys(Mesh mesh, int[] ofTriangle, int count) {
    double[] out = new double[count];
    boolean[] isKnown = new boolean[count];
    float[] importance = Importance.of(mesh);
    int[] over = LaidOver.of(mesh);
    float[] p = mesh.uv().coords();
    int[] k = mesh.uv().corners();
    for (int t = 0; t < ofTriangle.length; t++) {
      int c = ofTriangle[t];
      if (this == SMALLER || this == LARGER) {
        int i = 2 * k[3 * t];
        int j = 2 * k[3 * t + 1];
        int l = 2 * k[3 * t + 2];
        double twice =
            ((double) p[j] - p[i]) * ((double) p[l + 1] - p[i + 1])
                - ((double) p[l] - p[i]) * ((double) p[j + 1] - p[i + 1]);
        out[c] += Math.abs(twice) / 2;
      } else if (!isKnown[c]) {
        isKnown[c] = true;
        out[c] =
            switch (this) {
              case IMPORTANCE -> importance == null ? 1 : importance[t];
              case MATERIAL -> mesh.material() == null ? 0 : mesh.material()[t];
              default -> over == null ? 0 : Math.abs(over[t]);
            };
      }
    }
    return out;
  }
}
