package holotome.core.touch;

import holotome.core.task.Work;
import java.util.Arrays;

/**
 * The step that runs along a brush's line: where it lies to either side of the line, bit by bit
 * along it, and how high it is in each number. Means over strips beside the line are taken; the
 * step is where two straight lines through those on its left and on its right fit best, and its
 * height what they differ by there.
 */
final class SeamStep {
  /** Strips beside one another, over both radii. */
  private static final int STRIPS = 32;

  /** Strips on either side that are looked at, and those at the step that hold of both. */
  private static final int BESIDE = 10;

  private static final int MIXED = 2;

  /** The step lies within so many strips of the line. */
  private static final int REACH = STRIPS / 4;

  private final int first;
  private final int numbers;

  /**
   * So near to where the step was found, in strips, what a texel holds says on which side it lies.
   */
  private static final double UNSURE = 0.75;

  /** Strip before which the step lies, per dab; and its heights. */
  private final double[] place;

  private final double[] height;

  /** Per number what is on the low side of the step, and how much a difference counts. */
  private final double[] low;

  private final double[] scale;

  private SeamStep(int first, int count, int numbers, double[] scale) {
    this.first = first;
    this.numbers = numbers;
    this.scale = scale;
    low = new double[count * numbers];
    place = new double[count];
    height = new double[count * numbers];
  }

  static int[] places(Layout layout) {
    return layout.places(m -> m.isFitted() || m.isDirection());
  }

  /** Finds the step along a course. */
  static SeamStep of(Layout layout, Form form, Region region, Work work) {
    int[] places = places(layout);
    int numbers = places[places.length - 1];
    int lead = form.course().lead();
    int count = form.course().size() - lead;
    double[] sum = new double[count * STRIPS * numbers];
    double[] weight = new double[count * STRIPS];
    CarriedMap[] maps = layout.carried(layout.maps());
    Spot spot = new Spot(layout.ground());
    double[] own = new double[4];
    double[] spread = new double[2 * numbers];
    for (Region.Tile tile : region.tiles()) {
      work.check();
      for (int i = 0; i < tile.far.length; i++) {
        if (!(tile.far[i] <= 1)) {
          continue;
        }
        spot.set(tile.triangle[i], tile.second[i], tile.third[i]);
        int dab = Math.clamp(Math.round(tile.along[i]) - lead, 0, count - 1);
        int strip = Math.clamp((int) ((tile.across[i] + 1) / 2 * STRIPS), 0, STRIPS - 1);
        int at = dab * STRIPS + strip;
        weight[at]++;
        for (int m = 0; m < maps.length; m++) {
          if (places[m] >= 0) {
            maps[m].own(tile.x(i), tile.y(i), spot, own);
            for (int c = 0; c < maps[m].numbers(); c++) {
              sum[at * numbers + places[m] + c] += own[c];
              spread[2 * (places[m] + c)] += own[c];
              spread[2 * (places[m] + c) + 1] += own[c] * own[c];
            }
          }
        }
      }
    }
    double all = Math.max(1, Arrays.stream(weight).sum());
    double[] scale = new double[numbers];
    for (int c = 0; c < numbers; c++) {
      double mean = spread[2 * c] / all;
      double variance = spread[2 * c + 1] / all - mean * mean;
      scale[c] = variance > 1e-12 ? 1 / variance : 0;
    }
    SeamStep out = new SeamStep(lead, count, numbers, scale);
    out.find(sum, weight);
    return out;
  }

  private void find(double[] sum, double[] weight) {
    int count = place.length;
    double[] profile = new double[STRIPS * numbers];
    double[] of = new double[STRIPS];
    double[] step = new double[numbers];
    for (int d = 0; d < count; d++) {
      // Those beside it count too: a step does not jump to and fro.
      Arrays.fill(profile, 0);
      Arrays.fill(of, 0);
      for (int e = Math.max(0, d - 1); e <= Math.min(count - 1, d + 1); e++) {
        for (int s = 0; s < STRIPS; s++) {
          of[s] += weight[e * STRIPS + s];
          for (int c = 0; c < numbers; c++) {
            profile[s * numbers + c] += sum[(e * STRIPS + s) * numbers + c];
          }
        }
      }
      double best = -1;
      for (int k = STRIPS / 2 - REACH; k <= STRIPS / 2 + REACH; k++) {
        double score = 0;
        for (int c = 0; c < numbers; c++) {
          step[c] = height(profile, of, c, k);
          score += step[c] * step[c] * scale[c];
        }
        if (score > best) {
          best = score;
          place[d] = k;
          System.arraycopy(step, 0, height, d * numbers, numbers);
        }
      }
      place[d] = within(profile, of, d);
    }
  }

  /** Where the step lies to a part of a strip: by how much those at it hold of either side. */
  private double within(double[] profile, double[] of, int d) {
    int k = (int) place[d];
    for (int c = 0; c < numbers; c++) {
      double before = line(profile, of, c, k - MIXED - BESIDE, k - MIXED, k);
      low[d * numbers + c] = Double.isNaN(before) ? 0 : before;
    }
    double left = 0;
    for (int s = k - MIXED; s < k + MIXED; s++) {
      double share = 0;
      double whole = 0;
      for (int c = 0; c < numbers; c++) {
        double step = height[d * numbers + c];
        double high = line(profile, of, c, k + MIXED, k + MIXED + BESIDE, k);
        whole += scale[c] * step * step;
        share += of[s] > 0 ? scale[c] * step * (high - profile[s * numbers + c] / of[s]) : 0;
      }
      left += whole > 0 ? share / whole : 0.5;
    }
    return k - MIXED + Math.clamp(left, 0, 2 * MIXED);
  }

  /** By how much the line through the strips on the right lies above that on the left, at one. */
  private double height(double[] profile, double[] of, int c, int k) {
    double left = line(profile, of, c, k - MIXED - BESIDE, k - MIXED, k);
    double right = line(profile, of, c, k + MIXED, k + MIXED + BESIDE, k);
    return Double.isNaN(left) || Double.isNaN(right) ? 0 : right - left;
  }

  /** The straight line of least squares through some strips, before a strip; NaN for none. */
  private double line(double[] profile, double[] of, int c, int from, int to, int at) {
    double w = 0;
    double wx = 0;
    double wxx = 0;
    double wy = 0;
    double wxy = 0;
    for (int s = Math.max(0, from); s < Math.min(STRIPS, to); s++) {
      double x = s + 0.5 - at;
      w += of[s];
      wx += of[s] * x;
      wxx += of[s] * x * x;
      wy += profile[s * numbers + c];
      wxy += profile[s * numbers + c] * x;
    }
    if (w == 0) {
      return Double.NaN;
    }
    double det = w * wxx - wx * wx;
    return det > 1e-9 * w * w ? (wy * wxx - wx * wxy) / det : wy / w;
  }

  /**
   * What is to be added at a place: half the step up on its low side, half down on the other, less
   * and less away from it.
   *
   * @param own what is there
   */
  void at(double along, double across, double[] own, double[] out) {
    double d = Math.clamp(along - first, 0, place.length - 1);
    int i = (int) d;
    int j = Math.min(i + 1, place.length - 1);
    double t = d - i;
    double at = (1 - t) * place[i] + t * place[j];
    double strip = (across + 1) / 2 * STRIPS;
    double share =
        Math.abs(strip - at) < UNSURE
            ? 0.5 - high((t < 0.5 ? i : j) * numbers, own)
            : strip < at
                ? 0.5 * (1 - (at - strip) / at)
                : -0.5 * (1 - (strip - at) / (STRIPS - at));
    for (int c = 0; c < numbers; c++) {
      out[c] = share * ((1 - t) * height[i * numbers + c] + t * height[j * numbers + c]);
    }
  }

  /** How much of the high side there is in what a texel holds. */
  private double high(int first, double[] own) {
    double share = 0;
    double whole = 0;
    for (int c = 0; c < numbers; c++) {
      double step = height[first + c];
      whole += scale[c] * step * step;
      share += scale[c] * step * (own[c] - low[first + c]);
    }
    return whole > 0 ? Math.clamp(share / whole, 0, 1) : 0.5;
  }
}
