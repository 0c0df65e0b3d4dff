package holotome.core.swatch;

import holotome.core.image.Image;
import holotome.core.map.MapRule.Values;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * One picture of a Swatch on its way to a tile: what lies in the apron left of it and below is cut
 * over into its right and upper side, so that each side goes on in the other.
 *
 * <p>Colours are levelled and mixed as light, lengths as they are; directions are mixed and made
 * unit; numbers are taken from one side or the other.
 */
final class TilePicture {
  private static final int GRAIN = 32;

  /** The strips over which sides are levelled are so many parts of a side long. */
  private static final int STRETCHES = 12;

  private final Image picture;
  private final Values values;
  private final int tile;
  private final int over;
  private final int channels;

  /** What the right side has more than the apron that comes there, row by row. */
  private final float[] across;

  /** And the upper side, column by column of the tile. */
  private final float[] up;

  private int[] seamAcross;
  private int[] seamUp;
  private double soft;

  /**
   * @param tile pixels to a side of the tile
   */
  TilePicture(Image picture, Values values, int tile) {
    this.picture = picture;
    this.values = values;
    this.tile = tile;
    over = picture.width() - tile;
    channels = picture.channels();
    across = new float[channels * picture.height()];
    up = new float[channels * tile];
  }

  private boolean isLight() {
    return values == Values.COLOUR;
  }

  /** Takes out what opposite sides differ by in the large; only of what can be added to. */
  void level(boolean isUp) {
    if (values != Values.COLOUR && values != Values.LENGTH) {
      return;
    }
    float[] to = isUp ? up : across;
    int lines = to.length / channels;
    double[] a = new double[4];
    double[] b = new double[4];
    float[] sums = new float[to.length];
    for (int l = 0; l < lines; l++) {
      for (int i = 0; i < over; i++) {
        pair(isUp, l, i, a, b);
        for (int c = 0; c < channels; c++) {
          sums[channels * l + c] += (float) ((a[c] - b[c]) / over);
        }
      }
    }
    int half = Math.max(1, lines / STRETCHES);
    for (int l = 0; l < lines; l++) {
      for (int c = 0; c < channels; c++) {
        double sum = 0;
        int n = 0;
        for (int k = l - half; k <= l + half; k++) {
          // A tile goes on beyond its sides; the rows of the first cut do not.
          int at = isUp ? Math.floorMod(k, lines) : Math.clamp(k, 0, lines - 1);
          sum += sums[channels * at + c];
          n++;
        }
        to[channels * l + c] = (float) (sum / n);
      }
    }
  }

  /** What lies on a place of the strip that is cut through: its own, and what comes there. */
  private void pair(boolean isUp, int line, int i, double[] own, double[] other) {
    if (isUp) {
      joined(line, i, own);
      joined(line, i + tile, other);
    } else {
      levelled(tile + i, line, own);
      levelled(i, line, other);
    }
  }

  /**
   * Adds by how much both sides differ at each place of the strip, squared, of what the picture
   * ranges over.
   */
  void differing(boolean isUp, double range, float[] cost, Work work) {
    int lines = cost.length / over;
    Parallel.range(
        lines,
        GRAIN,
        work,
        (from, to) -> {
          double[] a = new double[4];
          double[] b = new double[4];
          for (int l = from; l < to; l++) {
            for (int i = 0; i < over; i++) {
              pair(isUp, l, i, a, b);
              double sum = 0;
              for (int c = 0; c < channels; c++) {
                double d = (a[c] - b[c]) / range;
                sum += d * d;
              }
              cost[l * over + i] += (float) sum;
            }
          }
        });
  }

  /**
   * Where it is cut.
   *
   * @param wide over how many pixels both sides are mixed
   */
  void cut(boolean isUp, int[] seam, double wide) {
    soft = wide;
    if (isUp) {
      seamUp = seam;
    } else {
      seamAcross = seam;
    }
  }

  /** A pixel as it is, colours as light. */
  private void raw(int x, int y, double[] v) {
    picture.stored(x, y, v);
    for (int c = 0; c < channels && isLight(); c++) {
      v[c] = picture.light(x, y, c);
    }
  }

  /** The same, its row levelled from side to side. */
  private void levelled(int x, int y, double[] v) {
    raw(x, y, v);
    double share = (double) (x - over) / tile - 0.5;
    for (int c = 0; c < channels; c++) {
      v[c] -= share * across[channels * y + c];
    }
  }

  /** A pixel of the tile's columns, of all rows, cut over at the right side. */
  private void joined(int x, int y, double[] v) {
    double share = seamAcross == null ? 0 : share(seamAcross, y, x - (tile - over), false);
    if (x < tile - over || share <= 0) {
      levelled(over + x, y, v);
    } else if (share >= 1) {
      levelled(x - (tile - over), y, v);
    } else {
      double[] other = new double[4];
      levelled(over + x, y, v);
      levelled(x - (tile - over), y, other);
      mix(v, other, share);
    }
    double f = 0.5 - (double) y / tile;
    for (int c = 0; c < channels; c++) {
      v[c] -= f * up[channels * x + c];
    }
  }

  /**
   * How much of what comes there a place of the strip has: the cut made soft along lines and, as it
   * may run along one, across them too.
   */
  private double share(int[] seam, int line, int place, boolean isUp) {
    int reach = (int) (soft / 2);
    int stride = Math.max(1, reach / 4);
    double sum = 0;
    int n = 0;
    for (int d = -reach / stride * stride; d <= reach; d += stride) {
      int at = line + d;
      // What comes there lies beyond the cut on the right, and above it at the top.
      int l = isUp ? Math.floorMod(at, seam.length) : Math.clamp(at, 0, seam.length - 1);
      double beyond = isUp ? seam[l] - place : place - seam[l];
      sum += Math.clamp(0.5 + (beyond + 0.5) / Math.max(1, soft), 0, 1);
      n++;
    }
    return sum / n;
  }

  private void mix(double[] v, double[] other, double share) {
    if (values == Values.NUMBER || values == Values.PLACE) {
      if (share >= 0.5) {
        System.arraycopy(other, 0, v, 0, channels);
      }
      return;
    }
    for (int c = 0; c < channels; c++) {
      v[c] += share * (other[c] - v[c]);
    }
    if (values == Values.DIRECTION || values == Values.TANGENT_DIRECTION) {
      double one = picture.sample().one();
      double length = 0;
      for (int c = 0; c < 3; c++) {
        v[c] = 2 * v[c] / one - 1;
        length += v[c] * v[c];
      }
      length = Math.max(1e-9, Math.sqrt(length));
      for (int c = 0; c < 3; c++) {
        v[c] = one * (v[c] / length + 1) / 2;
      }
    }
  }

  /** The tile. */
  Image made(Work work) {
    return Image.blank(tile, tile, channels, picture.sample(), picture.space())
        .filled(
            (x, y, v) -> {
              joined(x, y, v);
              double share = y < over ? share(seamUp, x, y, true) : 0;
              if (share > 0) {
                double[] other = new double[4];
                joined(x, y + tile, other);
                mix(v, other, share);
              }
              for (int c = 0; c < channels && isLight(); c++) {
                v[c] = picture.storedOfLight(Math.max(0, v[c]), c);
              }
            },
            work);
  }

  /**
   * How much neighbours differ, as stored, in the mean over all channels.
   *
   * @return across the sides of a tile, where it meets itself; and within it
   */
  static double[] steps(Image tile) {
    int n = tile.width();
    double[] out = new double[2];
    for (int i = 0; i < n; i++) {
      for (int c = 0; c < tile.channels(); c++) {
        out[0] += Math.abs(tile.stored(n - 1, i, c) - tile.stored(0, i, c));
        out[0] += Math.abs(tile.stored(i, n - 1, c) - tile.stored(i, 0, c));
        for (int k = 0; k + 1 < n; k++) {
          out[1] += Math.abs(tile.stored(k, i, c) - tile.stored(k + 1, i, c));
          out[1] += Math.abs(tile.stored(i, k, c) - tile.stored(i, k + 1, c));
        }
      }
    }
    double lines = 2.0 * n * tile.channels();
    return new double[] {out[0] / lines, out[1] / (lines * (n - 1))};
  }
}
