package holotome.core.touch;

import holotome.core.array.LongIndex;
import holotome.core.solve.EdgeSystem;
import java.util.Arrays;

/**
 * Values over a piece of surface, far coarser than texels: held at the corners of cubes in space
 * that the surface goes through, and read between them. What lies on two charts or on one is all
 * the same to it.
 */
final class SurfaceCells {
  private static final int BITS = 20;
  private static final int HALF = 1 << BITS;

  /** Corners with less than so many texels' weight are made from their neighbours. */
  private static final double LEAST = 0.25;

  /** Keeps corners that hang together with no known one from being left without a value. */
  private static final double HOLD = 1e-7;

  private final double size;
  private final int numbers;
  private final LongIndex index = new LongIndex();
  private double[] sum = new double[256];
  private double[] weight = new double[64];
  private final double[] share = new double[8];
  private final long[] keys = new long[8];

  /**
   * @param size of the cubes, in base units
   * @param numbers a value has
   */
  SurfaceCells(double size, int numbers) {
    this.size = size;
    this.numbers = numbers;
  }

  private void around(double x, double y, double z) {
    double gx = x / size;
    double gy = y / size;
    double gz = z / size;
    long ix = (long) Math.floor(gx);
    long iy = (long) Math.floor(gy);
    long iz = (long) Math.floor(gz);
    for (int k = 0; k < 8; k++) {
      int a = k & 1;
      int b = k >> 1 & 1;
      int c = k >> 2;
      keys[k] = key(ix + a, iy + b, iz + c);
      double fx = gx - ix;
      double fy = gy - iy;
      double fz = gz - iz;
      share[k] = (a == 1 ? fx : 1 - fx) * (b == 1 ? fy : 1 - fy) * (c == 1 ? fz : 1 - fz);
    }
  }

  private static long key(long x, long y, long z) {
    return (x + HALF & 2 * HALF - 1) << 2 * (BITS + 1)
        | (y + HALF & 2 * HALF - 1) << BITS + 1
        | z + HALF & 2 * HALF - 1;
  }

  private int add(long key) {
    int i = index.add(key);
    if (i == weight.length) {
      weight = Arrays.copyOf(weight, 2 * i);
    }
    if ((i + 1) * numbers > sum.length) {
      sum = Arrays.copyOf(sum, 2 * (i + 1) * numbers);
    }
    return i;
  }

  /** There is surface here, of whatever value. */
  void occupy(double x, double y, double z) {
    around(x, y, z);
    for (int k = 0; k < 8; k++) {
      if (share[k] > 0) {
        add(keys[k]);
      }
    }
  }

  /** There is surface of this value. */
  void put(double x, double y, double z, double[] value) {
    around(x, y, z);
    for (int k = 0; k < 8; k++) {
      if (share[k] > 0) {
        int i = add(keys[k]);
        weight[i] += share[k];
        for (int c = 0; c < numbers; c++) {
          sum[i * numbers + c] += share[k] * value[c];
        }
      }
    }
  }

  /** Whether any value was put. */
  boolean isKnown() {
    for (int i = 0; i < index.size(); i++) {
      if (weight[i] > LEAST) {
        return true;
      }
    }
    return false;
  }

  /**
   * Divides what was put by how much there was of it, and gives every corner without a value the
   * one that makes it the mean of those beside it: Laplace's equation, as in "Poisson Image
   * Editing", Perez and others, 2003, where differences from around are carried into a piece.
   */
  void spread() {
    int n = index.size();
    double[] mean = new double[numbers];
    double all = 0;
    for (int i = 0; i < n; i++) {
      for (int c = 0; c < numbers; c++) {
        mean[c] += sum[i * numbers + c];
        sum[i * numbers + c] = weight[i] > 0 ? sum[i * numbers + c] / weight[i] : 0;
      }
      all += weight[i];
    }
    int[] row = new int[n];
    int rows = 0;
    for (int i = 0; i < n; i++) {
      row[i] = weight[i] > LEAST ? -1 : rows++;
    }
    if (rows == 0 || all == 0) {
      return;
    }
    Unknowns u = new Unknowns(row, rows);
    for (int i = 0; i < n; i++) {
      if (row[i] >= 0) {
        u.join(i);
      }
    }
    EdgeSystem system = u.system();
    double[] pair = new double[2 * rows];
    for (int c = 0; c < numbers; c += 2) {
      boolean two = c + 1 < numbers;
      for (int r = 0; r < rows; r++) {
        pair[2 * r] = u.right[r * numbers + c] + HOLD * mean[c] / all;
        pair[2 * r + 1] = two ? u.right[r * numbers + c + 1] + HOLD * mean[c + 1] / all : 0;
      }
      system.solve(pair);
      for (int i = 0; i < n; i++) {
        if (row[i] >= 0) {
          sum[i * numbers + c] = pair[2 * row[i]];
          if (two) {
            sum[i * numbers + c + 1] = pair[2 * row[i] + 1];
          }
        }
      }
    }
  }

  /** The corners without a value and what joins them. */
  private final class Unknowns {
    private final int[] row;
    private final int rows;
    private final double[] extra;
    private final double[] right;
    private int[] ends = new int[256];
    private int edges;

    Unknowns(int[] row, int rows) {
      this.row = row;
      this.rows = rows;
      extra = new double[rows];
      right = new double[rows * numbers];
      Arrays.fill(extra, HOLD);
    }

    void join(int i) {
      long key = index.key(i);
      for (int axis = 0; axis < 3; axis++) {
        long step = 1L << axis * (BITS + 1);
        for (int way = -1; way <= 1; way += 2) {
          int j = index.find(key + way * step);
          if (j >= 0 && row[j] < 0) {
            extra[row[i]] += 1;
            for (int c = 0; c < numbers; c++) {
              right[row[i] * numbers + c] += sum[j * numbers + c];
            }
          } else if (j > i) {
            if (2 * edges + 2 > ends.length) {
              ends = Arrays.copyOf(ends, 2 * ends.length);
            }
            ends[2 * edges] = row[i];
            ends[2 * edges++ + 1] = row[j];
          }
        }
      }
    }

    EdgeSystem system() {
      double[] ones = new double[edges];
      Arrays.fill(ones, 1);
      return EdgeSystem.of(rows, Arrays.copyOf(ends, 2 * edges), ones, extra);
    }
  }

  /** The value at a place, once {@link #spread}; whether there is any. */
  boolean read(double x, double y, double z, double[] out) {
    double whole = 0;
    Arrays.fill(out, 0, numbers, 0);
    double gx = x / size;
    double gy = y / size;
    double gz = z / size;
    long ix = (long) Math.floor(gx);
    long iy = (long) Math.floor(gy);
    long iz = (long) Math.floor(gz);
    double fx = gx - ix;
    double fy = gy - iy;
    double fz = gz - iz;
    for (int k = 0; k < 8; k++) {
      int a = k & 1;
      int b = k >> 1 & 1;
      int c = k >> 2;
      double s = (a == 1 ? fx : 1 - fx) * (b == 1 ? fy : 1 - fy) * (c == 1 ? fz : 1 - fz);
      int i = s > 0 ? index.find(key(ix + a, iy + b, iz + c)) : -1;
      if (i >= 0) {
        whole += s;
        for (int m = 0; m < numbers; m++) {
          out[m] += s * sum[i * numbers + m];
        }
      }
    }
    for (int m = 0; m < numbers && whole > 0; m++) {
      out[m] /= whole;
    }
    return whole > 0;
  }
}
