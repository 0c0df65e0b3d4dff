package holotome.core.io;

import java.nio.charset.StandardCharsets;

/**
 * Numbers in ASCII text, read from bytes.
 *
 * <p>Up to 15 digits with a power of ten up to 22 are exact by one multiplication or division
 * (Clinger, "How to read floating point numbers accurately", 1990); anything longer goes through
 * {@link Double#parseDouble}. The decimal sign is the point, whatever the locale.
 */
final class AsciiNumber {
  private static final double[] TEN = new double[23];

  static {
    double p = 1;
    for (int i = 0; i < TEN.length; i++) {
      TEN[i] = p;
      p *= 10;
    }
  }

  private AsciiNumber() {}

  /** The number in bytes from (inclusive) to (exclusive); NaN if it is none. */
  static double parse(byte[] b, int from, int to) {
    int i = from;
    boolean negative = false;
    if (i < to && (b[i] == '-' || b[i] == '+')) {
      negative = b[i] == '-';
      i++;
    }
    long mantissa = 0;
    int digits = 0;
    int exponent = 0;
    int first = i;
    while (i < to && b[i] >= '0' && b[i] <= '9') {
      mantissa = mantissa * 10 + (b[i++] - '0');
      digits++;
    }
    if (i < to && b[i] == '.') {
      i++;
      while (i < to && b[i] >= '0' && b[i] <= '9') {
        mantissa = mantissa * 10 + (b[i++] - '0');
        digits++;
        exponent--;
      }
    }
    if (digits == 0) {
      return Double.NaN;
    }
    if (i < to && (b[i] == 'e' || b[i] == 'E')) {
      i++;
      boolean down = false;
      if (i < to && (b[i] == '-' || b[i] == '+')) {
        down = b[i] == '-';
        i++;
      }
      int e = 0;
      int start = i;
      while (i < to && b[i] >= '0' && b[i] <= '9' && e < 10_000) {
        e = e * 10 + (b[i++] - '0');
      }
      if (i == start) {
        return Double.NaN;
      }
      exponent += down ? -e : e;
    }
    if (i != to) {
      return Double.NaN;
    }
    if (digits > 15 || exponent < -22 || exponent > 22) {
      return slow(b, from, to, first);
    }
    double v = exponent < 0 ? mantissa / TEN[-exponent] : mantissa * TEN[exponent];
    return negative ? -v : v;
  }

  private static double slow(byte[] b, int from, int to, int first) {
    if (to - first > 400) {
      return Double.NaN;
    }
    return Double.parseDouble(new String(b, from, to - from, StandardCharsets.US_ASCII));
  }
}
