package holotome.core.reduce;

import holotome.core.array.Grouping;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Vertices dealt out into regions of about the same number, near ones together: runs along a
 * space-filling curve (Morton, 1966). Each round the curve's grid lies elsewhere, so that what was
 * at the rim of a region comes to lie within one.
 *
 * <p>A triangle belongs to a region if all its corners do; the corners of the others are locked.
 * About 20 bytes per vertex and 8 per triangle.
 */
final class Regions {
  private static final int GRAIN = 1 << 15;
  private static final int CELLS = 1 << 10;

  /** Keys are sorted in lots by so many bits of the curve's thirty, so many lots at a time. */
  private static final int LOT_BITS = 12;

  private static final int LOTS = 16;

  /** So many vertices tell where most of them lie. */
  private static final int SAMPLE = 1 << 12;

  /** Each region has two to the power of so many vertices, the last one fewer. */
  final int bits;

  final int count;

  /** The vertices of all regions, one region after the other. */
  final int[] order;

  /** Where each vertex stands in that order; nothing is said of those that no triangle uses. */
  final int[] place;

  /** Triangle numbers, those of each region together, those of none at the end. */
  final Grouping triangles;

  private final byte[] locked;

  /**
   * Deals out.
   *
   * @param xyz 3 per vertex
   * @param tri 3 per triangle
   * @param size a region has at most so many vertices, rounded up to a power of two
   * @param round moves the grid
   */
  Regions(float[] xyz, int[] tri, int size, int round, Work work) {
    int n = xyz.length / 3;
    String label = CoreWords.of("work.ordering");
    byte[] used = new byte[n];
    Parallel.range(
        tri.length,
        GRAIN,
        work.part(0.1, label),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            used[tri[i]] = 1;
          }
        });
    order = ordered(xyz, used, round, work.part(0.4, label));
    bits = 32 - Integer.numberOfLeadingZeros(Math.max(1, size) - 1);
    count = (order.length + (1 << bits) - 1) >> bits;
    place = new int[n];
    Parallel.range(
        order.length,
        GRAIN,
        work.part(0.1, label),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            place[order[i]] = i;
          }
        });
    locked = new byte[n];
    int[] region = new int[tri.length / 3];
    Parallel.range(
        region.length,
        GRAIN,
        work.part(0.2, label),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            int a = place[tri[3 * t]] >> bits;
            int b = place[tri[3 * t + 1]] >> bits;
            int c = place[tri[3 * t + 2]] >> bits;
            region[t] = a;
            if (a != b || b != c) {
              region[t] = count;
              locked[tri[3 * t]] = 1;
              locked[tri[3 * t + 1]] = 1;
              locked[tri[3 * t + 2]] = 1;
            }
          }
        });
    triangles = Grouping.of(region, count + 1, work.part(0.2, label));
  }

  /** Where a region's vertices begin in the order. */
  int firstVertex(int region) {
    return region << bits;
  }

  int vertices(int region) {
    return Math.min(1 << bits, order.length - firstVertex(region));
  }

  int firstTriangle(int region) {
    return triangles.start()[region];
  }

  int triangles(int region) {
    return triangles.start()[region + 1] - triangles.start()[region];
  }

  boolean isLocked(int vertex) {
    return locked[vertex] != 0;
  }

  /** The vertices that triangles use, along the curve. */
  private static int[] ordered(float[] xyz, byte[] used, int round, Work work) {
    int n = used.length;
    int[] before = new int[Parallel.chunks(n, GRAIN) + 1];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.1, CoreWords.of("work.ordering")),
        (c, from, to) -> {
          for (int v = from; v < to; v++) {
            before[c + 1] += used[v];
          }
        });
    for (int c = 1; c < before.length; c++) {
      before[c] += before[c - 1];
    }
    long[] keys = new long[before[before.length - 1]];
    double[] grid = grid(xyz, used, keys.length, round);
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.3, CoreWords.of("work.ordering")),
        (c, from, to) -> {
          int at = before[c];
          for (int v = from; v < to; v++) {
            if (used[v] != 0) {
              keys[at++] = (long) curve(xyz, v, grid) << 32 | v;
            }
          }
        });
    return sorted(keys, work.part(0.6, CoreWords.of("work.ordering")));
  }

  /** The vertices by their keys: dealt out by the first bits of the curve, then each lot sorted. */
  private static int[] sorted(long[] keys, Work work) {
    int[] lot = new int[keys.length];
    Parallel.range(
        lot.length,
        GRAIN,
        work.part(0.1, CoreWords.of("work.ordering")),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            lot[i] = (int) (keys[i] >>> 62 - LOT_BITS);
          }
        });
    Grouping by = Grouping.of(lot, 1 << LOT_BITS, work.part(0.4, CoreWords.of("work.ordering")));
    int[] order = by.order();
    Parallel.range(
        1 << LOT_BITS,
        LOTS,
        work.part(0.5, CoreWords.of("work.ordering")),
        (from, to) -> {
          for (int g = from; g < to; g++) {
            int first = by.start()[g];
            long[] own = new long[by.start()[g + 1] - first];
            for (int i = 0; i < own.length; i++) {
              own[i] = keys[order[first + i]];
            }
            Arrays.sort(own);
            for (int i = 0; i < own.length; i++) {
              order[first + i] = (int) own[i];
            }
          }
        });
    return order;
  }

  /**
   * Where the grid begins and how many cells a length has, twice as wide as most of the vertices
   * lie: a few far off do not make it coarse.
   */
  private static double[] grid(float[] xyz, byte[] used, int count, int round) {
    double[] out = new double[4];
    double side = 0;
    int every = Math.max(1, used.length / SAMPLE);
    float[] at = new float[used.length / every + 1];
    for (int k = 0; k < 3; k++) {
      int n = 0;
      for (int v = 0; v < used.length; v += every) {
        if (used[v] != 0) {
          at[n++] = xyz[3 * v + k];
        }
      }
      Arrays.sort(at, 0, n);
      if (n > 0) {
        out[k] = at[n / 100];
        side = Math.max(side, (double) at[n - 1 - n / 100] - at[n / 100]);
      }
    }
    // Irrational steps: no plane of the grid comes back to where one was.
    double[] step = {0.7548776662466927, 0.5698402909980532, 0.3819660112501051};
    for (int k = 0; k < 3; k++) {
      out[k] -= side * (0.1 + 0.8 * ((round * step[k]) % 1));
    }
    out[3] = side > 0 ? (CELLS - 0.001) / (2 * side) : 0;
    return out;
  }

  private static int curve(float[] xyz, int v, double[] grid) {
    int x = (int) Math.clamp((xyz[3 * v] - grid[0]) * grid[3], 0.0, CELLS - 1.0);
    int y = (int) Math.clamp((xyz[3 * v + 1] - grid[1]) * grid[3], 0.0, CELLS - 1.0);
    int z = (int) Math.clamp((xyz[3 * v + 2] - grid[2]) * grid[3], 0.0, CELLS - 1.0);
    return spread(x) << 2 | spread(y) << 1 | spread(z);
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
