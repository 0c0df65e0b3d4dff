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
            for (int v = from; v < to; v++) {
              move(v, p, q, corners, fans, moves[v] ? by : 0);
            }
          });
      now = q;
      next = p;
    }
    return now;
  }

  private static void move(int v, float[] p, float[] q, int[] corners, VertexFans fans, double by) {
    int first = fans.start()[v];
    int last = fans.start()[v + 1];
    double x = 0;
    double y = 0;
    double z = 0;
    for (int i = first; i < last && by != 0; i++) {
      int t = 3 * fans.triangles()[i];
      for (int k = 0; k < 3; k++) {
        int u = corners[t + k];
        if (u != v) {
          x += p[3 * u];
          y += p[3 * u + 1];
          z += p[3 * u + 2];
        }
      }
    }
    boolean moves = by != 0 && last > first;
    double n = moves ? 1.0 / (2 * (last - first)) : 0;
    q[3 * v] = (float) (moves ? p[3 * v] + by * (x * n - p[3 * v]) : p[3 * v]);
    q[3 * v + 1] = (float) (moves ? p[3 * v + 1] + by * (y * n - p[3 * v + 1]) : p[3 * v + 1]);
    q[3 * v + 2] = (float) (moves ? p[3 * v + 2] + by * (z * n - p[3 * v + 2]) : p[3 * v + 2]);
  }
}
