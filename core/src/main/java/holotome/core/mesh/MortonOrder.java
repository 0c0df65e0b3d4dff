package holotome.core.mesh;

import holotome.core.geometry.Box;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Puts the vertices and triangles of a mesh in the order of a space-filling curve (Morton, 1966),
 * so that what lies near in space lies near in memory. O(n log n).
 *
 * @param mesh the shape alone, in that order
 * @param vertex the new number of each vertex
 * @param triangle the old number of each triangle
 */
public record MortonOrder(Mesh mesh, int[] vertex, int[] triangle) {
  private static final int GRAIN = 1 << 16;

  /** Orders a mesh. */
  public static MortonOrder of(Mesh mesh, Work work) {
    int n = mesh.vertexCount();
    Box b = mesh.bounds();
    double side = Math.max(1e-300, Math.max(b.width(), Math.max(b.depth(), b.height())));
    double k = 1023.999 / side;
    float[] p = mesh.xyz();
    long[] keys = new long[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.1, CoreWords.of("work.ordering")),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            int x = (int) ((p[3 * v] - b.minX()) * k);
            int y = (int) ((p[3 * v + 1] - b.minY()) * k);
            int z = (int) ((p[3 * v + 2] - b.minZ()) * k);
            keys[v] = (long) (spread(x) << 2 | spread(y) << 1 | spread(z)) << 32 | v;
          }
        });
    Arrays.parallelSort(keys);
    work.advance(0.4);
    float[] xyz = new float[3 * n];
    int[] place = new int[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.1, CoreWords.of("work.ordering")),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            int v = (int) keys[i];
            place[v] = i;
            System.arraycopy(p, 3 * v, xyz, 3 * i, 3);
          }
        });
    int[] from = new int[mesh.triangleCount()];
    int[] triangles = triangles(mesh.triangles(), place, from);
    return new MortonOrder(new Mesh(xyz, triangles), place, from);
  }

  /** Triangles renumbered, dealt out by their lowest vertex; each begins where it began. */
  private static int[] triangles(int[] tri, int[] place, int[] from) {
    int[] start = new int[place.length + 1];
    for (int i = 0; i < tri.length; i += 3) {
      start[lowest(tri, i, place) + 1]++;
    }
    for (int v = 0; v < place.length; v++) {
      start[v + 1] += start[v];
    }
    int[] out = new int[tri.length];
    for (int i = 0; i < tri.length; i += 3) {
      int at = 3 * start[lowest(tri, i, place)]++;
      from[at / 3] = i / 3;
      out[at] = place[tri[i]];
      out[at + 1] = place[tri[i + 1]];
      out[at + 2] = place[tri[i + 2]];
    }
    return out;
  }

  private static int lowest(int[] tri, int i, int[] place) {
    return Math.min(place[tri[i]], Math.min(place[tri[i + 1]], place[tri[i + 2]]));
  }

  /** Spreads ten bits to every third place. */
  private static int spread(int x) {
    int v = x & 0x3ff;
    v = (v | v << 16) & 0x030000ff;
    v = (v | v << 8) & 0x0300f00f;
    v = (v | v << 4) & 0x030c30c3;
    return (v | v << 2) & 0x09249249;
  }
}
