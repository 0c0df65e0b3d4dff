package holotome.core.bake;

import holotome.core.array.LongIndex;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import java.util.Arrays;

/**
 * A Cast with every triangle divided alike, so finely that what is selected of it by place follows
 * its outline within some texels: large triangles are told from one another only as a whole.
 *
 * <p>Each edge gets the same number of points, shared by the triangles beside it.
 */
final class FineCast {
  /** Texels that an edge is long, about. */
  private static final double TEXELS = 3;

  private static final int MOST_TRIANGLES = 1_500_000;

  private FineCast() {}

  /**
   * Divides; a mesh that is fine enough is given back. Texture coordinates go with it, its other
   * attributes do not.
   *
   * @param size texels to the side of a square of the texture
   */
  static Mesh of(Mesh cast, int size) {
    int n = parts(cast, size);
    if (n == 1) {
      return cast;
    }
    int per = n * n;
    int count = cast.triangleCount();
    int[] triangles = new int[3 * per * count];
    float[] uv = new float[6 * per * count];
    Points points = new Points(cast, n);
    int[] corner = new int[(n + 1) * (n + 2) / 2];
    float[] place = new float[2 * corner.length];
    int at = 0;
    for (int t = 0; t < count; t++) {
      int k = 0;
      for (int j = 0; j <= n; j++) {
        for (int i = 0; i <= n - j; i++, k++) {
          corner[k] = points.at(t, i, j);
          mix(cast.uv(), t, (double) i / n, (double) j / n, place, 2 * k);
        }
      }
      for (int j = 0; j < n; j++) {
        int row = j * (n + 1) - j * (j - 1) / 2;
        int above = row + n + 1 - j;
        for (int i = 0; i < n - j; i++) {
          at = put(triangles, uv, at, corner, place, row + i, row + i + 1, above + i);
          if (i < n - j - 1) {
            at = put(triangles, uv, at, corner, place, row + i + 1, above + i + 1, above + i);
          }
        }
      }
    }
    int[] own = new int[at];
    for (int c = 0; c < at; c++) {
      own[c] = c;
    }
    return new Mesh(points.xyz(), triangles).withUv(new Uv(uv, own));
  }

  private static int put(
      int[] triangles, float[] uv, int at, int[] corner, float[] place, int a, int b, int c) {
    int[] three = {a, b, c};
    for (int k = 0; k < 3; k++) {
      triangles[at + k] = corner[three[k]];
      uv[2 * (at + k)] = place[2 * three[k]];
      uv[2 * (at + k) + 1] = place[2 * three[k] + 1];
    }
    return at + 3;
  }

  private static void mix(Uv uv, int t, double second, double third, float[] out, int at) {
    float[] c = uv.coords();
    int[] k = uv.corners();
    for (int axis = 0; axis < 2; axis++) {
      double a = c[2 * k[3 * t] + axis];
      double b = c[2 * k[3 * t + 1] + axis];
      double d = c[2 * k[3 * t + 2] + axis];
      out[at + axis] = (float) (a + second * (b - a) + third * (d - a));
    }
  }

  /** How many parts each edge gets. */
  private static int parts(Mesh cast, int size) {
    Uv uv = cast.uv();
    double longest = 0;
    for (int c = 0; c < uv.corners().length; c++) {
      int a = 2 * uv.corners()[c];
      int b = 2 * uv.corners()[c % 3 == 2 ? c - 2 : c + 1];
      double u = uv.coords()[b] - uv.coords()[a];
      double v = uv.coords()[b + 1] - uv.coords()[a + 1];
      double length = Math.hypot(u, v) * size;
      longest = length > longest ? length : longest;
    }
    double most = Math.sqrt((double) MOST_TRIANGLES / Math.max(1, cast.triangleCount()));
    return (int) Math.max(1, Math.min(most, Math.ceil(longest / TEXELS)));
  }

  /** The vertices of the divided mesh: those of the Cast, then what is added. */
  private static final class Points {
    private final Mesh cast;
    private final int n;

    /** Edges by their vertices, and the first of the points on each. */
    private final LongIndex edges = new LongIndex();

    private int[] first = new int[1024];
    private float[] xyz;
    private int used;

    Points(Mesh cast, int n) {
      this.cast = cast;
      this.n = n;
      xyz = Arrays.copyOf(cast.xyz(), 3 * (cast.vertexCount() + 8));
      used = cast.vertexCount();
    }

    /** The number of a point of a triangle, so many parts towards its second and third corner. */
    int at(int t, int i, int j) {
      int[] v = cast.triangles();
      int a = v[3 * t];
      int b = v[3 * t + 1];
      int c = v[3 * t + 2];
      int k = n - i - j;
      if (k == n || i == n || j == n) {
        return k == n ? a : i == n ? b : c;
      }
      if (j == 0) {
        return onEdge(a, b, i);
      }
      if (i == 0) {
        return onEdge(a, c, j);
      }
      return k == 0 ? onEdge(b, c, j) : added(a, b, c, (double) i / n, (double) j / n);
    }

    private int onEdge(int a, int b, int step) {
      int low = Math.min(a, b);
      int high = Math.max(a, b);
      int before = edges.size();
      int number = edges.add((long) low << 32 | high);
      if (number == before) {
        if (number == first.length) {
          first = Arrays.copyOf(first, 2 * number);
        }
        first[number] = used;
        for (int s = 1; s < n; s++) {
          added(low, high, high, (double) s / n, 0);
        }
      }
      return first[number] + (a == low ? step : n - step) - 1;
    }

    private int added(int a, int b, int c, double second, double third) {
      if (3 * used + 3 > xyz.length) {
        xyz = Arrays.copyOf(xyz, (int) Math.min(Integer.MAX_VALUE - 8, 2L * xyz.length));
      }
      for (int k = 0; k < 3; k++) {
        double p = cast.xyz()[3 * a + k];
        double q = cast.xyz()[3 * b + k];
        double r = cast.xyz()[3 * c + k];
        xyz[3 * used + k] = (float) (p + second * (q - p) + third * (r - p));
      }
      return used++;
    }

    float[] xyz() {
      return Arrays.copyOf(xyz, 3 * used);
    }
  }
}
