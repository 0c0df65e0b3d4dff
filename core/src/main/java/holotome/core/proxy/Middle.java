package holotome.core.proxy;

import java.util.Arrays;

/**
 * The mean of numbers without those that lie far from the middle one: farther than three times what
 * the median distance from the median says a standard deviation is, for normal noise (Hampel 1974).
 *
 * @param rms root of the mean square distance from the mean, of those that count
 */
record Middle(double at, double rms) {
  /** One standard deviation of normal noise in median distances. */
  private static final double DEVIATION = 1.4826;

  /** Of at least one number, which are put in order. */
  static Middle of(double[] of) {
    Arrays.sort(of);
    double median = of[of.length / 2];
    double[] off = Arrays.stream(of).map(x -> Math.abs(x - median)).sorted().toArray();
    double far = 3 * DEVIATION * off[off.length / 2];
    double sum = 0;
    double squares = 0;
    int n = 0;
    for (double x : of) {
      if (Math.abs(x - median) <= far) {
        sum += x - median;
        squares += (x - median) * (x - median);
        n++;
      }
    }
    double mean = sum / n;
    return new Middle(median + mean, Math.sqrt(Math.max(0, squares / n - mean * mean)));
  }
}
