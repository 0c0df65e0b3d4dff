package holotome.core.topology;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/**
 * The open borders of a mesh as closed loops of half-edges.
 *
 * <p>A border half-edge is one without a regular twin. From the end of each, the loop goes on with
 * the border half-edge found by turning around the vertex through the triangles, so that two loops
 * that touch at a vertex stay apart. O(border) after adjacency.
 *
 * @param loops half-edge numbers, in walking order, one array per loop, longest first
 */
public record Borders(int[][] loops) {

  public static Borders of(Adjacency adjacency) {
    int[] tri = adjacency.mesh().triangles();
    int[] twin = adjacency.twin();
    int count = 0;
    for (int t : twin) {
      if (t == Adjacency.BORDER) {
        count++;
      }
    }
    int[] border = new int[count];
    count = 0;
    for (int h = 0; h < tri.length; h++) {
      if (twin[h] == Adjacency.BORDER) {
        border[count++] = h;
      }
    }
    boolean[] seen = new boolean[count];
    int[][] loops = new int[16][];
    int loopCount = 0;
    int[] path = new int[16];
    for (int i = 0; i < count; i++) {
      if (seen[i]) {
        continue;
      }
      int length = 0;
      int h = border[i];
      boolean closed = false;
      while (true) {
        int at = Arrays.binarySearch(border, h);
        if (at < 0 || seen[at]) {
          closed = length > 0 && h == border[i];
          break;
        }
        seen[at] = true;
        if (length == path.length) {
          path = Arrays.copyOf(path, 2 * length);
        }
        path[length++] = h;
        h = following(twin, h);
        if (h < 0) {
          break;
        }
      }
      if (closed || length > 0) {
        if (loopCount == loops.length) {
          loops = Arrays.copyOf(loops, 2 * loopCount);
        }
        loops[loopCount++] = Arrays.copyOf(path, length);
      }
    }
    int[][] result = Arrays.copyOf(loops, loopCount);
    Arrays.sort(result, (a, b) -> a.length != b.length ? b.length - a.length : a[0] - b[0]);
    return new Borders(result);
  }

  /**
   * The border half-edge that starts where h ends: turns around that vertex, triangle by triangle,
   * from h's own. -1 where the turn meets an edge that is neither regular nor border.
   */
  private static int following(int[] twin, int h) {
    int g = Adjacency.next(h);
    int guard = 0;
    while (twin[g] >= 0) {
      g = Adjacency.next(twin[g]);
      if (++guard > 100_000) {
        return -1;
      }
    }
    return twin[g] == Adjacency.BORDER ? g : -1;
  }

  /** The vertices of a loop, in walking order: the start of each of its half-edges. */
  public static int[] vertices(Mesh mesh, int[] loop) {
    int[] v = new int[loop.length];
    for (int i = 0; i < loop.length; i++) {
      v[i] = mesh.triangles()[loop[i]];
    }
    return v;
  }

  /** The length along a loop, in the units of the mesh. */
  public static double perimeter(Mesh mesh, int[] loop) {
    double sum = 0;
    float[] xyz = mesh.xyz();
    for (int h : loop) {
      sum +=
          Vec.distance(
              Vec.at(xyz, mesh.triangles()[h]), Vec.at(xyz, mesh.triangles()[Adjacency.next(h)]));
    }
    return sum;
  }

  /**
   * How many border edges have both ends where those of another border edge stand: there the
   * surface is torn, and welding closes it.
   *
   * @param first per vertex the first one on the same spot
   */
  public static int torn(Adjacency adjacency, int[] first) {
    int[] tri = adjacency.mesh().triangles();
    int[] twin = adjacency.twin();
    long[] edges = new long[64];
    int n = 0;
    for (int h = 0; h < tri.length; h++) {
      if (twin[h] == Adjacency.BORDER) {
        if (n == edges.length) {
          edges = Arrays.copyOf(edges, 2 * n);
        }
        int a = first[tri[h]];
        int b = first[tri[Adjacency.next(h)]];
        edges[n++] = (long) Math.min(a, b) << 32 | Math.max(a, b);
      }
    }
    Arrays.sort(edges, 0, n);
    int torn = 0;
    for (int i = 0; i < n; i++) {
      boolean twice = i > 0 && edges[i] == edges[i - 1] || i + 1 < n && edges[i] == edges[i + 1];
      torn += twice ? 1 : 0;
    }
    return torn;
  }
}
