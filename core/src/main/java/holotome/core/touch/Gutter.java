package holotome.core.touch;

import holotome.core.array.LongIndex;
import holotome.core.image.Image;
import java.util.Arrays;
import java.util.List;

/**
 * Carries changes on into the gutters of the charts, ring by ring of texels as padding does: each
 * is the mean of those beside it that lie nearer to the surface.
 */
final class Gutter {
  private static final int[] NEXT_X = {-1, 0, 1, -1, 1, -1, 0, 1};
  private static final int[] NEXT_Y = {-1, -1, -1, 0, 0, 1, 1, 1};

  private final TouchGround ground;
  private LongIndex open = new LongIndex();

  Gutter(TouchGround ground) {
    this.ground = ground;
  }

  /** Notes that a texel of the surface changed. */
  void changed(int x, int y) {
    open(x, y, 1, open);
  }

  private void open(int x, int y, int ring, LongIndex to) {
    for (int k = 0; k < NEXT_X.length; k++) {
      int u = x + NEXT_X[k];
      int v = y + NEXT_Y[k];
      if (ring(u, v) == ring) {
        to.add((long) v * ground.width() + u);
      }
    }
  }

  /** The ring of a texel; -1 beyond the picture or further out than is known. */
  private int ring(int x, int y) {
    boolean isIn = x >= 0 && y >= 0 && x < ground.width() && y < ground.height();
    return isIn ? ground.rings()[y * ground.width() + x] : -1;
  }

  /** Makes the rings around what changed. */
  void fill(List<Image.Editor> pictures, int[] channels, int rings) {
    double[] mean = new double[4];
    for (int ring = 1; ring <= rings && open.size() > 0; ring++) {
      LongIndex next = new LongIndex();
      for (int i = 0; i < open.size(); i++) {
        int x = (int) (open.key(i) % ground.width());
        int y = (int) (open.key(i) / ground.width());
        for (int p = 0; p < pictures.size(); p++) {
          mean(pictures.get(p), channels[p], x, y, ring, mean);
          pictures.get(p).set(x, y, mean);
        }
        open(x, y, ring + 1, next);
      }
      open = next;
    }
    open = new LongIndex();
  }

  private void mean(Image.Editor picture, int channels, int x, int y, int ring, double[] mean) {
    Arrays.fill(mean, 0);
    int n = 0;
    for (int k = 0; k < NEXT_X.length; k++) {
      int u = x + NEXT_X[k];
      int v = y + NEXT_Y[k];
      int of = ring(u, v);
      if (of >= 0 && of < ring) {
        n++;
        for (int c = 0; c < channels; c++) {
          mean[c] += picture.stored(u, v, c);
        }
      }
    }
    for (int c = 0; c < channels; c++) {
      mean[c] /= n;
    }
  }
}
