package holotome.core.trim;

import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;
import java.util.Arrays;
import java.util.Map;

/**
 * Triangles of a mesh being split at vertices on their edges; new vertices are numbered on from the
 * mesh's. Positions are kept in double precision until they are written out.
 */
final class Pieces {
  private final Mesh mesh;
  private final int old;

  /** New vertices: 3 doubles each, and their colours. */
  private double[] xyz = new double[3 * 64];

  private int[] colours = new int[64];
  private int vertices;
  private float[] uv = new float[2 * 64];
  private int uvs;
  private int[] corners = new int[3 * 64];
  private int[] uvCorners = new int[3 * 64];
  private int[] following = new int[64];
  private int count;

  Pieces(Mesh mesh) {
    this.mesh = mesh;
    this.old = mesh.vertexCount();
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

  int uvVertex(int piece, int k) {
    return uvCorners[3 * piece + k];
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
    if (mesh.uv() != null) {
      System.arraycopy(mesh.uv().corners(), 3 * t, uvCorners, 3 * p, 3);
    }
    following[p] = -1;
    return p;
  }

  private int add() {
    if (count == following.length) {
      following = Arrays.copyOf(following, 2 * count);
      corners = Arrays.copyOf(corners, 6 * count);
      uvCorners = Arrays.copyOf(uvCorners, 6 * count);
    }
    return count++;
  }

  /** A vertex on the edge from a to b, at the share f of the way. */
  int addVertex(int a, int b, double f) {
    if (vertices == colours.length) {
      colours = Arrays.copyOf(colours, 2 * vertices);
      xyz = Arrays.copyOf(xyz, 6 * vertices);
    }
    int at = vertices++;
    xyz[3 * at] = x(a) + f * (x(b) - x(a));
    xyz[3 * at + 1] = y(a) + f * (y(b) - y(a));
    xyz[3 * at + 2] = z(a) + f * (z(b) - z(a));
    if (mesh.colours() != null) {
      colours[at] = Colours.mix(colour(a), colour(b), (float) f);
    }
    return old + at;
  }

  private int colour(int v) {
    return v < old ? mesh.colours()[v] : colours[v - old];
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
    if (mesh.uv() != null) {
      int middle = addUv(uvCorners[3 * p + k], uvCorners[3 * p + l], share(a, b, v));
      uvCorners[3 * q + k] = middle;
      uvCorners[3 * q + l] = uvCorners[3 * p + l];
      uvCorners[3 * q + m] = uvCorners[3 * p + m];
      uvCorners[3 * p + l] = middle;
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

  private int addUv(int a, int b, double f) {
    if (2 * uvs == uv.length) {
      uv = Arrays.copyOf(uv, 2 * uv.length);
    }
    int n = mesh.uv().coords().length / 2;
    for (int k = 0; k < 2; k++) {
      float from = uvAt(2 * a + k);
      uv[2 * uvs + k] = (float) (from + f * (uvAt(2 * b + k) - from));
    }
    return n + uvs++;
  }

  private float uvAt(int i) {
    float[] c = mesh.uv().coords();
    return i < c.length ? c[i] : uv[i - c.length];
  }

  /** A mesh of the triangles given by old and new vertices. */
  Mesh assemble(int[] triangles, int[] uvTriangles, short[] material) {
    float[] p = new float[3 * vertices];
    for (int i = 0; i < p.length; i++) {
      p[i] = (float) xyz[i];
    }
    return Assembly.of(
            mesh,
            triangles,
            uvTriangles,
            material,
            p,
            mesh.colours() == null ? null : Arrays.copyOf(colours, vertices),
            uvTriangles == null ? null : Arrays.copyOf(uv, 2 * uvs))
        .mesh();
  }
}
