package holotome.core.trim;

import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * How much of what is seen of a mesh from outside are the backs of its triangles.
 *
 * <p>The mesh is drawn without perspective from 14 sides (the faces and corners of a cube) into
 * small depth buffers. A closed, well oriented mesh shows no back; one that is inside out nothing
 * else; an open scan shows its backs from below. Of a large mesh, whose triangles are smaller than
 * pixels, every k-th is drawn as a point: several to each pixel of the front. O(T) per side, sides
 * in parallel.
 */
final class OutsideView {
  private static final int SIZE = 160;
  private static final int MOST = 1_500_000;
  private static final int POINTS = 500_000;
  private static final double C = 1 / Math.sqrt(3);
  private static final double[][] SIDES = {
    {1, 0, 0},
    {-1, 0, 0},
    {0, 1, 0},
    {0, -1, 0},
    {0, 0, 1},
    {0, 0, -1},
    {C, C, C},
    {-C, C, C},
    {C, -C, C},
    {-C, -C, C},
    {C, C, -C},
    {-C, C, -C},
    {C, -C, -C},
    {-C, -C, -C}
  };

  private OutsideView() {}

  /** The share of pixels that show a back, 0 to 1; 0 for a mesh with nothing to see. */
  static double backs(Mesh mesh, Work work) {
    int n = mesh.triangleCount();
    return backs(mesh, n > MOST ? 1 + n / POINTS : 1, work);
  }

  /**
   * @param stride 1 for all triangles; else every so many-th is drawn as a point
   */
  static double backs(Mesh mesh, int stride, Work work) {
    long[] seen = new long[SIDES.length];
    long[] back = new long[SIDES.length];
    Parallel.range(
        SIDES.length,
        1,
        work,
        (from, to) -> {
          for (int i = from; i < to; i++) {
            byte[] face = draw(mesh, SIDES[i], stride, work);
            for (byte f : face) {
              seen[i] += f == 0 ? 0 : 1;
              back[i] += f < 0 ? 1 : 0;
            }
          }
        });
    long all = Arrays.stream(seen).sum();
    return all == 0 ? 0 : (double) Arrays.stream(back).sum() / all;
  }

  /** Per pixel 1 for a front, -1 for a back, 0 for nothing; {@code d} points to the viewer. */
  private static byte[] draw(Mesh mesh, double[] d, int stride, Work work) {
    double[] u = holotome.core.geometry.Vec.perpendicular(d);
    double[] w = holotome.core.geometry.Vec.cross(d, u);
    Box box = mesh.bounds();
    double[] c = box.centre();
    double scale = SIZE / Math.max(box.diagonal(), Double.MIN_NORMAL);
    float[] depth = new float[SIZE * SIZE];
    Arrays.fill(depth, Float.NEGATIVE_INFINITY);
    byte[] face = new byte[SIZE * SIZE];
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    int n = mesh.triangleCount();
    double[] q = new double[9];
    for (int t = 0; t < n; t += stride) {
      if (t % (stride << 16) == 0) {
        work.check();
      }
      for (int k = 0; k < 3; k++) {
        int v = 3 * tri[3 * t + k];
        double x = p[v] - c[0];
        double y = p[v + 1] - c[1];
        double z = p[v + 2] - c[2];
        q[3 * k] = (x * u[0] + y * u[1] + z * u[2]) * scale + SIZE / 2.0;
        q[3 * k + 1] = (x * w[0] + y * w[1] + z * w[2]) * scale + SIZE / 2.0;
        q[3 * k + 2] = x * d[0] + y * d[1] + z * d[2];
      }
      if (stride == 1) {
        fill(q, depth, face);
      } else {
        point(q, depth, face);
      }
    }
    return face;
  }

  private static void point(double[] q, float[] depth, byte[] face) {
    double area = area(q);
    int x = (int) ((q[0] + q[3] + q[6]) / 3);
    int y = (int) ((q[1] + q[4] + q[7]) / 3);
    if (area == 0 || x < 0 || y < 0 || x >= SIZE || y >= SIZE) {
      return;
    }
    put(y * SIZE + x, (float) ((q[2] + q[5] + q[8]) / 3), area, depth, face);
  }

  private static void put(int at, float z, double area, float[] depth, byte[] face) {
    if (z > depth[at]) {
      depth[at] = z;
      face[at] = (byte) (area > 0 ? 1 : -1);
    }
  }

  private static double area(double[] q) {
    return (q[3] - q[0]) * (q[7] - q[1]) - (q[6] - q[0]) * (q[4] - q[1]);
  }

  private static void fill(double[] q, float[] depth, byte[] face) {
    double area = area(q);
    if (area == 0) {
      return;
    }
    int x0 = (int) Math.ceil(Math.min(q[0], Math.min(q[3], q[6])) - 0.5);
    int x1 = (int) Math.floor(Math.max(q[0], Math.max(q[3], q[6])) - 0.5);
    int y0 = (int) Math.ceil(Math.min(q[1], Math.min(q[4], q[7])) - 0.5);
    int y1 = (int) Math.floor(Math.max(q[1], Math.max(q[4], q[7])) - 0.5);
    for (int y = Math.max(0, y0); y <= Math.min(SIZE - 1, y1); y++) {
      for (int x = Math.max(0, x0); x <= Math.min(SIZE - 1, x1); x++) {
        double a = edge(q, 3, 6, x + 0.5, y + 0.5) / area;
        double b = edge(q, 6, 0, x + 0.5, y + 0.5) / area;
        double c = 1 - a - b;
        if (a >= 0 && b >= 0 && c >= 0) {
          put(y * SIZE + x, (float) (a * q[2] + b * q[5] + c * q[8]), area, depth, face);
        }
      }
    }
  }

  private static double edge(double[] q, int i, int j, double x, double y) {
    return (q[j] - q[i]) * (y - q[i + 1]) - (q[j + 1] - q[i + 1]) * (x - q[i]);
  }
}
