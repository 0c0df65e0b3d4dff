package holotome.core.geometry;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/** Applies similarities to whole arrays of positions, computed in double precision. */
public final class Placing {
  private static final int GRAIN = 1 << 17;

  private Placing() {}

  /** The positions (3 floats per vertex) after the similarity, each rounded once. */
  public static float[] apply(float[] xyz, Similarity s) {
    if (s.equals(Similarity.IDENTITY)) {
      return xyz;
    }
    float[] out = new float[xyz.length];
    double[] m = matrix(s);
    Parallel.range(
        xyz.length / 3,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int i = 3 * from; i < 3 * to; i += 3) {
            double x = xyz[i];
            double y = xyz[i + 1];
            double z = xyz[i + 2];
            out[i] = (float) (m[0] * x + m[1] * y + m[2] * z + m[3]);
            out[i + 1] = (float) (m[4] * x + m[5] * y + m[6] * z + m[7]);
            out[i + 2] = (float) (m[8] * x + m[9] * y + m[10] * z + m[11]);
          }
        });
    return out;
  }

  /** The box around the positions after the similarity. */
  public static Box bounds(float[] xyz, Similarity s) {
    return bounds(xyz, null, s);
  }

  /**
   * The box around some positions after the similarity.
   *
   * @param without points that do not count; null for none
   */
  public static Box bounds(float[] xyz, BitSet without, Similarity s) {
    int n = xyz.length / 3;
    double[] m = matrix(s);
    Box[] parts = new Box[Parallel.chunks(n, GRAIN)];
    Parallel.chunked(
        n,
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          double[] lo = {1e300, 1e300, 1e300};
          double[] hi = {-1e300, -1e300, -1e300};
          for (int i = 3 * from; i < 3 * to; i += 3) {
            if (without != null && without.get(i / 3)) {
              continue;
            }
            for (int k = 0; k < 3; k++) {
              double v =
                  m[4 * k] * xyz[i]
                      + m[4 * k + 1] * xyz[i + 1]
                      + m[4 * k + 2] * xyz[i + 2]
                      + m[4 * k + 3];
              lo[k] = Math.min(lo[k], v);
              hi[k] = Math.max(hi[k], v);
            }
          }
          parts[c] = new Box(lo[0], lo[1], lo[2], hi[0], hi[1], hi[2]);
        });
    Box all = Box.EMPTY;
    for (Box b : parts) {
      all = all.union(b);
    }
    return all;
  }

  /** The similarity as 3 rows of 4. */
  public static double[] matrix(Similarity s) {
    double[] r = s.rotation();
    double[] t = s.shift();
    double k = s.scale();
    return new double[] {
      k * r[0], k * r[1], k * r[2], t[0],
      k * r[3], k * r[4], k * r[5], t[1],
      k * r[6], k * r[7], k * r[8], t[2]
    };
  }

  /** A placing followed by a 4 x 4 matrix by rows, as one such matrix. */
  public static double[] then(Similarity place, double[] matrix) {
    double[] p = matrix(place);
    double[] m = new double[16];
    for (int i = 0; i < 4; i++) {
      for (int j = 0; j < 4; j++) {
        double s = j == 3 ? matrix[4 * i + 3] : 0;
        for (int k = 0; k < 3; k++) {
          s += matrix[4 * i + k] * p[4 * k + j];
        }
        m[4 * i + j] = s;
      }
    }
    return m;
  }
}
