package holotome.demo;

import holotome.core.geometry.Similarity;

/** What lies beside the main surface: the scale bar, and debris floating about. */
final class Extras {
  static final double BAR_LENGTH = 0.500;
  private static final double BAR_WIDTH = 0.045;
  private static final double BAR_HEIGHT = 0.028;
  private static final double BAR_X = -0.05;
  private static final double BAR_Y = -0.68;
  private static final double BAR_TURN = 0.22;
  static final int PIECES = 46;

  private final int along;
  private final int across;
  private final int up;
  private final int shard;

  Extras(double cell) {
    double h = 1.2 * cell;
    along = Math.max(10, (int) Math.round(BAR_LENGTH / h / 10) * 10);
    across = Math.max(2, (int) Math.round(BAR_WIDTH / h));
    up = Math.max(1, (int) Math.round(BAR_HEIGHT / h));
    shard = Math.clamp((int) Math.round(0.012 / cell), 1, 60);
  }

  /** A point of the bar in true metres: s along, t across, z up from its underside. */
  private static double[] barPoint(double s, double t, double z) {
    double c = Math.cos(BAR_TURN);
    double n = Math.sin(BAR_TURN);
    double u = s - BAR_LENGTH / 2;
    double v = t - BAR_WIDTH / 2;
    return new double[] {BAR_X + c * u - n * v, BAR_Y + n * u + c * v, z - 0.004};
  }

  /** The middles of the bar's two ends, on its top edges, in true metres. */
  static double[][] barEnds() {
    return new double[][] {
      barPoint(0, BAR_WIDTH / 2, BAR_HEIGHT), barPoint(BAR_LENGTH, BAR_WIDTH / 2, BAR_HEIGHT)
    };
  }

  /** Across: up one side, over the top, down the other, then the two ends share its outline. */
  private int profile() {
    return 2 * up + across + 1;
  }

  private int endInner() {
    return (across - 1) * up;
  }

  int barVertices() {
    return profile() * (along + 1) + 2 * endInner();
  }

  int barTriangles() {
    return 2 * (profile() - 1) * along + 4 * across * up;
  }

  int vertices() {
    return barVertices() + PIECES * (shard + 1) * (shard + 1);
  }

  int triangles() {
    return barTriangles() + PIECES * 2 * shard * shard;
  }

  /** Adds vertices from number {@code first} on, and triangles; notes where bar and debris end. */
  void append(Similarity place, float[] xyz, int[] colours, int first, IntList tri, int[] ends) {
    bar(place, xyz, colours, first, tri);
    ends[2] = tri.size() / 3;
    int at = first + barVertices();
    for (int piece = 0; piece < PIECES; piece++) {
      shard(piece, place, xyz, colours, at, tri);
      at += (shard + 1) * (shard + 1);
    }
    ends[3] = tri.size() / 3;
  }

  private double[] outline(int k) {
    if (k <= up) {
      return new double[] {0, BAR_HEIGHT * k / up};
    }
    if (k <= up + across) {
      return new double[] {BAR_WIDTH * (k - up) / across, BAR_HEIGHT};
    }
    return new double[] {BAR_WIDTH, BAR_HEIGHT * (profile() - 1 - k) / up};
  }

  private void bar(Similarity place, float[] xyz, int[] colours, int first, IntList tri) {
    int n = profile();
    for (int i = 0; i <= along; i++) {
      double s = BAR_LENGTH * i / along;
      for (int k = 0; k < n; k++) {
        double[] o = outline(k);
        int v = first + i * n + k;
        putBar(place, xyz, colours, v, s, o[0], o[1]);
      }
    }
    for (int i = 0; i < along; i++) {
      for (int k = 0; k + 1 < n; k++) {
        int a = first + i * n + k;
        quad(tri, a, a + n, a + n + 1, a + 1);
      }
    }
    for (int end = 0; end < 2; end++) {
      int inner = first + n * (along + 1) + end * endInner();
      for (int x = 1; x < across; x++) {
        for (int z = 0; z < up; z++) {
          putBar(
              place,
              xyz,
              colours,
              inner + (x - 1) * up + z,
              end * BAR_LENGTH,
              BAR_WIDTH * x / across,
              BAR_HEIGHT * z / up);
        }
      }
      for (int x = 0; x < across; x++) {
        for (int z = 0; z < up; z++) {
          int a = endVertex(first, end, inner, x, z);
          int b = endVertex(first, end, inner, x + 1, z);
          int c = endVertex(first, end, inner, x + 1, z + 1);
          int d = endVertex(first, end, inner, x, z + 1);
          if (end == 0) {
            quad(tri, a, d, c, b);
          } else {
            quad(tri, a, b, c, d);
          }
        }
      }
    }
  }

  private int endVertex(int first, int end, int inner, int x, int z) {
    int row = first + end * along * profile();
    if (x == 0) {
      return row + z;
    }
    if (x == across) {
      return row + profile() - 1 - z;
    }
    return z == up ? row + up + x : inner + (x - 1) * up + z;
  }

  private static void quad(IntList tri, int a, int b, int c, int d) {
    for (int v : new int[] {a, b, c, a, c, d}) {
      tri.add(v);
    }
  }

  private static void putBar(
      Similarity place, float[] xyz, int[] colours, int v, double s, double t, double z) {
    double[] p = barPoint(s, t, z);
    for (int k = 0; k < 3; k++) {
      p[k] += 0.00012 * Noise.bell((int) (s * 1e5), (int) (t * 1e5) + 7 * k, (int) (z * 1e5));
    }
    BollardScan.put(place, p, 0, xyz, v);
    colours[v] = Paint.bar(s);
  }

  private void shard(
      int piece, Similarity place, float[] xyz, int[] colours, int first, IntList tri) {
    double angle = 2 * Math.PI * Noise.uniform(piece, 1, 82);
    double r = 0.30 + 0.75 * Noise.uniform(piece, 2, 82);
    double z = 0.08 + 0.75 * Noise.uniform(piece, 3, 82);
    double size = 0.008 + 0.030 * Math.pow(Noise.uniform(piece, 4, 82), 2);
    double[] u = direction(piece, 5);
    double[] v = direction(piece, 8);
    for (int i = 0; i <= shard; i++) {
      for (int j = 0; j <= shard; j++) {
        double a = (double) i / shard - 0.5;
        // One side is pinched, so that pieces look torn off rather than cut out.
        double b = ((double) j / shard - 0.5) * (0.15 + 0.85 * (a + 0.5));
        double bend = 0.4 * (a * a + Noise.value(3 * a, 3 * b, piece, 83));
        double[] p = new double[3];
        for (int k = 0; k < 3; k++) {
          p[k] = size * (a * u[k] + 0.5 * b * v[k] + 0.3 * bend * u[(k + 1) % 3]);
        }
        p[0] += r * Math.cos(angle);
        p[1] += r * Math.sin(angle);
        p[2] += z;
        int vertex = first + i * (shard + 1) + j;
        BollardScan.put(place, p, 0, xyz, vertex);
        colours[vertex] = Paint.debris(piece);
      }
    }
    for (int i = 0; i < shard; i++) {
      for (int j = 0; j < shard; j++) {
        int a = first + i * (shard + 1) + j;
        quad(tri, a, a + shard + 1, a + shard + 2, a + 1);
      }
    }
  }

  private static double[] direction(int piece, int seed) {
    double[] d = {
      Noise.bell(piece, seed, 84), Noise.bell(piece, seed + 1, 84), Noise.bell(piece, seed + 2, 84)
    };
    return holotome.core.geometry.Vec.unit(d);
  }
}
