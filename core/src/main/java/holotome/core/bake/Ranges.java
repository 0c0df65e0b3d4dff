package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.map.MapRule.Values;
import holotome.core.map.Range;

/** From where to where what is measured reaches, over the texels that have surface. O(texels). */
final class Ranges {
  /** Of what bends, so large a share lies within: a few sharp spots are not to set the measure. */
  private static final double USUAL = 0.995;

  private static final int BINS = 1 << 12;

  private Ranges() {}

  /**
   * About 0 for heights and bends, from 0 on for lengths that are never below, else what there is.
   */
  static Range of(Image picture, Values values, byte[] covered) {
    float low = Float.POSITIVE_INFINITY;
    float high = Float.NEGATIVE_INFINITY;
    int w = picture.width();
    for (int y = 0; y < picture.height(); y++) {
      for (int x = 0; x < w; x++) {
        if (covered[y * w + x] != 0) {
          for (int c = 0; c < picture.channels(); c++) {
            float v = (float) picture.stored(x, y, c);
            low = Math.min(low, v);
            high = Math.max(high, v);
          }
        }
      }
    }
    if (!(low <= high)) {
      return new Range(0, 0);
    }
    if (values == Values.PLACE) {
      return new Range(low, high);
    }
    float most = Math.max(-low, high);
    if (values == Values.BEND) {
      float usual = usual(picture, covered, most);
      return new Range(-usual, usual);
    }
    return low < 0 ? new Range(-most, most) : new Range(0, most);
  }

  private static float usual(Image picture, byte[] covered, float most) {
    int[] bins = new int[BINS];
    int all = 0;
    int w = picture.width();
    for (int y = 0; most > 0 && y < picture.height(); y++) {
      for (int x = 0; x < w; x++) {
        if (covered[y * w + x] != 0) {
          bins[(int) Math.min(BINS - 1.0, Math.abs(picture.stored(x, y, 0)) / most * BINS)]++;
          all++;
        }
      }
    }
    int bin = 0;
    for (int below = 0; bin < BINS - 1 && below + bins[bin] < USUAL * all; bin++) {
      below += bins[bin];
    }
    return most * (bin + 1) / BINS;
  }
}
