package holotome.view.layering;

import holotome.core.image.Colours;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.scene.DotLayer;
import holotome.view.scene.Layer;

/**
 * Draws marks over a picture, with a rim of paper around them. A mark is hidden as a whole, by what
 * is in front of its middle. Cost: the marks times a thirty-second of the rows, and the pixels
 * covered.
 */
public final class DotPainter {
  private static final int BAND = 32;
  private static final float RIM = 1.25f;
  private static final int PAPER = 0xfff6f4ef;
  private static final float FAINT = 0.25f;

  /** Half the thickness of rings, crosses and bars, as a share of the mark's half width. */
  private static final float STROKE = 0.28f;

  private DotPainter() {}

  /** Draws a layer's marks, in their order. */
  public static void draw(DotLayer layer, Ground ground, Work work) {
    float[] flat = flat(layer, ground);
    float half = (float) (layer.size() * ground.scale() / 2);
    float rim = (float) (RIM * ground.scale());
    Parallel.range(
        ground.height(),
        BAND,
        work,
        (from, to) -> {
          for (int i = 0; i < layer.count(); i++) {
            float y = flat[3 * i + 1];
            if (y + half + rim + 1 >= from && y - half - rim - 1 <= to) {
              mark(layer, flat, i, half, rim, ground, from, to);
            }
          }
        });
  }

  /** Of each mark x, y in pixels and its strength; NaN for one that is not seen. */
  private static float[] flat(DotLayer layer, Ground ground) {
    float[] out = new float[3 * layer.count()];
    double[] m = ground.toPixels();
    double[] p = layer.xyz();
    for (int i = 0; i < layer.count(); i++) {
      double x = p[3 * i];
      double y = p[3 * i + 1];
      double z = p[3 * i + 2];
      double w = m[12] * x + m[13] * y + m[14] * z + m[15];
      double depth = (m[8] * x + m[9] * y + m[10] * z + m[11]) / w;
      double px = (m[0] * x + m[1] * y + m[2] * z + m[3]) / w;
      double py = (m[4] * x + m[5] * y + m[6] * z + m[7]) / w;
      boolean hidden =
          layer.hidden() != Layer.Hidden.SHOWN
              && px >= 0
              && py >= 0
              && px < ground.width()
              && py < ground.height()
              && ground.hides((int) px, (int) py, (float) depth);
      float strength = !hidden ? 1 : layer.hidden() == Layer.Hidden.FAINT ? FAINT : 0;
      boolean seen = w > 0 && depth >= 0 && ground.beyondClip(x, y, z) >= 0 && strength > 0;
      out[3 * i] = (float) px;
      out[3 * i + 1] = seen ? (float) py : Float.NaN;
      out[3 * i + 2] = strength;
    }
    return out;
  }

  private static void mark(
      DotLayer layer, float[] flat, int i, float half, float rim, Ground ground, int from, int to) {
    int[] pixels = ground.pixels();
    int width = ground.width();
    float cx = flat[3 * i];
    float cy = flat[3 * i + 1];
    float strength = flat[3 * i + 2];
    float reach = half + rim + 1;
    int x0 = Math.max(0, (int) (cx - reach));
    int x1 = Math.min(width - 1, (int) (cx + reach));
    for (int y = Math.max(from, (int) (cy - reach)); y <= Math.min(to - 1, cy + reach); y++) {
      for (int x = x0; x <= x1; x++) {
        float d = outside(layer.form(), x + 0.5f - cx, y + 0.5f - cy, half);
        float paper = Math.clamp(rim + 0.5f - d, 0f, 1f) * strength;
        if (paper > 0) {
          float ink = Math.clamp(0.5f - d, 0f, 1f) * strength;
          int at = y * width + x;
          pixels[at] = Colours.mix(Colours.mix(pixels[at], PAPER, paper), layer.argb(), ink);
        }
      }
    }
  }

  /** How far a place is outside a form about the middle, below zero within it. */
  private static float outside(DotLayer.Form form, float x, float y, float half) {
    float ax = Math.abs(x);
    float ay = Math.abs(y);
    float stroke = STROKE * half;
    return switch (form) {
      case DISC -> (float) Math.sqrt(x * x + y * y) - half;
      case RING -> Math.abs((float) Math.sqrt(x * x + y * y) - half + stroke) - stroke;
      case SQUARE -> Math.max(ax, ay) - 0.86f * half;
      case DIAMOND -> 0.7071f * (ax + ay - 1.1f * half);
      case TRIANGLE -> Math.max(0.866f * ax - 0.5f * y, y) - 0.55f * half;
      case CROSS -> {
        float along = 0.7071f * Math.abs(ax - ay);
        float reach = 0.7071f * (ax + ay) - half;
        yield Math.max(along - stroke, reach);
      }
      case BAR -> Math.max(ax - half, ay - stroke);
    };
  }
}
