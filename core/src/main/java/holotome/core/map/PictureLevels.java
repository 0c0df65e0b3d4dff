package holotome.core.map;

import holotome.core.image.LinearLight;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.List;
import java.util.concurrent.atomic.AtomicReferenceArray;

/**
 * A Scan's pictures and their reduced levels, made when they are first asked for, each half the one
 * before and averaged as light (Williams, "Pyramidal parametrics", 1983). A level takes a quarter
 * of the one before.
 */
final class PictureLevels {
  private static final int MOST_LEVELS = 16;

  private final List<Material> materials;
  private final AtomicReferenceArray<Raster> levels;

  PictureLevels(List<Material> materials) {
    this.materials = materials;
    levels = new AtomicReferenceArray<>(materials.size() * MOST_LEVELS);
  }

  /**
   * The light at (u, v), over a square around it: between the two levels whose pixels are about as
   * wide, bilinear within each, clamped at the rim.
   *
   * @param width of the square, as a share of the picture's
   */
  void light(int material, float u, float v, double width, float[] out) {
    Raster whole = materials.get(material).image();
    double pixels = width * Math.sqrt((double) whole.width() * whole.height());
    double level = pixels > 1 ? Math.log(pixels) / Math.log(2) : 0;
    int last = 31 - Integer.numberOfLeadingZeros(Math.max(whole.width(), whole.height()));
    int fine = Math.min((int) level, Math.min(last, MOST_LEVELS - 1));
    float coarse = (float) Math.min(1, level - fine);
    out[0] = 0;
    out[1] = 0;
    out[2] = 0;
    add(level(material, fine), u, v, fine == last ? 1 : 1 - coarse, out);
    if (coarse > 0 && fine < last) {
      add(level(material, fine + 1), u, v, coarse, out);
    }
  }

  private static void add(Raster r, float u, float v, float share, float[] out) {
    float x = Raster.within(u) * r.width() - 0.5f;
    float y = (1 - Raster.within(v)) * r.height() - 0.5f;
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    float fx = x - x0;
    float fy = y - y0;
    int xa = Math.clamp(x0, 0, r.width() - 1);
    int xb = Math.clamp(x0 + 1L, 0, r.width() - 1);
    int ya = Math.clamp(y0, 0, r.height() - 1) * r.width();
    int yb = Math.clamp(y0 + 1L, 0, r.height() - 1) * r.width();
    int[] p = r.pixels();
    add(p[ya + xa], share * (1 - fx) * (1 - fy), out);
    add(p[ya + xb], share * fx * (1 - fy), out);
    add(p[yb + xa], share * (1 - fx) * fy, out);
    add(p[yb + xb], share * fx * fy, out);
  }

  private static void add(int argb, float share, float[] out) {
    out[0] += LinearLight.ofByte(argb >> 16 & 255) * share;
    out[1] += LinearLight.ofByte(argb >> 8 & 255) * share;
    out[2] += LinearLight.ofByte(argb & 255) * share;
  }

  private Raster level(int material, int level) {
    if (level == 0) {
      return materials.get(material).image();
    }
    int at = material * MOST_LEVELS + level;
    Raster there = levels.getAcquire(at);
    return there != null ? there : made(material, level);
  }

  private synchronized Raster made(int material, int level) {
    int at = material * MOST_LEVELS + level;
    Raster there = levels.getAcquire(at);
    if (there == null) {
      there = half(level(material, level - 1));
      levels.setRelease(at, there);
    }
    return there;
  }

  private static Raster half(Raster r) {
    int w = Math.max(1, r.width() / 2);
    int h = Math.max(1, r.height() / 2);
    int[] out = new int[w * h];
    Parallel.range(
        h,
        64,
        Work.unwatched(),
        (from, to) -> {
          float[] light = new float[3];
          for (int y = from; y < to; y++) {
            for (int x = 0; x < w; x++) {
              mean(r, w, h, x, y, light);
              out[y * w + x] =
                  0xff000000
                      | LinearLight.storedByte(light[0]) << 16
                      | LinearLight.storedByte(light[1]) << 8
                      | LinearLight.storedByte(light[2]);
            }
          }
        });
    return new Raster(w, h, out);
  }

  /** The mean over what a pixel of the half covers, whole pixels: odd ones go to the last. */
  private static void mean(Raster r, int w, int h, int x, int y, float[] light) {
    int x1 = x == w - 1 ? r.width() : 2 * x + 2;
    int y1 = y == h - 1 ? r.height() : 2 * y + 2;
    float share = 1f / ((x1 - 2 * x) * (y1 - 2 * y));
    light[0] = 0;
    light[1] = 0;
    light[2] = 0;
    for (int v = 2 * y; v < y1; v++) {
      for (int u = 2 * x; u < x1; u++) {
        add(r.pixels()[v * r.width() + u], share, light);
      }
    }
  }
}
