package holotome.view;

import holotome.core.mesh.Mesh;
import java.util.Random;

/** Meshes for tests of drawing. */
public final class Meshes {
  private Meshes() {}

  /** A ball of latitude rings, radius 1, closed, 4 n (n - 1) triangles. */
  public static Mesh ball(int n) {
    float[] xyz = new float[3 * ((n - 1) * 2 * n + 2)];
    int[] tri = new int[3 * (4 * n * (n - 1))];
    int v = 0;
    for (int i = 1; i < n; i++) {
      for (int j = 0; j < 2 * n; j++) {
        double a = Math.PI * i / n;
        double b = Math.PI * j / n;
        xyz[3 * v] = (float) (Math.sin(a) * Math.cos(b));
        xyz[3 * v + 1] = (float) (Math.sin(a) * Math.sin(b));
        xyz[3 * v++ + 2] = (float) Math.cos(a);
      }
    }
    xyz[3 * v + 2] = 1;
    xyz[3 * v + 5] = -1;
    int t = 0;
    for (int j = 0; j < 2 * n; j++) {
      int k = (j + 1) % (2 * n);
      t = put(tri, t, v, j, k);
      t = put(tri, t, v + 1, (n - 2) * 2 * n + k, (n - 2) * 2 * n + j);
      for (int i = 0; i + 2 < n; i++) {
        t = put(tri, t, 2 * n * i + j, 2 * n * (i + 1) + j, 2 * n * (i + 1) + k);
        t = put(tri, t, 2 * n * i + j, 2 * n * (i + 1) + k, 2 * n * i + k);
      }
    }
    return new Mesh(xyz, tri);
  }

  private static int put(int[] tri, int at, int a, int b, int c) {
    tri[at] = a;
    tri[at + 1] = b;
    tri[at + 2] = c;
    return at + 3;
  }

  /** A ball with dents, bumps and colour, as a scan has them. */
  public static Mesh stone(int n) {
    Mesh ball = ball(n);
    float[] p = ball.xyz().clone();
    int[] colours = new int[ball.vertexCount()];
    Random r = new Random(5);
    for (int v = 0; v < colours.length; v++) {
      double x = p[3 * v];
      double y = p[3 * v + 1];
      double z = p[3 * v + 2];
      double k =
          1
              + 0.12 * Math.sin(5 * x) * Math.cos(4 * y + z)
              + 0.02 * Math.sin(31 * z + 17 * x)
              + 0.0006 * r.nextGaussian();
      for (int i = 0; i < 3; i++) {
        p[3 * v + i] *= (float) k;
      }
      int shade = (int) (150 + 70 * Math.sin(9 * x + 4 * z));
      colours[v] = 0xff000000 | shade << 16 | (255 - shade) << 8 | 60 + (int) (60 * z);
    }
    return new Mesh(p, ball.triangles(), colours);
  }

  /** Loose triangles anywhere, of many sizes, some without area, some the same. */
  public static Mesh rubbish(int triangles) {
    Random r = new Random(11);
    float[] p = new float[9 * triangles];
    int[] tri = new int[3 * triangles];
    for (int t = 0; t < triangles; t++) {
      double size = Math.pow(10, -4 * r.nextDouble());
      double[] at = {r.nextDouble(), r.nextDouble(), r.nextDouble()};
      for (int k = 0; k < 9; k++) {
        p[9 * t + k] = (float) (at[k % 3] + size * (r.nextDouble() - 0.5));
      }
      if (t % 10 == 0) {
        System.arraycopy(p, 9 * t, p, 9 * t + 3, 3);
      }
      for (int k = 0; k < 3; k++) {
        tri[3 * t + k] = t % 7 == 6 ? tri[3 * t - 3 + k] : 3 * t + k;
      }
    }
    return new Mesh(p, tri);
  }

  /** A patch at which very many triangles meet in one point, and very many lie on one spot. */
  public static Mesh crowd(int triangles) {
    float[] p = new float[3 * (triangles + 1)];
    int[] tri = new int[6 * triangles];
    for (int i = 0; i < triangles; i++) {
      p[3 * i + 3] = (float) Math.cos(0.001 * i);
      p[3 * i + 4] = (float) Math.sin(0.001 * i);
      put(tri, 3 * i, 0, 1 + i, 1 + (i + 1) % triangles);
      put(tri, 3 * (triangles + i), 1, 2, 3);
    }
    return new Mesh(p, tri);
  }
}
