package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.concurrent.atomic.AtomicBoolean;

/**
 * Lets a picture run on past the charts' borders, so that filtering and smaller copies of it do not
 * pull in the background: outwards pixel by pixel up to the padding, and beyond that from ever
 * coarser averages of the whole (push-pull, Gortler and others, "The lumigraph", 1996).
 */
final class Padding {
  private static final int ROWS = 32;

  private final Image.Editor pixels;
  private final int channels;
  private final int width;
  private final int height;
  private final byte[] known;

  private Padding(Image.Editor pixels, int channels, int width, int height, byte[] known) {
    this.pixels = pixels;
    this.channels = channels;
    this.width = width;
    this.height = height;
    this.known = known;
  }

  /**
   * @param pixels all tiles its own, see {@link Image#begun}
   * @param kind a picture of the kind that {@code pixels} makes
   * @param covered 1 for the pixels that have a value, by rows
   * @param whole whether all that is beyond the padding is filled too
   */
  static void fill(
      Image.Editor pixels, Image kind, byte[] covered, int padding, boolean whole, Work work) {
    new Padding(pixels, kind.channels(), kind.width(), kind.height(), covered.clone())
        .fill(kind, padding, whole, work);
  }

  private void fill(Image kind, int padding, boolean whole, Work work) {
    for (int ring = 0; ring < padding; ring++) {
      byte[] before = known.clone();
      AtomicBoolean any = new AtomicBoolean();
      // Known pixels are only read and unknown ones only written: rows do not depend on each other.
      Parallel.range(
          height,
          ROWS,
          work.part(1.0 / padding, CoreWords.of("work.padding")),
          (from, to) -> {
            double[] mean = new double[4];
            work.check();
            for (int i = from * width; i < to * width; i++) {
              if (before[i] == 0 && near(before, i % width, i / width, mean)) {
                pixels.set(i % width, i / width, mean);
                known[i] = 1;
                any.setPlain(true);
              }
            }
          });
      if (!any.get()) {
        break;
      }
    }
    work.check();
    if (whole) {
      pushPull(kind, work);
    }
  }

  /** The mean of a pixel's known neighbours; whether it has any. */
  private boolean near(byte[] before, int x, int y, double[] mean) {
    return mean(before, x - 1, y - 1, 3, mean);
  }

  /** The mean of the known pixels of a square; whether there is any. */
  private boolean mean(byte[] of, int x0, int y0, int side, double[] mean) {
    int n = 0;
    Arrays.fill(mean, 0);
    for (int v = Math.max(0, y0); v < Math.min(height, y0 + side); v++) {
      for (int u = Math.max(0, x0); u < Math.min(width, x0 + side); u++) {
        if (of[v * width + u] != 0) {
          for (int c = 0; c < channels; c++) {
            mean[c] += pixels.stored(u, v, c);
          }
          n++;
        }
      }
    }
    for (int c = 0; c < channels && n > 0; c++) {
      mean[c] /= n;
    }
    return n > 0;
  }

  private void pushPull(Image kind, Work work) {
    if (width == 1 && height == 1) {
      return;
    }
    int halfWidth = (width + 1) / 2;
    int halfHeight = (height + 1) / 2;
    byte[] coarseKnown = new byte[halfWidth * halfHeight];
    Image.Editor coarse = Image.begun(halfWidth, halfHeight, channels, kind.sample(), kind.space());
    Padding next = new Padding(coarse, channels, halfWidth, halfHeight, coarseKnown);
    Parallel.range(
        halfHeight,
        ROWS,
        Work.unwatched(),
        (from, to) -> {
          double[] mean = new double[4];
          work.check();
          for (int y = from; y < to; y++) {
            for (int x = 0; x < halfWidth; x++) {
              if (mean(known, 2 * x, 2 * y, 2, mean)) {
                coarse.set(x, y, mean);
                coarseKnown[y * halfWidth + x] = 1;
              }
            }
          }
        });
    next.pushPull(kind, work);
    Parallel.range(
        height,
        ROWS,
        Work.unwatched(),
        (from, to) -> {
          double[] mean = new double[4];
          work.check();
          for (int y = from; y < to; y++) {
            for (int x = 0; x < width; x++) {
              if (known[y * width + x] == 0) {
                for (int c = 0; c < channels; c++) {
                  mean[c] = coarse.stored(x / 2, y / 2, c);
                }
                pixels.set(x, y, mean);
              }
            }
          }
        });
  }
}
