package holotome.core.mend;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;

/**
 * Smooths everything alike without shrinking it: each round moves the vertices towards the mean of
 * their neighbours and a little farther back again (Taubin 1995, "A signal processing approach to
 * fair surface design", with the factors 0.5 and -0.5263, a pass band of 0.1). Vertices on borders
 * stay, as do those that nothing goes all round of.
 *
 * <p>O(rounds x T) on all cores, 12 bytes a vertex.
 */
final class PlainSmoothing {
  private static final double IN = 0.5;
  private static final double OUT = -0.5263;
  private static final int GRAIN = 1 << 14;

  private PlainSmoothing() {}

  /**
   * @param moves whether each vertex does
   */
  static float[] run(
      float[] xyz, int[] corners, VertexFans fans, boolean[] moves, int rounds, Work work) {
    float[] now = xyz.clone();
    float[] next = new float[xyz.length];
    for (int round = 0; round < 2 * rounds; round++) {
      double by = (round & 1) == 0 ? IN : OUT;
      float[] p = now;
      float[] q = next;
      Parallel.range(
          xyz.length / 3,
          GRAIN,
          work.part(0.5 / rounds, ""),
          (from, to) -> {
            double[] sum = new double[3];
            for (int v = from; v < to; v++) {
              move(v, p, q, corners, fans, moves[v] ? by : 0, sum);
            }
          });
      now = q;
      next = p;
    }
    return now;
  }

  private static void move(
      int v, float[] p, float[] q, int[] corners, VertexFans fans, double by, double[] sum) {
    int n = by == 0 ? 0 : fans.around(v, corners, p, sum);
    for (int d = 0; d < 3; d++) {
      float at = p[3 * v + d];
      q[3 * v + d] = (float) (n > 0 ? at + by * (sum[d] / n - at) : at);
    }
  }
}
