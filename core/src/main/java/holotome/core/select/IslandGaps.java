package holotome.core.select;

import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import java.util.BitSet;

/**
 * How far the islands lie from the largest one, vertex to vertex.
 *
 * <p>The largest island's vertices are marked in a grid of cells; an island is as far away as the
 * nearest marked cell to any of its vertices, told to within two cells' size. O(V) and a grid of at
 * most 4 M bits.
 */
public final class IslandGaps {
  private static final int MOST_CELLS = 1 << 22;

  private IslandGaps() {}

  /**
   * The gap per island in the units of the mesh, up to {@code limit}: what is farther counts as the
   * limit itself; 0 for the largest.
   */
  public static double[] of(Islands islands, Mesh mesh, double limit, Work work) {
    if (islands.count() < 2) {
      return new double[islands.count()];
    }
    Box box = mesh.bounds();
    double diagonal = Math.max(box.diagonal(), Double.MIN_NORMAL);
    double volume =
        Math.max(box.width(), diagonal / 1000)
            * Math.max(box.depth(), diagonal / 1000)
            * Math.max(box.height(), diagonal / 1000);
    double cell = Math.max(Math.cbrt(volume / MOST_CELLS), limit / 60);
    int nx = (int) (box.width() / cell) + 1;
    int ny = (int) (box.depth() / cell) + 1;
    int nz = (int) (box.height() / cell) + 1;
    Grid grid = new Grid(box, cell, nx, ny, nz, new BitSet(nx * ny * nz));
    int[] tri = mesh.triangles();
    int[] of = islands.ofTriangle();
    float[] p = mesh.xyz();
    for (int c = 0; c < tri.length; c++) {
      if (of[c / 3] == 0) {
        grid.marked.set(grid.cell(p, tri[c]));
      }
      if ((c & 0xfffff) == 0) {
        work.check();
      }
    }
    // Per island, the cells it fills are asked once each.
    double[] gap = new double[islands.count()];
    java.util.Arrays.fill(gap, 1, gap.length, limit);
    long[] asked = new long[of.length];
    int n = 0;
    int lastIsland = -1;
    int lastCell = -1;
    for (int t = 0; t < of.length; t++) {
      if (of[t] > 0) {
        int at = grid.cell(p, tri[3 * t]);
        if (of[t] != lastIsland || at != lastCell) {
          asked[n++] = (long) of[t] << 32 | at;
          lastIsland = of[t];
          lastCell = at;
        }
      }
    }
    java.util.Arrays.parallelSort(asked, 0, n);
    int unique = 0;
    for (int i = 0; i < n; i++) {
      if (i == 0 || asked[i] != asked[i - 1]) {
        asked[unique++] = asked[i];
      }
    }
    float[] found = new float[unique];
    Parallel.range(
        unique,
        64,
        work,
        (from, to) -> {
          for (int i = from; i < to; i++) {
            found[i] = (float) grid.nearest((int) asked[i], limit);
          }
        });
    for (int i = 0; i < unique; i++) {
      int island = (int) (asked[i] >>> 32);
      gap[island] = Math.min(gap[island], found[i]);
    }
    return gap;
  }

  private record Grid(Box box, double cell, int nx, int ny, int nz, BitSet marked) {
    int cell(float[] p, int v) {
      int x = Math.clamp((int) ((p[3 * v] - box.minX()) / cell), 0, nx - 1);
      int y = Math.clamp((int) ((p[3 * v + 1] - box.minY()) / cell), 0, ny - 1);
      int z = Math.clamp((int) ((p[3 * v + 2] - box.minZ()) / cell), 0, nz - 1);
      return (z * ny + y) * nx + x;
    }

    /** From a cell to the nearest marked one, by growing cubes. */
    double nearest(int at, double limit) {
      int x = at % nx;
      int y = at / nx % ny;
      int z = at / nx / ny;
      int most = (int) (limit / cell) + 1;
      double best = limit;
      for (int r = 0; r <= most && (r - 1) * cell < best; r++) {
        for (int k = Math.max(0, z - r); k <= Math.min(nz - 1, z + r); k++) {
          for (int j = Math.max(0, y - r); j <= Math.min(ny - 1, y + r); j++) {
            boolean face = Math.abs(k - z) == r || Math.abs(j - y) == r;
            int step = face ? 1 : Math.max(1, 2 * r);
            for (int i = x - r; i <= x + r; i += step) {
              if (i >= 0 && i < nx && marked.get((k * ny + j) * nx + i)) {
                best = Math.min(best, cell * Math.sqrt(sq(i - x) + sq(j - y) + sq(k - z)));
              }
            }
          }
        }
      }
      return best;
    }

    private static double sq(int n) {
      return (double) n * n;
    }
  }
}
