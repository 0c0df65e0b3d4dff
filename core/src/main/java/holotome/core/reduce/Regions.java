package holotome.core.reduce;

import holotome.core.array.Grouping;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Vertices dealt out into regions, near ones together: cells of a space-filling curve (Morton,
 * 1966), halved until none has more vertices than asked for. Each round the curve's grid lies
 * elsewhere, so that what was at the rim of a region comes to lie within one. In the same grid a
 * change somewhere leaves the regions elsewhere as they are.
 *
 * <p>A triangle belongs to a region if all its corners do; the corners of the others are locked.
 * About 20 bytes per vertex and 8 per triangle.
 */
final class Regions {
  private static final int GRAIN = 1 << 15;
  private static final int CELLS = 1 << 10;
  private static final int CURVE_BITS = 30;
  private static final int SIGN_BITS = 9;

  /** Keys are sorted in lots by so many bits of the curve's thirty, so many lots at a time. */
  private static final int LOT_BITS = 12;

  private static final int LOTS = 16;

  /** So many vertices tell where most of them lie. */
  private static final int SAMPLE = 1 << 12;

  final int count;

  /** The vertices of all regions, one region after the other. */
  final int[] order;

  /** Where each vertex stands in that order; nothing is said of those that no triangle uses. */
  final int[] place;

  /** Triangle numbers, those of each region together, those of none at the end. */
  final Grouping triangles;

  private final byte[] locked;

  /** Where each region begins in the order, and the end. */
  private final int[] first;

  /** The region of every so-manieth place in the order. */
  private final int[] signpost;

  /**
   * Deals out, in a grid about where most of the vertices are now.
   *
   * @param xyz 3 per vertex
   * @param tri 3 per triangle
   * @param size a region has at most so many vertices
   * @param round moves the grid
   */
  Regions(float[] xyz, int[] tri, int size, int round, Work work) {
    this(xyz, tri, size, round, null, work);
  }

  /**
   * Deals out.
   *
   * @param extent where most vertices are ({@link #extent}); null for where they are now
   */
  Regions(float[] xyz, int[] tri, int size, int round, double[] extent, Work work) {
    int n = xyz.length / 3;
    String label = CoreWords.of("work.ordering");
    byte[] used = used(n, tri, work.part(0.1, label));
    double[] grid = grid(extent == null ? extent(xyz, used) : extent, round);
    order = ordered(xyz, used, grid, work.part(0.4, label));
    first = cells(xyz, grid, size);
    count = first.length - 1;
    signpost = new int[(order.length >> SIGN_BITS) + 1];
    for (int i = 0, r = 0; i < signpost.length; i++) {
      while (r < count - 1 && first[r + 1] <= i << SIGN_BITS) {
        r++;
      }
      signpost[i] = r;
    }
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
            int a = regionOf(tri[3 * t]);
            region[t] = a;
            if (!isIn(a, tri[3 * t + 1]) || !isIn(a, tri[3 * t + 2])) {
              region[t] = count;
              locked[tri[3 * t]] = 1;
              locked[tri[3 * t + 1]] = 1;
              locked[tri[3 * t + 2]] = 1;
            }
          }
        });
    triangles = Grouping.of(region, count + 1, work.part(0.2, label));
  }

  private static byte[] used(int n, int[] tri, Work work) {
    byte[] used = new byte[n];
    Parallel.range(
        tri.length,
        GRAIN,
        work,
        (from, to) -> {
          for (int i = from; i < to; i++) {
            used[tri[i]] = 1;
          }
        });
    return used;
  }

  /** Where most of the vertices of a mesh are: for grids that are to be the same again. */
  static double[] extent(float[] xyz, int[] tri) {
    return extent(xyz, used(xyz.length / 3, tri, Work.unwatched()));
  }

  /** The region of a vertex. */
  int regionOf(int vertex) {
    int at = place[vertex];
    int r = signpost[at >> SIGN_BITS];
    while (first[r + 1] <= at) {
      r++;
    }
    return r;
  }

  private boolean isIn(int region, int vertex) {
    return place[vertex] >= first[region] && place[vertex] < first[region + 1];
  }

  /** Where a region's vertices begin in the order. */
  int firstVertex(int region) {
    return first[region];
  }

  int vertices(int region) {
    return first[region + 1] - first[region];
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
  private static int[] ordered(float[] xyz, byte[] used, double[] grid, Work work) {
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

  /** Where the cells of no more than so many vertices begin in the order, and the end. */
  private int[] cells(float[] xyz, double[] grid, int size) {
    int[] out = new int[16];
    int n = 0;
    // Cells yet to be looked at: where they begin and end, and the bit they are halved by.
    int[] stack = new int[3 * (CURVE_BITS + 2)];
    int top = 3;
    stack[1] = order.length;
    stack[2] = CURVE_BITS - 1;
    while (top > 0) {
      top -= 3;
      int from = stack[top];
      int to = stack[top + 1];
      int bit = stack[top + 2];
      int cut = from;
      while (to - from > size && bit >= 0 && (cut == from || cut == to)) {
        cut = firstWith(xyz, grid, from, to, bit--);
      }
      if (to - from > size && cut > from && cut < to) {
        stack[top++] = cut;
        stack[top++] = to;
        stack[top++] = bit;
        stack[top++] = from;
        stack[top++] = cut;
        stack[top++] = bit;
        continue;
      }
      // As small as a cell can be: cut by number.
      for (int at = from; at < to; at += size) {
        if (n + 2 > out.length) {
          out = Arrays.copyOf(out, 2 * out.length);
        }
        out[n++] = at;
      }
    }
    out[n++] = order.length;
    return Arrays.copyOf(out, n);
  }

  /** The first place from one on whose key has a bit; all before it have not. */
  private int firstWith(float[] xyz, double[] grid, int from, int to, int bit) {
    int low = from;
    int high = to;
    while (low < high) {
      int mid = (low + high) >>> 1;
      if ((curve(xyz, order[mid], grid) >> bit & 1) == 0) {
        low = mid + 1;
      } else {
        high = mid;
      }
    }
    return low;
  }

  /** Where the grid begins and how many cells a length has, twice as wide as an extent. */
  private static double[] grid(double[] extent, int round) {
    double[] out = extent.clone();
    double side = extent[3];
    // Irrational steps: no plane of the grid comes back to where one was.
    double[] step = {0.7548776662466927, 0.5698402909980532, 0.3819660112501051};
    for (int k = 0; k < 3; k++) {
      out[k] -= side * (0.1 + 0.8 * ((round * step[k]) % 1));
    }
    out[3] = side > 0 ? (CELLS - 0.001) / (2 * side) : 0;
    return out;
  }

  /** Where most of the vertices are, its corner and its side: a few far off make it no wider. */
  private static double[] extent(float[] xyz, byte[] used) {
    double[] out = new double[4];
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
        out[3] = Math.max(out[3], (double) at[n - 1 - n / 100] - at[n / 100]);
      }
    }
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
