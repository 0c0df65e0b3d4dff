package holotome.core.swatch;

import holotome.core.task.Work;
import java.util.Arrays;

/**
 * How the pattern of a piece of ground lies, as courses of paving do: where lines run through it,
 * the means along lines in their direction differ most (the projections of Radon 1917). Looked for
 * in many small discs first, whose lines need not go on in each other, then closely in one large
 * one. O(cells x angles).
 *
 * @param angle counter-clockwise, in radians, from 0 to a quarter of a turn
 * @param strength how many times more the means differ than at the usual angle
 */
record GroundPattern(double angle, double strength) {
  /** Radius of the small discs, in cells, and how many there are each way. */
  private static final int SMALL = 40;

  private static final int DISCS = 5;

  /** Steps to a degree, and how many degrees are looked at closely to both sides. */
  private static final int FINE = 20;

  private static final int CLOSELY = 2;

  /** Looks at ground of so many columns and rows. */
  static GroundPattern of(GroundTraits traits, int columns, int rows, Work work) {
    int radius = Math.min(SMALL, Math.min(columns, rows) / 2 - 1);
    double[] sums = new double[90];
    for (int j = 0; j < DISCS; j++) {
      for (int i = 0; i < DISCS; i++) {
        work.check();
        int x = radius + (columns - 1 - 2 * radius) * i / (DISCS - 1);
        int y = radius + (rows - 1 - 2 * radius) * j / (DISCS - 1);
        Disc disc = new Disc(traits, columns, x, y, radius);
        for (int k = 0; k < sums.length; k++) {
          sums[k] += disc.differing(Math.toRadians(k));
        }
      }
    }
    work.advance(0.5);
    int coarse = 0;
    for (int k = 0; k < sums.length; k++) {
      coarse = sums[k] > sums[coarse] ? k : coarse;
    }
    double[] sorted = sums.clone();
    Arrays.sort(sorted);
    double usual = sorted[sorted.length / 2];
    Disc all = new Disc(traits, columns, columns / 2, rows / 2, Math.min(columns, rows) / 2 - 1);
    double angle = coarse;
    double most = -1;
    for (int k = -CLOSELY * FINE; k <= CLOSELY * FINE; k++) {
      double a = coarse + (double) k / FINE;
      double d = all.differing(Math.toRadians(a));
      if (d > most) {
        most = d;
        angle = a;
      }
    }
    work.advance(0.5);
    return new GroundPattern(Math.toRadians(angle), usual > 0 ? sums[coarse] / usual : 0);
  }

  /** The cells of ground within a circle. */
  private static final class Disc {
    private final float[] x;
    private final float[] y;
    private final float[][] values = new float[2][];
    private final int n;
    private final int radius;

    Disc(GroundTraits traits, int columns, int middleX, int middleY, int radius) {
      this.radius = radius;
      int most = (2 * radius + 1) * (2 * radius + 1);
      x = new float[most];
      y = new float[most];
      values[0] = new float[most];
      values[1] = new float[most];
      int count = 0;
      for (int dy = -radius; dy <= radius; dy++) {
        for (int dx = -radius; dx <= radius; dx++) {
          int at = (middleY + dy) * columns + middleX + dx;
          if (dx * dx + dy * dy <= radius * radius && traits.isGround(at)) {
            x[count] = dx;
            y[count] = dy;
            values[0][count] = traits.values[GroundTraits.LIGHT][at];
            values[1][count++] = traits.values[GroundTraits.HEIGHT][at];
          }
        }
      }
      n = count;
    }

    /** By how much the means of lines along an angle, and across it, differ. */
    double differing(double angle) {
      float c = (float) Math.cos(angle);
      float s = (float) Math.sin(angle);
      int wide = 2 * radius + 3;
      double sum = 0;
      for (float[] v : values) {
        double[] along = new double[wide];
        double[] across = new double[wide];
        int[] countAlong = new int[wide];
        int[] countAcross = new int[wide];
        for (int i = 0; i < n; i++) {
          int a = Math.round(c * x[i] + s * y[i]) + radius + 1;
          int b = Math.round(c * y[i] - s * x[i]) + radius + 1;
          along[b] += v[i];
          countAlong[b]++;
          across[a] += v[i];
          countAcross[a]++;
        }
        sum += spread(along, countAlong) + spread(across, countAcross);
      }
      return sum;
    }

    /** The variance of means, each as heavy as what it is of. */
    private double spread(double[] sums, int[] counts) {
      double square = 0;
      double all = 0;
      for (int i = 0; i < sums.length; i++) {
        if (counts[i] > 0) {
          square += sums[i] * sums[i] / counts[i];
          all += sums[i];
        }
      }
      return n == 0 ? 0 : square / n - all / n * (all / n);
    }
  }
}
