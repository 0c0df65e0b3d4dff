package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Fills the leaves of a hierarchy with the true triangles: each leaf takes all that have a corner
 * in it, so that neighbours overlap by a row of triangles and no gap opens between a leaf and a
 * lighter neighbour. Works out the normals of the mesh's vertices on the way: a leaf has all the
 * triangles around each of its vertices.
 */
final class Leaves {
  private static final int GRAIN = 32;

  private final Mesh mesh;
  private final Cells cells;
  private final int[] normals;

  /**
   * @param normals packed, one per vertex of the mesh; filled for the vertices of the leaves made
   */
  Leaves(Mesh mesh, Cells cells, int[] normals) {
    this.mesh = mesh;
    this.cells = cells;
    this.normals = normals;
  }

  /** Fills all leaves of a tree. */
  void fill(VertexTree tree, Work work) {
    int leaves = tree.leaves.size();
    int[] start = new int[leaves + 1];
    int[] list = deal(tree.leafOf, leaves, start, work.part(0.4, "Preparing the view"));
    Parallel.range(
        leaves,
        GRAIN,
        work.part(0.6, "Preparing the view"),
        (from, to) -> {
          Scratch s = new Scratch();
          for (int i = from; i < to; i++) {
            fill(tree.leaves.get(i), list, start[i], start[i + 1], s);
          }
        });
  }

  /** Lists the triangles of each leaf, in their order; the same for any number of threads. */
  private int[] deal(int[] leafOf, int leaves, int[] start, Work work) {
    int n = mesh.triangleCount();
    int stretch = Math.max(1 << 16, n / 16 + 1);
    int[][] count = new int[Parallel.chunks(n, stretch)][];
    Parallel.chunked(
        n,
        stretch,
        work.part(0.5, "Preparing the view"),
        (c, from, to) -> {
          int[] k = new int[leaves];
          for (int t = from; t < to; t++) {
            put(leafOf, t, k, null);
          }
          count[c] = k;
        });
    for (int i = 0; i < leaves; i++) {
      int at = start[i];
      for (int[] k : count) {
        int here = k[i];
        k[i] = at;
        at += here;
      }
      start[i + 1] = at;
    }
    int[] list = new int[start[leaves]];
    Parallel.chunked(
        n,
        stretch,
        work.part(0.5, "Preparing the view"),
        (c, from, to) -> {
          for (int t = from; t < to; t++) {
            put(leafOf, t, count[c], list);
          }
        });
    return list;
  }

  private void put(int[] leafOf, int t, int[] at, int[] list) {
    int[] tri = mesh.triangles();
    int a = leafOf[tri[3 * t]];
    int b = leafOf[tri[3 * t + 1]];
    int c = leafOf[tri[3 * t + 2]];
    put(at, a, list, t);
    if (b != a) {
      put(at, b, list, t);
    }
    if (c != a && c != b) {
      put(at, c, list, t);
    }
  }

  private static void put(int[] at, int leaf, int[] list, int t) {
    if (list != null) {
      list[at[leaf]] = t;
    }
    at[leaf]++;
  }

  /** Working arrays of one thread. */
  static final class Scratch {
    final LongIndex local = new LongIndex();
    private float[] sum = new float[3 * 1024];
    private int[] vertex = new int[1024];

    /** The local number of a vertex; of a new one the sum begins at null. */
    private int number(int v) {
      int known = local.size();
      int l = local.of(v);
      if (l == known) {
        if (l == vertex.length) {
          vertex = Arrays.copyOf(vertex, 2 * l);
          sum = Arrays.copyOf(sum, 6 * l);
        }
        vertex[l] = v;
        Arrays.fill(sum, 3 * l, 3 * l + 3, 0);
      }
      return l;
    }
  }

  /** Gives a leaf the triangles {@code list[from] ... list[to - 1]}. */
  void fill(Node leaf, int[] list, int from, int to, Scratch s) {
    List<Piece> pieces = new ArrayList<>(1);
    Bounds bounds = new Bounds();
    for (int at = from; at < to; at += Piece.MOST) {
      int[] ids = Arrays.copyOfRange(list, at, Math.min(to, at + Piece.MOST));
      Piece p = piece(ids, s.local);
      pieces.add(p);
      bounds.add(p.xyz());
    }
    leaf.pieces = pieces.toArray(Piece[]::new);
    bounds.give(leaf);
    addNormals(leaf, s);
  }

  private Piece piece(int[] ids, LongIndex local) {
    int[] tri = mesh.triangles();
    char[] corners = new char[3 * ids.length];
    local.clear();
    int[] vertex = new int[corners.length];
    for (int i = 0; i < ids.length; i++) {
      for (int k = 0; k < 3; k++) {
        int v = tri[3 * ids[i] + k];
        int l = local.of(v);
        vertex[l] = v;
        corners[3 * i + k] = (char) l;
      }
    }
    float[] xyz = new float[3 * local.size()];
    for (int l = 0; l < local.size(); l++) {
      System.arraycopy(mesh.xyz(), 3 * vertex[l], xyz, 3 * l, 3);
    }
    return new Piece(xyz, corners, ids, null, null, true);
  }

  /** Sums up the normals of the leaf's own vertices, weighted by area, and of the leaf itself. */
  private void addNormals(Node leaf, Scratch s) {
    int[] tri = mesh.triangles();
    s.local.clear();
    double x = 0;
    double y = 0;
    double z = 0;
    for (Piece p : leaf.pieces) {
      for (int i = 0; i < p.ids().length; i++) {
        float[] q = p.xyz();
        int a = 3 * p.corners()[3 * i];
        int b = 3 * p.corners()[3 * i + 1];
        int c = 3 * p.corners()[3 * i + 2];
        float ux = q[b] - q[a];
        float uy = q[b + 1] - q[a + 1];
        float uz = q[b + 2] - q[a + 2];
        float vx = q[c] - q[a];
        float vy = q[c + 1] - q[a + 1];
        float vz = q[c + 2] - q[a + 2];
        float nx = uy * vz - uz * vy;
        float ny = uz * vx - ux * vz;
        float nz = ux * vy - uy * vx;
        x += nx;
        y += ny;
        z += nz;
        for (int k = 0; k < 3; k++) {
          int l = s.number(tri[3 * p.ids()[i] + k]);
          s.sum[3 * l] += nx;
          s.sum[3 * l + 1] += ny;
          s.sum[3 * l + 2] += nz;
        }
      }
    }
    leaf.nx = (float) x;
    leaf.ny = (float) y;
    leaf.nz = (float) z;
    for (int l = 0; l < s.local.size(); l++) {
      int v = s.vertex[l];
      if (Cells.node(cells.of(mesh.xyz(), v), leaf.depth) == leaf.key) {
        normals[v] = PackedNormal.pack(s.sum[3 * l], s.sum[3 * l + 1], s.sum[3 * l + 2]);
      }
    }
  }
}
