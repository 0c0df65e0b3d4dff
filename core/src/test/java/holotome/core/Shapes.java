package holotome.core;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.mesh.Material;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** Shapes whose measures are known in closed form, and some that are broken on purpose. */
public final class Shapes {
  private Shapes() {}

  public static Mesh cube(double side) {
    float s = (float) (side / 2);
    float[] xyz = {
      -s, -s, -s, s, -s, -s, s, s, -s, -s, s, -s, -s, -s, s, s, -s, s, s, s, s, -s, s, s
    };
    int[] tri = {
      0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3,
      0, 4, 3, 4, 7
    };
    return new Mesh(xyz, tri);
  }

  /** A sphere from an icosahedron, each triangle split in four so many times. */
  public static Mesh sphere(double radius, int levels) {
    double t = (1 + Math.sqrt(5)) / 2;
    double[][] v = {
      {-1, t, 0},
      {1, t, 0},
      {-1, -t, 0},
      {1, -t, 0},
      {0, -1, t},
      {0, 1, t},
      {0, -1, -t},
      {0, 1, -t},
      {t, 0, -1},
      {t, 0, 1},
      {-t, 0, -1},
      {-t, 0, 1}
    };
    int[] f = {
      0, 11, 5, 0, 5, 1, 0, 1, 7, 0, 7, 10, 0, 10, 11, 1, 5, 9, 5, 11, 4, 11, 10, 2, 10, 7, 6, 7, 1,
          8,
      3, 9, 4, 3, 4, 2, 3, 2, 6, 3, 6, 8, 3, 8, 9, 4, 9, 5, 2, 4, 11, 6, 2, 10, 8, 6, 7, 9, 8, 1
    };
    List<double[]> points = new ArrayList<>(List.of(v));
    for (int level = 0; level < levels; level++) {
      Map<Long, Integer> middle = new HashMap<>();
      int[] g = new int[4 * f.length];
      for (int i = 0; i < f.length; i += 3) {
        int a = middle(points, middle, f[i], f[i + 1]);
        int b = middle(points, middle, f[i + 1], f[i + 2]);
        int c = middle(points, middle, f[i + 2], f[i]);
        int[] four = {f[i], a, c, f[i + 1], b, a, f[i + 2], c, b, a, b, c};
        System.arraycopy(four, 0, g, 4 * i, 12);
      }
      f = g;
    }
    float[] xyz = new float[3 * points.size()];
    for (int i = 0; i < points.size(); i++) {
      double[] p = points.get(i);
      double l = Math.sqrt(p[0] * p[0] + p[1] * p[1] + p[2] * p[2]);
      for (int k = 0; k < 3; k++) {
        xyz[3 * i + k] = (float) (radius * p[k] / l);
      }
    }
    return new Mesh(xyz, f);
  }

  private static int middle(List<double[]> points, Map<Long, Integer> known, int a, int b) {
    long key = (long) Math.min(a, b) << 32 | Math.max(a, b);
    return known.computeIfAbsent(
        key,
        k -> {
          double[] p = points.get(a);
          double[] q = points.get(b);
          double[] m = {(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2};
          double l = Math.sqrt(m[0] * m[0] + m[1] * m[1] + m[2] * m[2]);
          double r = Math.sqrt(p[0] * p[0] + p[1] * p[1] + p[2] * p[2]);
          points.add(new double[] {m[0] * r / l, m[1] * r / l, m[2] * r / l});
          return points.size() - 1;
        });
  }

  /** A torus about the z axis. */
  public static Mesh torus(double major, double minor, int around, int across) {
    float[] xyz = new float[3 * around * across];
    int[] tri = new int[6 * around * across];
    for (int i = 0; i < around; i++) {
      double a = 2 * Math.PI * i / around;
      for (int j = 0; j < across; j++) {
        double b = 2 * Math.PI * j / across;
        double r = major + minor * Math.cos(b);
        int v = i * across + j;
        xyz[3 * v] = (float) (r * Math.cos(a));
        xyz[3 * v + 1] = (float) (r * Math.sin(a));
        xyz[3 * v + 2] = (float) (minor * Math.sin(b));
        int right = (i + 1) % around * across;
        int p = v;
        int q = right + j;
        int s = right + (j + 1) % across;
        int u = i * across + (j + 1) % across;
        int[] two = {p, q, s, p, s, u};
        System.arraycopy(two, 0, tri, 6 * v, 6);
      }
    }
    return new Mesh(xyz, tri);
  }

  /** A square sheet of n x n cells over 0..side, in the plane z = 0, facing up. */
  public static Mesh sheet(double side, int n) {
    float[] xyz = new float[3 * (n + 1) * (n + 1)];
    int[] tri = new int[6 * n * n];
    for (int i = 0; i <= n; i++) {
      for (int j = 0; j <= n; j++) {
        xyz[3 * (i * (n + 1) + j)] = (float) (side * i / n);
        xyz[3 * (i * (n + 1) + j) + 1] = (float) (side * j / n);
      }
    }
    for (int i = 0; i < n; i++) {
      for (int j = 0; j < n; j++) {
        int a = i * (n + 1) + j;
        int[] two = {a, a + n + 1, a + n + 2, a, a + n + 2, a + 1};
        System.arraycopy(two, 0, tri, 6 * (i * n + j), 6);
      }
    }
    return new Mesh(xyz, tri);
  }

  /** Several meshes in one, sharing nothing. */
  public static Mesh together(Mesh... parts) {
    int v = 0;
    int t = 0;
    for (Mesh m : parts) {
      v += m.xyz().length;
      t += m.triangles().length;
    }
    float[] xyz = new float[v];
    int[] tri = new int[t];
    v = 0;
    t = 0;
    for (Mesh m : parts) {
      System.arraycopy(m.xyz(), 0, xyz, v, m.xyz().length);
      for (int c : m.triangles()) {
        tri[t++] = c + v / 3;
      }
      v += m.xyz().length;
    }
    return new Mesh(xyz, tri);
  }

  public static Mesh moved(Mesh m, double x, double y, double z) {
    float[] xyz = m.xyz().clone();
    for (int i = 0; i < xyz.length; i += 3) {
      xyz[i] += (float) x;
      xyz[i + 1] += (float) y;
      xyz[i + 2] += (float) z;
    }
    return m.withPositions(xyz);
  }

  /** Random triangles over few vertices: everything that can be wrong, is. */
  public static Mesh mess(int triangles, long seed) {
    Random r = new Random(seed);
    int vertices = Math.max(4, triangles / 3);
    float[] xyz = new float[3 * vertices];
    for (int i = 0; i < xyz.length; i++) {
      // Few distinct values: doubled points and collinear corners are common.
      xyz[i] = r.nextInt(5);
    }
    int[] tri = new int[3 * triangles];
    for (int i = 0; i < tri.length; i++) {
      tri[i] = r.nextInt(vertices);
    }
    return new Mesh(xyz, tri);
  }

  /** A mesh with colours that depend on the place. */
  public static Mesh coloured(Mesh m) {
    int[] c = new int[m.vertexCount()];
    double d = m.bounds().diagonal();
    for (int i = 0; i < c.length; i++) {
      c[i] =
          holotome.core.image.Colours.argb(
              128 + 120 * m.xyz()[3 * i] / d,
              128 + 120 * m.xyz()[3 * i + 1] / d,
              128 + 120 * m.xyz()[3 * i + 2] / d);
    }
    return new Mesh(m.xyz(), m.triangles(), c);
  }

  /** How {@link #laden} numbers what a place belongs to: any two places far apart differ. */
  public static int placeLabel(double x, double y, double z) {
    return 10_000
        + (int) Math.floor(4 * x)
        + 40 * (int) Math.floor(4 * y)
        + 1600 * (int) Math.floor(4 * z);
  }

  /** A weight that runs evenly through space. */
  public static double placeWeight(double x, double y, double z) {
    return x + 2 * y - 3 * z;
  }

  /**
   * The mesh with an attribute of every kind on every domain it goes on, each telling the place it
   * belongs to: numbers run evenly through space, labels and materials are those of a coarse grid.
   */
  public static Mesh laden(Mesh m) {
    float[] p = m.xyz();
    int[] tri = m.triangles();
    int n = m.vertexCount();
    float[] weight = new float[n];
    float[] mask = new float[n];
    int[] label = new int[n];
    for (int v = 0; v < n; v++) {
      double x = p[3 * v];
      double y = p[3 * v + 1];
      double z = p[3 * v + 2];
      weight[v] = (float) placeWeight(x, y, z);
      mask[v] = (float) Math.clamp(0.5 + placeWeight(x, y, z) / 60, 0.0, 1.0);
      label[v] = placeLabel(x, y, z);
    }
    int[] index = tri.clone();
    float[] uv = new float[2 * n];
    int[] colour = new int[n];
    for (int v = 0; v < n; v++) {
      uv[2 * v] = p[3 * v];
      uv[2 * v + 1] = p[3 * v + 1];
      colour[v] = 0xff000000 | (int) (200 * mask[v]) << 8;
    }
    int t = m.triangleCount();
    int[] ofTriangle = new int[t];
    short[] material = new short[t];
    float[] share = new float[t];
    for (int i = 0; i < t; i++) {
      double[] c = new double[3];
      for (int k = 0; k < 9; k++) {
        c[k % 3] += p[3 * tri[3 * i + k / 3] + k % 3] / 3;
      }
      ofTriangle[i] = placeLabel(c[0], c[1], c[2]);
      material[i] = (short) (ofTriangle[i] % 3);
      share[i] = (float) placeWeight(c[0], c[1], c[2]);
    }
    return coloured(m)
        .with(Attribute.of("weight", Kind.WEIGHT, Domain.VERTEX, weight, null))
        .with(Attribute.of("mask", Kind.MASK, Domain.VERTEX, mask, null))
        .with(Attribute.of("label", Kind.LABEL, Domain.VERTEX, label, null))
        .with(Attribute.of("normal", Kind.NORMAL, Domain.VERTEX, Measures.vertexNormals(m), null))
        .with(Attribute.of("uv", Kind.UV, Domain.CORNER, uv, index))
        .with(Attribute.of("uv2", Kind.UV, Domain.CORNER, uv.clone(), index.clone()))
        .with(Attribute.of("corner colour", Kind.COLOUR, Domain.CORNER, colour, index.clone()))
        .with(
            Attribute.of(
                "corner weight", Kind.WEIGHT, Domain.CORNER, weight.clone(), index.clone()))
        .with(Attribute.of("part", Kind.LABEL, Domain.TRIANGLE, ofTriangle, null))
        .with(Attribute.of("share", Kind.WEIGHT, Domain.TRIANGLE, share, null))
        .withMaterials(
            material,
            List.of(
                new Material("a", 0xffff0000, null),
                new Material("b", 0xff00ff00, null),
                new Material("c", 0xff0000ff, null)));
  }

  /** A tube about z, open at both ends. */
  public static Mesh tube(double radius, double high, int around, int up) {
    float[] xyz = new float[3 * around * (up + 1)];
    int[] tri = new int[6 * around * up];
    int n = 0;
    for (int j = 0; j <= up; j++) {
      for (int i = 0; i < around; i++) {
        int v = j * around + i;
        xyz[3 * v] = (float) (radius * Math.cos(2 * Math.PI * i / around));
        xyz[3 * v + 1] = (float) (radius * Math.sin(2 * Math.PI * i / around));
        xyz[3 * v + 2] = (float) (high * j / up);
        int w = j * around + (i + 1) % around;
        if (j < up) {
          int[] two = {v, w, w + around, v, w + around, v + around};
          System.arraycopy(two, 0, tri, n, 6);
          n += 6;
        }
      }
    }
    return new Mesh(xyz, tri);
  }

  /** A cube of side 2 with so many squares along each edge. */
  public static Mesh gridCube(int n) {
    Map<List<Integer>, Integer> number = new HashMap<>();
    List<float[]> points = new ArrayList<>();
    List<Integer> tri = new ArrayList<>();
    for (int axis = 0; axis < 3; axis++) {
      for (int side = 0; side < 2; side++) {
        for (int i = 0; i < n; i++) {
          for (int j = 0; j < n; j++) {
            int[] q = new int[4];
            int[][] c = {{i, j}, {i + 1, j}, {i + 1, j + 1}, {i, j + 1}};
            for (int k = 0; k < 4; k++) {
              Integer[] p = new Integer[3];
              p[axis] = side * n;
              p[(axis + 1) % 3] = c[k][0];
              p[(axis + 2) % 3] = c[k][1];
              q[k] =
                  number.computeIfAbsent(
                      List.of(p),
                      key -> {
                        points.add(
                            new float[] {
                              2f * key.get(0) / n - 1,
                              2f * key.get(1) / n - 1,
                              2f * key.get(2) / n - 1
                            });
                        return points.size() - 1;
                      });
            }
            List<Integer> two =
                side == 1
                    ? List.of(q[0], q[1], q[2], q[0], q[2], q[3])
                    : List.of(q[0], q[2], q[1], q[0], q[3], q[2]);
            tri.addAll(two);
          }
        }
      }
    }
    float[] xyz = new float[3 * points.size()];
    for (int v = 0; v < points.size(); v++) {
      System.arraycopy(points.get(v), 0, xyz, 3 * v, 3);
    }
    return new Mesh(xyz, tri.stream().mapToInt(Integer::intValue).toArray());
  }
}
