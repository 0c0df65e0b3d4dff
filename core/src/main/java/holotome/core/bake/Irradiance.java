package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * The light of a capture as it falls on surfaces of each direction, of second order: nine numbers a
 * colour (Ramamoorthi and Hanrahan, "An efficient representation for irradiance environment maps",
 * 2001), with how far it is held off in hollows. Fitted to the colours of a map against its normals
 * and its occlusion by least squares, those that lie far off counting less from round to round
 * (Holland and Welsch, "Robust regression using iteratively reweighted least-squares", 1977): what
 * the surface itself is coloured like is taken to be spread over its directions evenly.
 */
final class Irradiance {
  private static final int TERMS = 9;
  private static final int ROUNDS = 8;

  /** How many texels are looked at, at most. */
  private static final int SAMPLES = 200_000;

  private static final int HOLLOW_STEPS = 10;

  /** Light is nowhere taken to be less than this share of its mean. */
  private static final double LEAST = 0.08;

  private final double[][] terms = new double[3][];
  private final double[] mean = new double[3];

  /** How far occlusion holds the light off: 0 not at all, 1 by its full share. */
  private double hollow;

  private Irradiance() {}

  /** The nine functions of a unit direction, without their constant factors. */
  private static void basis(double x, double y, double z, double[] out) {
    out[0] = 1;
    out[1] = x;
    out[2] = y;
    out[3] = z;
    out[4] = x * y;
    out[5] = y * z;
    out[6] = x * z;
    out[7] = x * x - y * y;
    out[8] = 3 * z * z - 1;
  }

  /**
   * Fits.
   *
   * @param normals in base coordinates, as {@code MapKind.OBJECT_NORMAL} has them
   * @param occlusion null for none
   * @param covered the texels that count
   */
  static Irradiance fitted(
      Image colour, Image normals, Image occlusion, BitSet covered, Work work) {
    int n = Math.min(SAMPLES, covered.cardinality());
    Samples s = new Samples(colour, normals, occlusion, covered, n);
    Irradiance best = null;
    double least = Double.POSITIVE_INFINITY;
    int steps = occlusion == null ? 0 : HOLLOW_STEPS;
    for (int h = 0; h <= steps; h++) {
      work.check();
      Irradiance now = new Irradiance();
      now.hollow = h / (double) HOLLOW_STEPS;
      double error = 0;
      for (int channel = 0; channel < 3; channel++) {
        error += now.fit(s, channel, work);
      }
      if (error < least) {
        least = error;
        best = now;
      }
      work.advance(1.0 / (steps + 1));
    }
    return best;
  }

  /** What is fitted to: per texel nine terms, the share of the sky, and three colours as light. */
  private static final class Samples {
    final int count;
    final double[] basis;
    final double[] open;
    final double[] light;

    Samples(Image colour, Image normals, Image occlusion, BitSet covered, int n) {
      count = n;
      basis = new double[TERMS * n];
      open = new double[n];
      light = new double[3 * n];
      double[] b = new double[TERMS];
      double[] d = new double[3];
      long all = covered.cardinality();
      int at = covered.nextSetBit(0);
      long seen = 0;
      int width = colour.width();
      for (int i = 0; i < n; i++) {
        // Evenly spread, so that the same maps give the same light.
        long wanted = i * all / n;
        while (seen < wanted) {
          at = covered.nextSetBit(at + 1);
          seen++;
        }
        int x = at % width;
        int y = at / width;
        direction(normals, x, y, d);
        basis(d[0], d[1], d[2], b);
        System.arraycopy(b, 0, basis, TERMS * i, TERMS);
        open[i] = occlusion == null ? 1 : occlusion.value(x, y, 0);
        for (int c = 0; c < 3; c++) {
          light[3 * i + c] = colour.light(x, y, c);
        }
      }
    }
  }

  private static void direction(Image normals, int x, int y, double[] out) {
    double square = 0;
    for (int k = 0; k < 3; k++) {
      out[k] = 2 * normals.value(x, y, k) - 1;
      square += out[k] * out[k];
    }
    double f = square > 0 ? 1 / Math.sqrt(square) : 0;
    for (int k = 0; k < 3; k++) {
      out[k] *= f;
    }
  }

  private double held(double open) {
    return 1 - hollow * (1 - open);
  }

  /** Fits one colour; returns the mean error, beside the mean light. */
  private double fit(Samples s, int channel, Work work) {
    double[] weight = new double[s.count];
    java.util.Arrays.fill(weight, 1);
    double[] residual = new double[s.count];
    double[] lit = new double[s.count];
    double[] found = new double[TERMS];
    double spread = 0;
    for (int round = 0; round < ROUNDS; round++) {
      work.check();
      double[][] m = new double[TERMS][TERMS + 1];
      for (int i = 0; i < s.count; i++) {
        double o = held(s.open[i]);
        double w = weight[i] * o;
        for (int a = 0; a < TERMS; a++) {
          double wa = w * s.basis[TERMS * i + a];
          for (int b = a; b < TERMS; b++) {
            m[a][b] += wa * o * s.basis[TERMS * i + b];
          }
          m[a][TERMS] += wa * s.light[3 * i + channel];
        }
      }
      found = solved(m);
      double sum = 0;
      double whole = 0;
      for (int i = 0; i < s.count; i++) {
        double e = 0;
        for (int a = 0; a < TERMS; a++) {
          e += found[a] * s.basis[TERMS * i + a];
        }
        lit[i] = e * held(s.open[i]);
        whole += lit[i] / s.count;
      }
      // Beside the light there: where it is dark, a little too much counts as much.
      for (int i = 0; i < s.count; i++) {
        lit[i] = Math.max(LEAST * whole, lit[i]);
        residual[i] = Math.abs(s.light[3 * i + channel] / lit[i] - 1);
        sum += residual[i];
      }
      spread = sum / s.count;
      for (int i = 0; i < s.count; i++) {
        double r = residual[i] / Math.max(1e-9, 2 * spread);
        weight[i] = whole * whole / (lit[i] * lit[i] * (1 + r * r));
      }
    }
    terms[channel] = found;
    double sum = 0;
    for (int i = 0; i < s.count; i++) {
      for (int a = 0; a < TERMS; a++) {
        sum += found[a] * s.basis[TERMS * i + a];
      }
    }
    mean[channel] = Math.max(1e-6, sum / s.count);
    return spread;
  }

  /**
   * By elimination; the diagonal is raised a little, so that directions that are missing do no
   * harm.
   */
  private static double[] solved(double[][] m) {
    double raise = 1e-6 * m[0][0];
    for (int a = 0; a < TERMS; a++) {
      m[a][a] += raise;
      for (int b = 0; b < a; b++) {
        m[a][b] = m[b][a];
      }
    }
    for (int a = 0; a < TERMS; a++) {
      for (int row = a + 1; row < TERMS; row++) {
        double f = m[row][a] / m[a][a];
        for (int c = a; c <= TERMS; c++) {
          m[row][c] -= f * m[a][c];
        }
      }
    }
    double[] x = new double[TERMS];
    for (int a = TERMS - 1; a >= 0; a--) {
      double v = m[a][TERMS];
      for (int c = a + 1; c < TERMS; c++) {
        v -= m[a][c] * x[c];
      }
      x[a] = v / m[a][a];
    }
    return x;
  }

  /** How far light is held off in hollows, as it was found: 0 to 1. */
  double hollow() {
    return hollow;
  }

  /** The strongest light of all directions beside the weakest, in the mean of the colours. */
  double contrast() {
    double most = 0;
    double least = Double.POSITIVE_INFINITY;
    double[] b = new double[TERMS];
    for (int i = 0; i < 1000; i++) {
      // Swinbank and Purser, "Fibonacci grids", 2006.
      double z = 1 - (2 * i + 1) / 1000.0;
      double r = Math.sqrt(1 - z * z);
      double turn = Math.PI * (3 - Math.sqrt(5)) * i;
      basis(r * Math.cos(turn), r * Math.sin(turn), z, b);
      double sum = 0;
      for (int c = 0; c < 3; c++) {
        sum += beside(c, b) / 3;
      }
      most = Math.max(most, sum);
      least = Math.min(least, sum);
    }
    return most / least;
  }

  /** The light of a direction beside the mean one. */
  private double beside(int channel, double[] basis) {
    double e = 0;
    for (int a = 0; a < TERMS; a++) {
      e += terms[channel][a] * basis[a];
    }
    return Math.max(LEAST, e / mean[channel]);
  }

  /**
   * The colours without it.
   *
   * @param strength how much of it is taken out, 0 to 1
   * @param lift how much of what hollows lost is given back, 0 to 1
   */
  Image without(
      Image colour, Image normals, Image occlusion, double strength, double lift, Work work) {
    Image to =
        Image.blank(
            colour.width(), colour.height(), colour.channels(), colour.sample(), colour.space());
    return to.filled(
        (x, y, out) -> {
          double[] d = new double[3];
          double[] b = new double[TERMS];
          direction(normals, x, y, d);
          basis(d[0], d[1], d[2], b);
          double open = occlusion == null ? 1 : occlusion.value(x, y, 0);
          double held = Math.pow(Math.max(LEAST, held(open)), -lift);
          for (int c = 0; c < 3; c++) {
            double light = colour.light(x, y, c) * held * Math.pow(beside(c, b), -strength);
            out[c] = to.storedOfLight(light, c);
          }
        },
        work);
  }
}
