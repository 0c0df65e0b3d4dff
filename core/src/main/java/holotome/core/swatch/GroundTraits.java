package holotome.core.swatch;

import holotome.core.task.Work;
import java.util.Arrays;

/**
 * What a piece of ground is told by, cell by cell: how light it is, its two tones, and how far it
 * lies over what is around it, each in robust standard deviations from what is usual there; and
 * what of it does not belong to the ground: what looks like nothing that is found all over it.
 * Joints of paving are found everywhere, a rope or a stain is not. O(cells).
 */
final class GroundTraits {
  static final int LIGHT = 0;
  static final int HEIGHT = 3;
  static final int COUNT = 4;

  /** Looks are told apart in steps of so many deviations, up to so many steps off the usual. */
  private static final double STEP = 2;

  private static final int MOST_STEPS = 5;
  private static final int LOOKS = 2 * MOST_STEPS + 1;

  /** The ground is parted into so many blocks each way, as many as a long has bits. */
  private static final int BLOCKS = 8;

  /** What belongs to the ground is found in so much of its blocks. */
  private static final double EVERYWHERE = 0.5;

  /** The median of absolute deviations of a normal distribution is so much of its deviation. */
  private static final double OF_DEVIATION = 0.6745;

  /** Differences below these are no traits: light and tones of 1 stand for white. */
  private static final double LEAST_TONE = 0.012;

  /** Fewer are not looked at for what is usual. */
  private static final int LOOKED_AT = 1 << 16;

  private final int columns;
  private final int rows;

  /** Trait by trait, cell by cell; 0 where nothing is seen. */
  final float[][] values = new float[COUNT][];

  /** 1 where something strange lies, or nothing. */
  final float[] strange;

  /** 1 where nothing is seen. */
  final float[] missing;

  /**
   * @param around over how many cells what is around a cell reaches each way
   */
  GroundTraits(GroundPicture ground, int around, Work work) {
    columns = ground.columns();
    rows = ground.rows();
    int n = columns * rows;
    missing = new float[n];
    for (int k = 0; k < COUNT; k++) {
      values[k] = new float[n];
    }
    for (int i = 0; i < n; i++) {
      missing[i] = ground.isSeen(i) ? 0 : 1;
      int c = ground.colours()[i];
      float r = (c >> 16 & 255) / 255f;
      float g = (c >> 8 & 255) / 255f;
      float b = (c & 255) / 255f;
      values[LIGHT][i] = (r + g + b) / 3;
      values[1][i] = r - g;
      values[2][i] = (r + g) / 2 - b;
    }
    work.advance(0.3);
    overAround(ground, around);
    work.check();
    work.advance(0.3);
    strange = missing.clone();
    for (int k = 0; k < COUNT; k++) {
      usual(k, k == HEIGHT ? 0 : LEAST_TONE);
      work.check();
    }
    mark();
    work.advance(0.4);
  }

  /** Heights over the mean of what is around. */
  private void overAround(GroundPicture ground, int around) {
    float[] seen = new float[columns * rows];
    for (int i = 0; i < seen.length; i++) {
      seen[i] = 1 - missing[i];
    }
    Sums heights = new Sums(ground.heights(), columns, rows);
    Sums counts = new Sums(seen, columns, rows);
    for (int j = 0; j < rows; j++) {
      for (int i = 0; i < columns; i++) {
        int at = j * columns + i;
        if (missing[at] == 0) {
          // As far to one side as to the other, or a slope would be taken for a step.
          int a = Math.min(around, Math.min(i, columns - 1 - i));
          int b = Math.min(around, Math.min(j, rows - 1 - j));
          double count = counts.of(i - a, j - b, i + a + 1, j + b + 1);
          double sum = heights.of(i - a, j - b, i + a + 1, j + b + 1);
          values[HEIGHT][at] = (float) (ground.heights()[at] - sum / count);
        }
      }
    }
  }

  /** Scales a trait by how it usually varies. */
  private void usual(int trait, double least) {
    float[] v = values[trait];
    int stride = Math.max(1, v.length / LOOKED_AT);
    double[] some = new double[v.length / stride + 1];
    int n = 0;
    for (int i = 0; i < v.length; i += stride) {
      if (missing[i] == 0) {
        some[n++] = v[i];
      }
    }
    if (n == 0) {
      return;
    }
    double middle = median(some, n);
    for (int i = 0; i < n; i++) {
      some[i] = Math.abs(some[i] - middle);
    }
    double deviation = Math.max(least, median(some, n) / OF_DEVIATION);
    double by = deviation > 0 ? 1 / deviation : 0;
    for (int i = 0; i < v.length; i++) {
      double off = missing[i] == 0 ? (v[i] - middle) * by : 0;
      v[i] = (float) off;
    }
  }

  /** Marks what looks as it does in few blocks only. */
  private void mark() {
    long[] blocks = new long[LOOKS * LOOKS * LOOKS * LOOKS];
    long seen = 0;
    for (int i = 0; i < missing.length; i++) {
      if (missing[i] == 0) {
        long bit = 1L << (i / columns * BLOCKS / rows * BLOCKS + i % columns * BLOCKS / columns);
        blocks[look(i)] |= bit;
        seen |= bit;
      }
    }
    // What looks nearly so counts with it: each trait a step to both sides.
    for (int stride = 1; stride < blocks.length; stride *= LOOKS) {
      long[] was = blocks.clone();
      for (int k = 0; k < blocks.length; k++) {
        int at = k / stride % LOOKS;
        blocks[k] |= at > 0 ? was[k - stride] : 0;
        blocks[k] |= at < LOOKS - 1 ? was[k + stride] : 0;
      }
    }
    double enough = EVERYWHERE * Long.bitCount(seen);
    for (int i = 0; i < missing.length; i++) {
      if (missing[i] == 0 && Long.bitCount(blocks[look(i)]) < enough) {
        strange[i] = 1;
      }
    }
  }

  private int look(int at) {
    int out = 0;
    for (float[] v : values) {
      int step = (int) Math.clamp(Math.rint(v[at] / STEP), -MOST_STEPS, MOST_STEPS);
      out = out * LOOKS + step + MOST_STEPS;
    }
    return out;
  }

  private static double median(double[] values, int n) {
    Arrays.sort(values, 0, n);
    return values[n / 2];
  }

  boolean isGround(int at) {
    return strange[at] == 0;
  }
}
