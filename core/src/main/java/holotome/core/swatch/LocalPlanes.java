package holotome.core.swatch;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * A smooth base through heights: at each sample the plane of least squares through those around it,
 * weighted by a Gaussian, and weighted anew by how far they lie from what came of it, so that
 * blades of grass and deep joints do not draw it to them (robust locally weighted regression,
 * Cleveland 1979). A plane comes back as it is, beside holes and at the rim too; of a wave as long
 * as the reach half is left.
 *
 * <p>The sums are separable: O(samples x width of the Gaussian) for each of some four rounds.
 */
final class LocalPlanes {
  /** Standard deviation of the Gaussian to the wave of which it leaves a half. */
  static final double SIGMA = Math.sqrt(2 * Math.log(2)) / (2 * Math.PI);

  /** So many standard deviations it reaches. */
  private static final double WIDE = 3;

  private static final int ROUNDS = 3;

  /** Heights so many times the median distance away count for nothing (Cleveland 1979). */
  private static final double FAR = 6;

  private static final int GRAIN = 16;

  /** Sums: weight, x, y, xx, xy, yy, z, xz, yz. */
  private static final int SUMS = 9;

  private final HeightField field;
  private final double[] gaussX;
  private final double[] gaussY;

  private LocalPlanes(HeightField field, double sigma) {
    this.field = field;
    gaussX = gauss(sigma / field.step());
    gaussY = gauss(sigma / field.stepUp());
  }

  /** How far beyond the sides samples matter, for a reach. */
  static double margin(double reach) {
    return WIDE * SIGMA * reach;
  }

  private static double[] gauss(double sigma) {
    int n = (int) Math.ceil(WIDE * sigma);
    double[] out = new double[n + 1];
    for (int i = 0; i <= n; i++) {
      out[i] = Math.exp(-0.5 * i * i / (sigma * sigma));
    }
    return out;
  }

  /**
   * The base.
   *
   * @param reach the wave of which half is taken, in base units
   * @return of the same grid, everywhere a number; null where there are no heights at all
   */
  static HeightField of(HeightField field, double reach, Work work) {
    LocalPlanes planes = new LocalPlanes(field, SIGMA * reach);
    int n = field.heights().length;
    float[] weights = new float[n];
    boolean isAny = false;
    for (int i = 0; i < n; i++) {
      weights[i] = Float.isNaN(field.heights()[i]) ? 0 : 1;
      isAny |= weights[i] > 0;
    }
    if (!isAny) {
      return null;
    }
    float[] base = null;
    for (int round = 0; round <= ROUNDS; round++) {
      base = planes.fitted(weights, work.part(1.0 / (ROUNDS + 1), CoreWords.of("settle.base")));
      if (round < ROUNDS) {
        reweigh(field.heights(), base, weights);
      }
    }
    fill(base, field.columns());
    return field.with(base);
  }

  /** Tukey's biweight of what lies off the base. */
  private static void reweigh(float[] heights, float[] base, float[] weights) {
    float[] off = new float[heights.length];
    int n = 0;
    for (int i = 0; i < heights.length; i++) {
      if (!Float.isNaN(heights[i]) && !Float.isNaN(base[i])) {
        off[n++] = Math.abs(heights[i] - base[i]);
      }
    }
    Arrays.sort(off, 0, n);
    double far = FAR * (n == 0 ? 0 : off[n / 2]);
    for (int i = 0; i < heights.length; i++) {
      if (!Float.isNaN(heights[i]) && !Float.isNaN(base[i]) && far > 0) {
        double d = (heights[i] - base[i]) / far;
        weights[i] = (float) (Math.abs(d) < 1 ? (1 - d * d) * (1 - d * d) : 0);
      }
    }
  }

  /** The middle of the plane at each sample; NaN where nothing is near. */
  private float[] fitted(float[] weights, Work work) {
    int columns = field.columns();
    int rows = field.rows();
    float[] out = new float[weights.length];
    double[] across = new double[SUMS * weights.length];
    Parallel.range(
        rows,
        GRAIN,
        work.part(0.4, work.label()),
        (from, to) -> {
          for (int j = from; j < to; j++) {
            for (int i = 0; i < columns; i++) {
              acrossSums(weights, i, j, across);
            }
          }
        });
    Parallel.range(
        rows,
        GRAIN,
        work.part(0.6, work.label()),
        (from, to) -> {
          double[] s = new double[SUMS];
          for (int j = from; j < to; j++) {
            for (int i = 0; i < columns; i++) {
              upSums(across, i, j, s);
              out[j * columns + i] = (float) middle(s);
            }
          }
        });
    return out;
  }

  /** Sums over a row about a sample: of weight, x, xx, z, xz; the others come of rows. */
  private void acrossSums(float[] weights, int i, int j, double[] out) {
    int columns = field.columns();
    int reach = gaussX.length - 1;
    int at = SUMS * (j * columns + i);
    for (int k = Math.max(0, i - reach); k <= Math.min(columns - 1, i + reach); k++) {
      double w = weights[j * columns + k];
      if (w > 0) {
        w *= gaussX[Math.abs(k - i)];
        double x = (k - i) * field.step();
        double z = field.heights()[j * columns + k];
        out[at] += w;
        out[at + 1] += w * x;
        out[at + 3] += w * x * x;
        out[at + 6] += w * z;
        out[at + 7] += w * x * z;
      }
    }
  }

  private void upSums(double[] across, int i, int j, double[] s) {
    int columns = field.columns();
    int reach = gaussY.length - 1;
    Arrays.fill(s, 0);
    for (int k = Math.max(0, j - reach); k <= Math.min(field.rows() - 1, j + reach); k++) {
      double w = gaussY[Math.abs(k - j)];
      double y = (k - j) * field.stepUp();
      int at = SUMS * (k * columns + i);
      s[0] += w * across[at];
      s[1] += w * across[at + 1];
      s[2] += w * y * across[at];
      s[3] += w * across[at + 3];
      s[4] += w * y * across[at + 1];
      s[5] += w * y * y * across[at];
      s[6] += w * across[at + 6];
      s[7] += w * across[at + 7];
      s[8] += w * y * across[at + 6];
    }
  }

  /** The height of the plane of least squares at nought, of the sums about it. */
  private static double middle(double[] s) {
    if (!(s[0] > 1e-9)) {
      return Double.NaN;
    }
    // About the mean, so that few or aligned samples leave the mean alone.
    double mx = s[1] / s[0];
    double my = s[2] / s[0];
    double mz = s[6] / s[0];
    double xx = s[3] / s[0] - mx * mx;
    double xy = s[4] / s[0] - mx * my;
    double yy = s[5] / s[0] - my * my;
    double xz = s[7] / s[0] - mx * mz;
    double yz = s[8] / s[0] - my * mz;
    double det = xx * yy - xy * xy;
    if (!(det > 1e-9 * (xx + yy) * (xx + yy))) {
      return mz;
    }
    double a = (xz * yy - yz * xy) / det;
    double b = (yz * xx - xz * xy) / det;
    return mz - a * mx - b * my;
  }

  /** Gives samples far from all heights those of the nearest found ring by ring. */
  private static void fill(float[] base, int columns) {
    int rows = base.length / columns;
    boolean isMore = true;
    while (isMore) {
      isMore = false;
      float[] before = base.clone();
      for (int i = 0; i < base.length; i++) {
        if (Float.isNaN(before[i])) {
          base[i] = mean(before, i % columns, i / columns, columns, rows);
          isMore = true;
        }
      }
    }
  }

  private static float mean(float[] of, int x, int y, int columns, int rows) {
    double sum = 0;
    int n = 0;
    for (int j = Math.max(0, y - 1); j <= Math.min(rows - 1, y + 1); j++) {
      for (int i = Math.max(0, x - 1); i <= Math.min(columns - 1, x + 1); i++) {
        if (!Float.isNaN(of[j * columns + i])) {
          sum += of[j * columns + i];
          n++;
        }
      }
    }
    return n == 0 ? Float.NaN : (float) (sum / n);
  }
}
