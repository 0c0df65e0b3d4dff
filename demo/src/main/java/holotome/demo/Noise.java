package holotome.demo;

/** Noise from integer hashes: the same on every machine, in any order of evaluation. */
final class Noise {
  private Noise() {}

  static int hash(int a, int b, int c) {
    int h =
        a * 0x9E3779B1
            ^ Integer.rotateLeft(b * 0x85EBCA77, 13)
            ^ Integer.rotateLeft(c * 0xC2B2AE3D, 21);
    h ^= h >>> 15;
    h *= 0x2C1B3C6D;
    h ^= h >>> 12;
    h *= 0x297A2D39;
    return h ^ h >>> 15;
  }

  /** A number from 0 to 1 for three integers. */
  static double uniform(int a, int b, int c) {
    return (hash(a, b, c) >>> 8) / (double) (1 << 24);
  }

  /** A number from -1 to 1, more often near 0: the sum of three uniform ones. */
  static double bell(int a, int b, int c) {
    return (uniform(a, b, c) + uniform(a, b, ~c) + uniform(~a, b, c)) * 2 / 3 - 1;
  }

  /** Smooth noise over space, from -1 to 1, one bump per unit. */
  static double value(double x, double y, double z, int seed) {
    int i = (int) Math.floor(x);
    int j = (int) Math.floor(y);
    int k = (int) Math.floor(z);
    double u = fade(x - i);
    double v = fade(y - j);
    double w = fade(z - k);
    double sum = 0;
    for (int c = 0; c < 8; c++) {
      int a = c & 1;
      int b = c >> 1 & 1;
      int d = c >> 2;
      double weight = (a == 1 ? u : 1 - u) * (b == 1 ? v : 1 - v) * (d == 1 ? w : 1 - w);
      sum += weight * uniform(i + a, (j + b) * 57 + seed, k + d);
    }
    return 2 * sum - 1;
  }

  private static double fade(double t) {
    return t * t * t * (t * (t * 6 - 15) + 10);
  }

  /** Octaves of noise, each at twice the frequency and half the height; about -1 to 1. */
  static double octaves(double x, double y, double z, int seed, int octaves) {
    double sum = 0;
    double height = 0.5;
    double f = 1;
    for (int o = 0; o < octaves; o++) {
      sum += height * value(x * f, y * f, z * f, seed + 31 * o);
      height /= 2;
      f *= 2.03;
    }
    return sum;
  }

  static double smoothStep(double from, double to, double x) {
    double t = Math.clamp((x - from) / (to - from), 0.0, 1.0);
    return t * t * (3 - 2 * t);
  }
}
