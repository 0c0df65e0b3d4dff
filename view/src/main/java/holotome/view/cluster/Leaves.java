package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.words.ViewWords;
import java.util.Arrays;

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
    int[] list =
        deal(tree.leafOf, leaves, start, work.part(0.4, ViewWords.of("common.preparing-the-view")));
    Parallel.range(
        leaves,
        GRAIN,
        work.part(0.6, ViewWords.of("common.preparing-the-view")),
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
        work.part(0.5, ViewWords.of("common.preparing-the-view")),
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
        work.part(0.5, ViewWords.of("common.preparing-the-view")),
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
    private final IntIndex local = new IntIndex();
    private float[] sum = new float[3 * 1024];

    private void room(int vertices) {
      if (sum.length < 3 * vertices) {
        sum = Arrays.copyOf(sum, 6 * vertices);
      }
    }
  }

  /** Gives a leaf the triangles {@code list[from] ... list[to - 1]}. */
  void fill(Node leaf, int[] list, int from, int to, Scratch s) {
    leaf.leaf = LeafPieces.of(mesh, list, from, to);
    Piece[] pieces = leaf.leaf.make(s.local);
    Bounds bounds = new Bounds();
    for (Piece p : pieces) {
      bounds.add(p.xyz());
    }
    bounds.give(leaf);
    addNormals(leaf, pieces, s);
  }

  /** Sums up the normals of the leaf's own vertices, weighted by area, and of the leaf itself. */
  private void addNormals(Node leaf, Piece[] pieces, Scratch s) {
    int[] tri = mesh.triangles();
    boolean single = pieces.length == 1;
    if (!single) {
      s.local.clear();
    }
    float[] total = new float[3];
    int cleared = 0;
    for (Piece p : pieces) {
      float[] q = p.xyz();
      for (int i = 0; i < p.ids().length; i++) {
        int a = p.corners()[3 * i];
        int b = p.corners()[3 * i + 1];
        int c = p.corners()[3 * i + 2];
        float ux = q[3 * b] - q[3 * a];
        float uy = q[3 * b + 1] - q[3 * a + 1];
        float uz = q[3 * b + 2] - q[3 * a + 2];
        float vx = q[3 * c] - q[3 * a];
        float vy = q[3 * c + 1] - q[3 * a + 1];
        float vz = q[3 * c + 2] - q[3 * a + 2];
        float nx = uy * vz - uz * vy;
        float ny = uz * vx - ux * vz;
        float nz = ux * vy - uy * vx;
        total[0] += nx;
        total[1] += ny;
        total[2] += nz;
        if (!single) {
          int id = 3 * p.ids()[i];
          a = s.local.of(tri[id]);
          b = s.local.of(tri[id + 1]);
          c = s.local.of(tri[id + 2]);
        }
        if (cleared < s.local.size()) {
          s.room(s.local.size());
          Arrays.fill(s.sum, 3 * cleared, 3 * s.local.size(), 0);
          cleared = s.local.size();
        }
        add(s.sum, 3 * a, nx, ny, nz);
        add(s.sum, 3 * b, nx, ny, nz);
        add(s.sum, 3 * c, nx, ny, nz);
      }
    }
    leaf.nx = total[0];
    leaf.ny = total[1];
    leaf.nz = total[2];
    for (int l = 0; l < s.local.size(); l++) {
      int v = s.local.key(l);
      if (Cells.node(cells.of(mesh.xyz(), v), leaf.depth) == leaf.key) {
        normals[v] = PackedNormal.pack(s.sum[3 * l], s.sum[3 * l + 1], s.sum[3 * l + 2]);
      }
    }
  }

  private static void add(float[] sum, int at, float x, float y, float z) {
    sum[at] += x;
    sum[at + 1] += y;
    sum[at + 2] += z;
  }
}
