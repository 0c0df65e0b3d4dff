package holotome.core.spatial;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;
import java.util.concurrent.atomic.AtomicLong;

/**
 * All pairs of points no farther apart than a distance, nearest first.
 *
 * <p>Points are dealt into a table of grid cells of four times that size by a hash, and each is
 * held against those of its own cell and of the ones no farther away than the distance, up to eight
 * in all; what shares a place in the table by chance is sorted out by the distance itself. O(n +
 * pairs log pairs) expected, on all cores but for the dealing; 12 bytes a point and 16 a pair.
 *
 * @param a the lower number of each pair
 * @param b the higher one
 * @param distance between them, rising; equal ones by their numbers
 */
public record NearPairs(int[] a, int[] b, float[] distance) {
  private static final int GRAIN = 1 << 14;

  /**
   * Finds the pairs; null where there are more than eight a point: the distance is then no small
   * one.
   *
   * @param points those to look at; null for all. No two of them should be on one spot
   * @param distance in the units of the points
   */
  public static NearPairs within(float[] xyz, BitSet points, double distance, Work work) {
    int n = xyz.length / 3;
    long most = Math.min(8L * n + 64, Integer.MAX_VALUE / 2);
    AtomicLong sum = new AtomicLong();
    Table t = new Table(xyz, points, distance);
    t.deal(work.part(0.3, CoreWords.of("work.comparing-points")));
    int[][] found = new int[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.5, CoreWords.of("work.comparing-points")),
        (c, from, to) -> {
          // Once there are too many the rest is not looked at: the answer is no all the same.
          found[c] = sum.get() > most ? new int[0] : t.pairs(from, to, most);
          sum.addAndGet(found[c].length / 2);
        });
    if (sum.get() > most) {
      return null;
    }
    NearPairs out = sorted(xyz, found, (int) sum.get());
    work.advance(0.2);
    return out;
  }

  private static NearPairs sorted(float[] xyz, int[][] found, int count) {
    int[] a = new int[count];
    int[] b = new int[count];
    long[] order = new long[count];
    int at = 0;
    for (int[] f : found) {
      for (int i = 0; i < f.length; i += 2) {
        a[at] = f[i];
        b[at] = f[i + 1];
        // Lengths are not below nought: their bits rise as they do.
        order[at] = (long) Float.floatToIntBits(length(xyz, a[at], b[at])) << 32 | at;
        at++;
      }
    }
    Arrays.parallelSort(order);
    int[] x = new int[count];
    int[] y = new int[count];
    float[] d = new float[count];
    for (int i = 0; i < count; i++) {
      int from = (int) order[i];
      x[i] = a[from];
      y[i] = b[from];
      d[i] = Float.intBitsToFloat((int) (order[i] >>> 32));
    }
    return new NearPairs(x, y, d);
  }

  public int count() {
    return a.length;
  }

  /** The distance of two points. */
  public static float length(float[] p, int a, int b) {
    double x = (double) p[3 * a] - p[3 * b];
    double y = (double) p[3 * a + 1] - p[3 * b + 1];
    double z = (double) p[3 * a + 2] - p[3 * b + 2];
    return (float) Math.sqrt(x * x + y * y + z * z);
  }

  /** Points by the cell they lie in. */
  private static final class Table {
    private final float[] xyz;
    private final BitSet points;
    private final double distance;
    private final double cell;
    private final int mask;
    private final int[] start;
    private final int[] order;

    Table(float[] xyz, BitSet points, double distance) {
      this.xyz = xyz;
      this.points = points;
      this.distance = distance;
      // Cells are not finer than floats of that size are told apart: else all would be one.
      this.cell = Math.max(4 * distance, Math.max(1e-30, 1e-7 * largest(xyz)));
      int n = xyz.length / 3;
      int places = Integer.highestOneBit(Math.clamp(n, 1 << 10, 1 << 29)) << 1;
      mask = places - 1;
      start = new int[places + 1];
      order = new int[n];
    }

    private static double largest(float[] xyz) {
      float most = 0;
      for (float x : xyz) {
        most = Math.max(most, Math.abs(x));
      }
      return most;
    }

    private boolean counts(int v) {
      return points == null || points.get(v);
    }

    private int place(long x, long y, long z) {
      long h = x * 0x9E3779B97F4A7C15L ^ y * 0xC2B2AE3D27D4EB4FL ^ z * 0x165667B19E3779F9L;
      return (int) (h ^ h >>> 32) & mask;
    }

    private long cellOf(double x) {
      return (long) Math.floor(x / cell);
    }

    private int placeOf(int v) {
      return place(cellOf(xyz[3 * v]), cellOf(xyz[3 * v + 1]), cellOf(xyz[3 * v + 2]));
    }

    void deal(Work work) {
      int n = order.length;
      int[] at = new int[n];
      Parallel.range(
          n,
          GRAIN,
          work.part(0.5, ""),
          (from, to) -> {
            for (int v = from; v < to; v++) {
              at[v] = counts(v) ? placeOf(v) : -1;
            }
          });
      for (int v = 0; v < n; v++) {
        if (at[v] >= 0) {
          start[at[v] + 1]++;
        }
      }
      work.check();
      for (int i = 0; i < mask + 1; i++) {
        start[i + 1] += start[i];
      }
      for (int v = n - 1; v >= 0; v--) {
        if (at[v] >= 0) {
          order[--start[at[v] + 1]] = v;
        }
      }
      // Each start was counted down to its own cell's: they stand one place too far on.
      System.arraycopy(start, 1, start, 0, mask + 1);
      int sum = 0;
      for (int v = 0; v < n; v++) {
        sum += at[v] >= 0 ? 1 : 0;
      }
      start[mask + 1] = sum;
      work.advance(0.5);
    }

    /** The pairs whose higher number is one of those, two numbers each; no more than needed. */
    int[] pairs(int from, int to, long most) {
      int[] out = new int[64];
      int n = 0;
      int[] seen = new int[8];
      for (int v = from; v < to && n / 2 <= most; v++) {
        if (!counts(v)) {
          continue;
        }
        double px = xyz[3 * v];
        double py = xyz[3 * v + 1];
        double pz = xyz[3 * v + 2];
        int places = 0;
        for (int k = 0; k < 8; k++) {
          // The far corners of a cube of twice the distance around the point: its cells.
          int p =
              place(
                  cellOf(px + ((k & 1) == 0 ? -distance : distance)),
                  cellOf(py + ((k & 2) == 0 ? -distance : distance)),
                  cellOf(pz + ((k & 4) == 0 ? -distance : distance)));
          boolean again = false;
          for (int i = 0; i < places && !again; i++) {
            again = seen[i] == p;
          }
          if (again) {
            continue;
          }
          seen[places++] = p;
          for (int i = start[p]; i < start[p + 1] && order[i] < v; i++) {
            if (length(xyz, order[i], v) <= distance) {
              if (n + 2 > out.length) {
                out = Arrays.copyOf(out, 2 * out.length);
              }
              out[n++] = order[i];
              out[n++] = v;
            }
          }
        }
      }
      return Arrays.copyOf(out, n);
    }
  }
}
