package holotome.benchmarks;

import java.util.Arrays;
import java.util.concurrent.Callable;

/** Times something: a few runs to warm up, then the median of some. */
final class Timing {
  private Timing() {}

  /** Seconds, the median of {@code runs} after {@code warmUp} that do not count. */
  static double median(int warmUp, int runs, Callable<?> what) throws Exception {
    return median(warmUp, runs, () -> null, what);
  }

  /** The same, with something to be done before each run that does not count. */
  static double median(int warmUp, int runs, Callable<?> before, Callable<?> what)
      throws Exception {
    for (int i = 0; i < warmUp; i++) {
      before.call();
      what.call();
    }
    double[] seconds = new double[runs];
    for (int i = 0; i < runs; i++) {
      before.call();
      System.gc();
      long start = System.nanoTime();
      what.call();
      seconds[i] = (System.nanoTime() - start) * 1e-9;
    }
    Arrays.sort(seconds);
    return seconds[runs / 2];
  }
}
