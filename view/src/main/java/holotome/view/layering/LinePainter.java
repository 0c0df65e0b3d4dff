package holotome.view.layering;

import holotome.core.image.Colours;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.scene.Layer;
import holotome.view.scene.LineLayer;

/**
 * Draws lines over a picture with soft edges and round ends, each pixel held against the depth seen
 * there. Where lines of one layer cross or join, the stronger counts, so that joints do not darken.
 * Bands of rows are drawn side by side: cost is the lines times a sixteenth of the rows, and the
 * pixels covered.
 */
public final class LinePainter {
  private static final int BAND = 16;
  private static final float FAINT = 0.25f;

  /** Numbers per line in {@link #flat}: x, y, depth of both ends. */
  private static final int SIZE = 6;

  private final LineLayer layer;
  private final Ground ground;
  private final float half;

  /** The ends in pixels and depth; a line with nothing to be seen has NaN. */
  private final float[] flat;

  private LinePainter(LineLayer layer, Ground ground) {
    this.layer = layer;
    this.ground = ground;
    half = (float) (layer.width() * ground.scale() / 2);
    flat = new float[SIZE * layer.count()];
    double[] ends = new double[8];
    for (int i = 0; i < layer.count(); i++) {
      project(i, ends);
    }
  }

  /** Draws a layer's lines. */
  public static void draw(LineLayer layer, Ground ground, Work work) {
    LinePainter p = new LinePainter(layer, ground);
    Parallel.range(ground.height(), BAND, work, (from, to) -> p.band(ground.pixels(), from, to));
  }

  /** Cuts a line at the near plane and the clipping plane and puts it into pixels. */
  private void project(int line, double[] ends) {
    double[] m = ground.toPixels();
    double[] e = layer.ends();
    double from = 0;
    double to = 1;
    double[] near = new double[2];
    double[] side = new double[2];
    for (int k = 0; k < 2; k++) {
      int at = 6 * line + 3 * k;
      for (int r = 0; r < 4; r++) {
        ends[4 * k + r] =
            m[4 * r] * e[at] + m[4 * r + 1] * e[at + 1] + m[4 * r + 2] * e[at + 2] + m[4 * r + 3];
      }
      near[k] = ends[4 * k + 2];
      side[k] = ground.beyondClip(e[at], e[at + 1], e[at + 2]);
    }
    for (double[] f : new double[][] {near, side}) {
      if (f[0] < 0 && f[1] < 0) {
        from = Double.NaN;
      } else if (f[0] < 0) {
        from = Math.max(from, f[0] / (f[0] - f[1]));
      } else if (f[1] < 0) {
        to = Math.min(to, f[0] / (f[0] - f[1]));
      }
    }
    boolean seen = from <= to;
    for (int k = 0; k < 2; k++) {
      double t = k == 0 ? from : to;
      double w = ends[3] + t * (ends[7] - ends[3]);
      for (int r = 0; r < 3; r++) {
        double v = (ends[r] + t * (ends[4 + r] - ends[r])) / w;
        flat[SIZE * line + 3 * k + r] = seen && w > 0 ? (float) v : Float.NaN;
      }
    }
  }

  private void band(int[] pixels, int from, int to) {
    int width = ground.width();
    float[] cover = null;
    for (int i = 0; i < layer.count(); i++) {
      float y0 = flat[SIZE * i + 1];
      float y1 = flat[SIZE * i + 4];
      float reach = half + 1;
      if (Math.min(y0, y1) - reach > to || !(Math.max(y0, y1) + reach >= from)) {
        continue;
      }
      if (cover == null) {
        cover = new float[(to - from) * width];
      }
      cover(i, cover, from, to);
    }
    if (cover == null) {
      return;
    }
    for (int i = 0; i < cover.length; i++) {
      if (cover[i] > 0) {
        int at = from * width + i;
        pixels[at] = Colours.mix(pixels[at], layer.argb(), cover[i]);
      }
    }
  }

  /** How much of each pixel of some rows a line covers. */
  private void cover(int line, float[] cover, int from, int to) {
    float ax = flat[SIZE * line];
    float ay = flat[SIZE * line + 1];
    float az = flat[SIZE * line + 2];
    float dx = flat[SIZE * line + 3] - ax;
    float dy = flat[SIZE * line + 4] - ay;
    float dz = flat[SIZE * line + 5] - az;
    float length2 = dx * dx + dy * dy;
    float reach = half + 1;
    int width = ground.width();
    int first = Math.max(from, (int) Math.floor(Math.min(ay, ay + dy) - reach));
    int last = Math.min(to - 1, (int) Math.ceil(Math.max(ay, ay + dy) + reach));
    for (int y = first; y <= last; y++) {
      float cy = y + 0.5f;
      // Where along the line the row can be reached.
      float s = dy == 0 ? 0 : Math.clamp((cy - reach - ay) / dy, 0f, 1f);
      float e = dy == 0 ? 1 : Math.clamp((cy + reach - ay) / dy, 0f, 1f);
      float one = ax + dx * s;
      float other = ax + dx * e;
      int x0 = Math.max(0, (int) Math.floor(Math.min(one, other) - reach));
      int x1 = Math.min(width - 1, (int) Math.ceil(Math.max(one, other) + reach));
      for (int x = x0; x <= x1; x++) {
        float px = x + 0.5f - ax;
        float py = cy - ay;
        float t = length2 > 0 ? Math.clamp((px * dx + py * dy) / length2, 0f, 1f) : 0;
        float across = px - t * dx;
        float up = py - t * dy;
        float away = (float) Math.sqrt(across * across + up * up);
        float c = Math.clamp(half + 0.5f - away, 0f, 1f);
        if (c > 0) {
          c *= strength(x, y, az + t * dz);
          int at = (y - from) * width + x;
          cover[at] = Math.max(cover[at], c);
        }
      }
    }
  }

  private float strength(int x, int y, float depth) {
    if (layer.hidden() == Layer.Hidden.SHOWN || !ground.hides(x, y, depth)) {
      return 1;
    }
    return layer.hidden() == Layer.Hidden.FAINT ? FAINT : 0;
  }
}
