package holotome.core.quad;

import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Short lines along the directions of a grid, spread evenly over a surface: how quads would run.
 *
 * @param ends both ends of each, 6 floats a line; two lines cross at each place
 */
public record FlowLines(float[] ends) {
  /** So long is each, in sides. */
  private static final double LENGTH = 0.9;

  /**
   * Chooses places that are no nearer than a side to one another, in the order of the points
   * (Poisson disks by exclusion). O(V), one thread.
   */
  static FlowLines of(FieldLevel level, float[] field, double side, Work work) {
    int n = level.size();
    boolean[] covered = new boolean[n];
    int[] queue = new int[n];
    int[] seen = new int[n];
    Arrays.fill(seen, -1);
    float[] out = new float[120];
    int count = 0;
    for (int v = 0; v < n; v++) {
      if (v % 4096 == 0) {
        work.check();
      }
      if (covered[v]) {
        continue;
      }
      cover(level, v, side, covered, queue, seen);
      if (count + 12 > out.length) {
        out = Arrays.copyOf(out, 2 * out.length);
      }
      count = cross(level, field, v, 0.5 * LENGTH * side, out, count);
    }
    work.advance(1);
    return new FlowLines(Arrays.copyOf(out, count));
  }

  private static void cover(
      FieldLevel level, int from, double side, boolean[] covered, int[] queue, int[] seen) {
    int head = 0;
    int tail = 0;
    queue[tail++] = from;
    seen[from] = from;
    while (head < tail) {
      int v = queue[head++];
      covered[v] = true;
      for (int i = level.start()[v]; i < level.start()[v + 1]; i++) {
        int u = level.near()[i];
        if (seen[u] != from && square(level.at(), from, u) < side * side) {
          seen[u] = from;
          queue[tail++] = u;
        }
      }
    }
  }

  private static double square(float[] p, int a, int b) {
    double x = p[3 * a] - p[3 * b];
    double y = p[3 * a + 1] - p[3 * b + 1];
    double z = p[3 * a + 2] - p[3 * b + 2];
    return x * x + y * y + z * z;
  }

  private static int cross(
      FieldLevel level, float[] field, int v, double half, float[] out, int from) {
    int i = 3 * v;
    float[] n = level.normal();
    float[] p = level.at();
    double[] d = {field[i], field[i + 1], field[i + 2]};
    double[] c = {
      n[i + 1] * d[2] - n[i + 2] * d[1],
      n[i + 2] * d[0] - n[i] * d[2],
      n[i] * d[1] - n[i + 1] * d[0]
    };
    int at = from;
    for (double[] way : new double[][] {d, c}) {
      for (int sign = -1; sign <= 1; sign += 2) {
        for (int k = 0; k < 3; k++) {
          out[at++] = (float) (p[i + k] + sign * half * way[k]);
        }
      }
    }
    return at;
  }
}
