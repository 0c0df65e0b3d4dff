package holotome.core.cut;

import holotome.core.array.Ranks;
import holotome.core.attribute.Blends;
import holotome.core.attribute.Redrawn;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.Map;

/**
 * Triangles of a mesh being split at vertices on their edges; new vertices are numbered on from the
 * mesh's. Positions are kept in double precision until they are written out.
 */
final class Pieces {
  private final Mesh mesh;
  private final int old;

  /** New vertices: 3 doubles each, and what they lie between. */
  private double[] xyz = new double[3 * 64];

  private final Blends added;
  private int vertices;
  private int[] corners = new int[3 * 64];

  /** Per piece nine: of each corner in turn the weights of its triangle's own corners. */
  private double[] weights = new double[9 * 64];

  private int[] following = new int[64];
  private int count;

  Pieces(Mesh mesh) {
    this.mesh = mesh;
    this.old = mesh.vertexCount();
    this.added = new Blends(old);
  }

  static long key(int a, int b) {
    return a < b ? (long) a << 32 | b : (long) b << 32 | a;
  }

  int count() {
    return count;
  }

  /** The next piece of the same triangle, or -1. */
  int next(int piece) {
    return following[piece];
  }

  int vertex(int piece, int k) {
    return corners[3 * piece + k];
  }

  /** The weights of a piece's corners; see {@link Redrawn#add}. */
  void weights(int piece, float[] nine) {
    for (int i = 0; i < 9; i++) {
      nine[i] = (float) weights[9 * piece + i];
    }
  }

  double x(int v) {
    return v < old ? mesh.xyz()[3 * v] : xyz[3 * (v - old)];
  }

  double y(int v) {
    return v < old ? mesh.xyz()[3 * v + 1] : xyz[3 * (v - old) + 1];
  }

  double z(int v) {
    return v < old ? mesh.xyz()[3 * v + 2] : xyz[3 * (v - old) + 2];
  }

  void corners(int piece, double[] nine) {
    for (int k = 0; k < 3; k++) {
      int v = corners[3 * piece + k];
      nine[3 * k] = x(v);
      nine[3 * k + 1] = y(v);
      nine[3 * k + 2] = z(v);
    }
  }

  /** A whole triangle of the mesh as a piece. */
  int addWhole(int t) {
    int p = add();
    System.arraycopy(mesh.triangles(), 3 * t, corners, 3 * p, 3);
    for (int k = 0; k < 3; k++) {
      weights[9 * p + 4 * k] = 1;
    }
    following[p] = -1;
    return p;
  }

  private int add() {
    if (count == following.length) {
      following = Arrays.copyOf(following, 2 * count);
      corners = Arrays.copyOf(corners, 6 * count);
      weights = Arrays.copyOf(weights, 18 * count);
    }
    return count++;
  }

  /** A vertex on the edge from a to b, at the share f of the way. */
  int addVertex(int a, int b, double f) {
    if (3 * vertices == xyz.length) {
      xyz = Arrays.copyOf(xyz, 6 * vertices);
    }
    int at = vertices++;
    xyz[3 * at] = x(a) + f * (x(b) - x(a));
    xyz[3 * at + 1] = y(a) + f * (y(b) - y(a));
    xyz[3 * at + 2] = z(a) + f * (z(b) - z(a));
    return added.between(a, b, (float) f);
  }

  /** Splits a piece and those that follow it wherever an edge of theirs has a new vertex. */
  void splitAll(int first, Map<Long, Integer> split) {
    int p = first;
    while (p >= 0) {
      int next = following[p];
      split(p, split);
      p = next;
    }
  }

  private void split(int p, Map<Long, Integer> split) {
    int edges = 0;
    int at = -1;
    int whole = -1;
    for (int k = 0; k < 3; k++) {
      if (split.containsKey(key(corners[3 * p + k], corners[3 * p + (k + 1) % 3]))) {
        edges++;
        at = k;
      } else {
        whole = k;
      }
    }
    if (edges == 1) {
      halve(p, at, split);
    } else if (edges == 2) {
      // The corner that the two split edges share is cut off; the rest is halved.
      int k = (whole + 1) % 3;
      int middle = halve(p, k, split);
      // What is left of the other split edge belongs to the half with the far corner.
      split(p, split);
      split(middle, split);
    } else if (edges == 3) {
      int other = halve(p, 0, split);
      split(p, split);
      split(other, split);
    }
  }

  /** Halves a piece at the vertex on its edge k; returns the new half. */
  private int halve(int p, int k, Map<Long, Integer> split) {
    int l = (k + 1) % 3;
    int m = (k + 2) % 3;
    int a = corners[3 * p + k];
    int b = corners[3 * p + l];
    int v = split.get(key(a, b));
    int q = add();
    corners[3 * q + k] = v;
    corners[3 * q + l] = b;
    corners[3 * q + m] = corners[3 * p + m];
    corners[3 * p + l] = v;
    double f = share(a, b, v);
    System.arraycopy(weights, 9 * p, weights, 9 * q, 9);
    for (int i = 0; i < 3; i++) {
      double from = weights[9 * p + 3 * k + i];
      double middle = from + f * (weights[9 * p + 3 * l + i] - from);
      weights[9 * q + 3 * k + i] = middle;
      weights[9 * p + 3 * l + i] = middle;
    }
    following[q] = following[p];
    following[p] = q;
    return q;
  }

  private double share(int a, int b, int v) {
    double dx = x(b) - x(a);
    double dy = y(b) - y(a);
    double dz = z(b) - z(a);
    double l2 = dx * dx + dy * dy + dz * dz;
    return l2 > 0 ? ((x(v) - x(a)) * dx + (y(v) - y(a)) * dy + (z(v) - z(a)) * dz) / l2 : 0.5;
  }

  /**
   * A mesh of triangles and pieces.
   *
   * @param triangles 3 old or new vertices each
   */
  Mesh assemble(Ranks kept, Redrawn pieces, int[] triangles, Work work) {
    float[] p = new float[3 * vertices];
    for (int i = 0; i < p.length; i++) {
      p[i] = (float) xyz[i];
    }
    return Assembly.of(mesh, kept, pieces, triangles, added, p, work).mesh();
  }
}
