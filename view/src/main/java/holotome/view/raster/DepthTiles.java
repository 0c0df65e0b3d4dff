package holotome.view.raster;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.buffer.VisibilityBuffer;
import java.util.Arrays;

/**
 * The farthest depth in each tile of 8 x 8 pixels of a visibility buffer: what lies wholly behind
 * that is hidden (after Greene, Kass and Miller, "Hierarchical Z-buffer visibility", 1993, with one
 * level). A tile with an empty pixel hides nothing.
 */
public final class DepthTiles {
  private static final int BITS = 3;

  /** What covers more tiles than this is not worth the asking. */
  private static final int MOST = 400;

  private final VisibilityBuffer buffer;
  private final int across;
  private final int down;
  private final float[] farthest;

  public DepthTiles(VisibilityBuffer buffer) {
    this.buffer = buffer;
    across = (buffer.width() + 7) >> BITS;
    down = (buffer.height() + 7) >> BITS;
    farthest = new float[across * down];
    Arrays.fill(farthest, Float.POSITIVE_INFINITY);
  }

  /** Takes the depths over as they are now. */
  public void update() {
    Parallel.range(
        down,
        4,
        Work.unwatched(),
        (from, to) -> {
          for (int r = from; r < to; r++) {
            for (int c = 0; c < across; c++) {
              farthest[r * across + c] = farthest(c, r);
            }
          }
        });
  }

  private float farthest(int c, int r) {
    int w = buffer.width();
    int x1 = Math.min(w, (c + 1) << BITS);
    int y1 = Math.min(buffer.height(), (r + 1) << BITS);
    long most = 0;
    for (int y = r << BITS; y < y1; y++) {
      for (int i = y * w + (c << BITS); i < y * w + x1; i++) {
        most = Math.max(most, buffer.cells[i]);
      }
    }
    return most == VisibilityBuffer.EMPTY ? Float.POSITIVE_INFINITY : VisibilityBuffer.depth(most);
  }

  /** Whether all of a rectangle of pixels is nearer than a depth; outside of the buffer too. */
  boolean hides(double x0, double y0, double x1, double y1, double depth) {
    int c0 = (int) Math.max(0, Math.floor(x0)) >> BITS;
    int r0 = (int) Math.max(0, Math.floor(y0)) >> BITS;
    int c1 = (int) Math.min(buffer.width() - 1, Math.ceil(x1)) >> BITS;
    int r1 = (int) Math.min(buffer.height() - 1, Math.ceil(y1)) >> BITS;
    if ((long) (c1 - c0 + 1) * (r1 - r0 + 1) > MOST) {
      return false;
    }
    for (int r = r0; r <= r1; r++) {
      for (int c = c0; c <= c1; c++) {
        if (farthest[r * across + c] >= depth) {
          return false;
        }
      }
    }
    return true;
  }
}
