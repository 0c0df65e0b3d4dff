package holotome.core.bake;

import holotome.core.image.Colours;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.concurrent.atomic.AtomicBoolean;

/**
 * Lets colours run on past the charts' borders, so that filtering and smaller copies of the picture
 * do not pull in the background: outwards pixel by pixel up to the padding, and beyond that from
 * ever coarser averages of the whole (push-pull, Gortler and others, "The lumigraph", 1996).
 */
final class Padding {
  private static final int ROWS = 32;

  private Padding() {}

  static void fill(int[] pixels, byte[] covered, int size, int padding, Work work) {
    byte[] known = covered.clone();
    for (int ring = 0; ring < padding; ring++) {
      byte[] before = known.clone();
      AtomicBoolean any = new AtomicBoolean();
      // Known pixels are only read and unknown ones only written: rows do not depend on each other.
      Parallel.range(
          size,
          ROWS,
          work.part(1.0 / padding, "Padding"),
          (from, to) -> {
            for (int i = from * size; i < to * size; i++) {
              if (before[i] == 0 && near(pixels, before, size, i % size, i / size, i)) {
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
    pushPull(pixels, known, size);
  }

  /** Sets a pixel to the mean of its known neighbours; whether it has any. */
  private static boolean near(int[] pixels, byte[] known, int size, int x, int y, int i) {
    int r = 0;
    int g = 0;
    int b = 0;
    int n = 0;
    for (int dy = -1; dy <= 1; dy++) {
      for (int dx = -1; dx <= 1; dx++) {
        int u = x + dx;
        int v = y + dy;
        if (u >= 0 && v >= 0 && u < size && v < size && known[v * size + u] != 0) {
          int p = pixels[v * size + u];
          r += p >> 16 & 255;
          g += p >> 8 & 255;
          b += p & 255;
          n++;
        }
      }
    }
    if (n > 0) {
      pixels[i] = Colours.argb((double) r / n, (double) g / n, (double) b / n);
    }
    return n > 0;
  }

  private static void pushPull(int[] pixels, byte[] known, int size) {
    if (size == 1) {
      return;
    }
    int half = (size + 1) / 2;
    int[] coarse = new int[half * half];
    byte[] coarseKnown = new byte[half * half];
    for (int y = 0; y < half; y++) {
      for (int x = 0; x < half; x++) {
        int r = 0;
        int g = 0;
        int b = 0;
        int n = 0;
        for (int k = 0; k < 4; k++) {
          int u = 2 * x + (k & 1);
          int v = 2 * y + (k >> 1);
          if (u < size && v < size && known[v * size + u] != 0) {
            int p = pixels[v * size + u];
            r += p >> 16 & 255;
            g += p >> 8 & 255;
            b += p & 255;
            n++;
          }
        }
        if (n > 0) {
          coarse[y * half + x] = Colours.argb((double) r / n, (double) g / n, (double) b / n);
          coarseKnown[y * half + x] = 1;
        }
      }
    }
    pushPull(coarse, coarseKnown, half);
    for (int y = 0; y < size; y++) {
      for (int x = 0; x < size; x++) {
        if (known[y * size + x] == 0) {
          pixels[y * size + x] = 0xff000000 | coarse[y / 2 * half + x / 2];
        }
      }
    }
  }
}
