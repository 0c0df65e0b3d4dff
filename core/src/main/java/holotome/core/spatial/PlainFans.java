package holotome.core.spatial;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;

/**
 * The vertices whose triangles lie once all round them seen from some side, and so meet nowhere but
 * in the edges and the vertex they share. On a scan nearly all are such; a pair of triangles that
 * shares one need not be compared.
 *
 * <p>Seen along the sum of its triangles' normals, each triangle of such a fan turns to the left by
 * less than half a turn and goes on where another ends; if a ray from the vertex is passed just
 * once, their wedges part the plane.
 *
 * <p>O(T); 16 bytes a triangle while it is looked.
 */
final class PlainFans {
  private static final int GRAIN = 1 << 13;

  /** Fans of more triangles are not looked at. */
  private static final int MOST = 24;

  /** Turns above so much of the lengths that make them have their sign for certain. */
  private static final double SURE = 1e-10;

  private final float[] p;
  private final int[] tri;
  private final VertexFans fans;

  /** What is known of a fan's triangles: the vertex before and after, and their heights. */
  private static final class Fan {
    final int[] out = new int[MOST];
    final int[] in = new int[MOST];
    final double[] turns = new double[12 * MOST];
  }

  private PlainFans(float[] p, int[] tri, VertexFans fans) {
    this.p = p;
    this.tri = tri;
    this.fans = fans;
  }

  /**
   * A bit per vertex.
   *
   * @param p 3 floats a vertex
   * @param tri 3 vertices a triangle; vertices on the same spot are one
   */
  static long[] of(float[] p, int[] tri, Work work) {
    int n = p.length / 3;
    PlainFans plain = new PlainFans(p, tri, VertexFans.of(n, tri, work.part(0.4, work.label())));
    long[] out = new long[(n + 63) / 64];
    Parallel.range(
        out.length,
        GRAIN / 64,
        work.part(0.6, work.label()),
        (from, to) -> {
          Fan fan = new Fan();
          for (int v = 64 * from; v < Math.min(n, 64 * to); v++) {
            out[v >>> 6] |= plain.is(v, fan) ? 1L << v : 0;
          }
        });
    return out;
  }

  private boolean is(int v, Fan fan) {
    int n = fans.count(v);
    if (n < 3 || n > MOST) {
      return false;
    }
    double vx = p[3 * v];
    double vy = p[3 * v + 1];
    double vz = p[3 * v + 2];
    double[] e = fan.turns;
    double dx = 0;
    double dy = 0;
    double dz = 0;
    for (int i = 0; i < n; i++) {
      int t = 3 * fans.triangles()[fans.start()[v] + i];
      int k = tri[t] == v ? 0 : tri[t + 1] == v ? 1 : 2;
      int a = tri[t + (k + 1) % 3];
      int b = tri[t + (k + 2) % 3];
      fan.out[i] = a;
      fan.in[i] = b;
      int o = 12 * i;
      double ax = p[3 * a] - vx;
      double ay = p[3 * a + 1] - vy;
      double az = p[3 * a + 2] - vz;
      double bx = p[3 * b] - vx;
      double by = p[3 * b + 1] - vy;
      double bz = p[3 * b + 2] - vz;
      e[o] = ay * bz - az * by;
      e[o + 1] = az * bx - ax * bz;
      e[o + 2] = ax * by - ay * bx;
      e[o + 3] = Math.abs(ax) + Math.abs(ay) + Math.abs(az);
      e[o + 4] = Math.abs(bx) + Math.abs(by) + Math.abs(bz);
      e[o + 5] = ax;
      e[o + 6] = ay;
      e[o + 7] = az;
      e[o + 8] = bx;
      e[o + 9] = by;
      e[o + 10] = bz;
      dx += e[o];
      dy += e[o + 1];
      dz += e[o + 2];
    }
    double length = Math.abs(dx) + Math.abs(dy) + Math.abs(dz);
    for (int i = 0; i < n; i++) {
      int o = 12 * i;
      double turn = e[o] * dx + e[o + 1] * dy + e[o + 2] * dz;
      if (!(turn > SURE * e[o + 3] * e[o + 4] * length)) {
        return false;
      }
    }
    return goesOn(fan, n) && passesOnce(e, n, dx, dy, dz);
  }

  /** Whether each triangle ends where just one other begins. */
  private static boolean goesOn(Fan fan, int n) {
    for (int i = 0; i < n; i++) {
      int follow = 0;
      for (int j = 0; j < n; j++) {
        follow += fan.out[j] == fan.in[i] ? 1 : 0;
        if (j != i && fan.out[j] == fan.out[i]) {
          return false;
        }
      }
      if (follow != 1) {
        return false;
      }
    }
    return true;
  }

  /** Whether a ray across the way that is looked along is passed by one triangle. */
  private static boolean passesOnce(double[] e, int n, double dx, double dy, double dz) {
    // A direction across: that of two axes in which the way is longest.
    double ux = 0;
    double uy = 0;
    double uz = 0;
    if (Math.abs(dx) > Math.abs(dz)) {
      ux = -dy;
      uy = dx;
    } else {
      uy = -dz;
      uz = dy;
    }
    int passes = 0;
    for (int i = 0; i < n; i++) {
      int o = 12 * i;
      boolean below = e[o + 5] * ux + e[o + 6] * uy + e[o + 7] * uz < 0;
      boolean above = e[o + 8] * ux + e[o + 9] * uy + e[o + 10] * uz >= 0;
      passes += below && above ? 1 : 0;
    }
    return passes == 1;
  }
}
