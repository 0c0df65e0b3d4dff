package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;

/** Scans of buildings: walls of four corners in small triangles, with noise across each. */
final class WallsScan {
  private final List<double[][]> quads = new ArrayList<>();

  /** A wall, its corners counter-clockwise seen from outside. */
  WallsScan wall(double[] a, double[] b, double[] c, double[] d) {
    quads.add(new double[][] {a, b, c, d});
    return this;
  }

  /** The four sides of a block, and its top if asked for. */
  WallsScan block(double[] low, double[] high, boolean top) {
    double[][] p = new double[8][];
    for (int i = 0; i < 8; i++) {
      p[i] =
          Vec.of(
              (i & 1) == 0 ? low[0] : high[0],
              (i & 2) == 0 ? low[1] : high[1],
              (i & 4) == 0 ? low[2] : high[2]);
    }
    wall(p[0], p[1], p[5], p[4]);
    wall(p[1], p[3], p[7], p[5]);
    wall(p[3], p[2], p[6], p[7]);
    wall(p[2], p[0], p[4], p[6]);
    return top ? wall(p[4], p[5], p[7], p[6]) : this;
  }

  WallsScan floor(double x0, double y0, double x1, double y1) {
    return wall(Vec.of(x0, y1, 0), Vec.of(x1, y1, 0), Vec.of(x1, y0, 0), Vec.of(x0, y0, 0));
  }

  /** 6 x 4 x 3 m with a ridge 4.5 m high along x: a house of seven planes and ten corners. */
  static WallsScan house() {
    WallsScan s = new WallsScan().floor(0, 0, 6, 4);
    double[] f0 = {0, 0, 3};
    double[] f1 = {6, 0, 3};
    double[] b0 = {0, 4, 3};
    double[] b1 = {6, 4, 3};
    double[] r0 = {0, 2, 4.5};
    double[] r1 = {6, 2, 4.5};
    s.wall(Vec.of(0, 0, 0), Vec.of(6, 0, 0), f1, f0);
    s.wall(Vec.of(6, 4, 0), Vec.of(0, 4, 0), b0, b1);
    s.wall(Vec.of(6, 0, 0), Vec.of(6, 2, 0), r1, f1).wall(Vec.of(6, 2, 0), Vec.of(6, 4, 0), b1, r1);
    s.wall(Vec.of(0, 4, 0), Vec.of(0, 2, 0), r0, b0).wall(Vec.of(0, 2, 0), Vec.of(0, 0, 0), f0, r0);
    return s.wall(f0, f1, r1, r0).wall(b1, b0, r0, r1);
  }

  static final double[][] CORNERS = {
    {0, 0, 0}, {6, 0, 0}, {6, 4, 0}, {0, 4, 0}, {0, 0, 3},
    {6, 0, 3}, {6, 4, 3}, {0, 4, 3}, {0, 2, 4.5}, {6, 2, 4.5}
  };

  /**
   * @param cell how long triangles' sides are
   * @param noise its standard deviation
   */
  Mesh scan(double cell, double noise, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<float[]> points = new ArrayList<>();
    List<int[]> triangles = new ArrayList<>();
    for (double[][] q : quads) {
      int across = (int) Math.ceil(Vec.distance(q[0], q[1]) / cell);
      int up = (int) Math.ceil(Math.max(Vec.distance(q[0], q[3]), Vec.distance(q[1], q[2])) / cell);
      double[] n = Vec.unit(Vec.cross(Vec.sub(q[1], q[0]), Vec.sub(q[3], q[0])));
      int first = points.size();
      for (int j = 0; j <= up; j++) {
        for (int i = 0; i <= across; i++) {
          double s = (double) i / across;
          double t = (double) j / up;
          double off = noise == 0 ? 0 : noise * random.nextGaussian();
          float[] p = new float[3];
          for (int k = 0; k < 3; k++) {
            double low = (1 - s) * q[0][k] + s * q[1][k];
            double high = (1 - s) * q[3][k] + s * q[2][k];
            p[k] = (float) ((1 - t) * low + t * high + off * n[k]);
          }
          points.add(p);
        }
      }
      for (int j = 0; j < up; j++) {
        for (int i = 0; i < across; i++) {
          int a = first + j * (across + 1) + i;
          int c = a + across + 1;
          triangles.add(new int[] {a, a + 1, c + 1});
          triangles.add(new int[] {a, c + 1, c});
        }
      }
    }
    float[] xyz = new float[3 * points.size()];
    int[] tri = new int[3 * triangles.size()];
    for (int v = 0; v < points.size(); v++) {
      System.arraycopy(points.get(v), 0, xyz, 3 * v, 3);
    }
    for (int t = 0; t < triangles.size(); t++) {
      System.arraycopy(triangles.get(t), 0, tri, 3 * t, 3);
    }
    return new Mesh(xyz, tri);
  }
}
