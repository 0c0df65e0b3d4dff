package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.map.Hit;
import holotome.core.map.MapRule;
import holotome.core.map.Missed;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.List;

/**
 * Bakes square blocks of texels, and some around each that the filter takes samples from. One per
 * thread.
 *
 * <p>Samples lie in the middles of a grid of {@code side} x {@code side} in each texel. Of those of
 * a block, row by row from the top: {@code owner} is the triangle of the Cast that each lies in, -1
 * for none; {@code numbers} what the takers got, as many a sample as all together give.
 */
final class TexelBlock {

  /**
   * Where less than this share of the filter's weight has samples, those of the texel alone count.
   */
  private static final double LEAST_WEIGHT = 0.5;

  /**
   * What all threads share.
   *
   * @param size texels of the side of a square of the texture
   * @param rows squares above one another
   * @param chart per triangle; null where no filter reaches beyond its texel
   */
  record Sheet(
      Mesh cast,
      int size,
      int rows,
      int block,
      int side,
      Filter filter,
      boolean fillsAround,
      int[] chart,
      List<MapRule> rules,
      List<Image.Editor> pictures,
      double[] full,
      Image.Editor missed,
      byte[] covered,
      int width,
      int height) {}

  private final Sheet sheet;
  private final List<MapRule.Taker> takers;
  private final Aim aim;
  private final ScanRay ray;
  private final Hit hit = new Hit();
  private final int[] numberAt;
  private final int side;
  private final int margin;

  /** Samples of the block's side, with the margin. */
  private final int wide;

  private final int[] owner;
  private final byte[] code;
  private final float[] numbers;
  private final float[] mean;
  private final double[] texel = new double[4];
  private final double[] kernel;

  /** The texel that the block's first sample lies in. */
  private int left;

  private int top;

  int coveredCount;
  int missedCount;

  TexelBlock(Sheet sheet, List<MapRule.Taker> takers, Aim aim, ScanRay ray) {
    this.sheet = sheet;
    this.takers = takers;
    this.aim = aim;
    this.ray = ray;
    side = sheet.side;
    margin = sheet.filter.reach();
    wide = (sheet.block + 2 * margin) * side;
    numberAt = new int[takers.size() + 1];
    for (int k = 0; k < takers.size(); k++) {
      numberAt[k + 1] = numberAt[k] + takers.get(k).numbers();
    }
    owner = new int[wide * wide];
    code = new byte[wide * wide];
    numbers = new float[wide * wide * numberAt[takers.size()]];
    mean = new float[numberAt[takers.size()]];
    kernel = new double[(2 * margin + 1) * side];
    for (int i = 0; i < kernel.length; i++) {
      kernel[i] = sheet.filter.weight((i + 0.5) / side - margin - 0.5);
    }
    hit.samples = side * side;
  }

  /** Bakes a block: column and row among the blocks, and which of the triangles reach into it. */
  void bake(int column, int row, int[] triangles, int from, int to, Work work) {
    if (from == to) {
      return;
    }
    left = column * sheet.block - margin;
    top = row * sheet.block - margin;
    Arrays.fill(owner, -1);
    for (int i = from; i < to; i++) {
      rasterise(triangles[i]);
    }
    for (int y = 0; y < wide; y++) {
      work.check();
      for (int x = 0; x < wide; x++) {
        if (owner[y * wide + x] >= 0) {
          sample(x, y);
        }
      }
    }
    int right = Math.min(sheet.block, sheet.width - column * sheet.block);
    int bottom = Math.min(sheet.block, sheet.height - row * sheet.block);
    for (int y = 0; y < bottom; y++) {
      for (int x = 0; x < right; x++) {
        resolve(x + margin, y + margin);
      }
    }
  }

  /** Marks the samples of the block whose place lies in a triangle; on a shared edge, the last. */
  private void rasterise(int t) {
    int[] c = sheet.cast.uv().corners();
    float[] uv = sheet.cast.uv().coords();
    double per = (double) sheet.size * side;
    double x0 = (double) left * side + 0.5;
    double y0 = (double) top * side + 0.5;
    double ax = uv[2 * c[3 * t]] * per - x0;
    double ay = (sheet.rows - (double) uv[2 * c[3 * t] + 1]) * per - y0;
    double bx = uv[2 * c[3 * t + 1]] * per - x0;
    double by = (sheet.rows - (double) uv[2 * c[3 * t + 1] + 1]) * per - y0;
    double cx = uv[2 * c[3 * t + 2]] * per - x0;
    double cy = (sheet.rows - (double) uv[2 * c[3 * t + 2] + 1]) * per - y0;
    double det = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
    if (det == 0) {
      return;
    }
    int first = Math.max(0, (int) Math.ceil(Math.min(ay, Math.min(by, cy))));
    int last = Math.min(wide - 1, (int) Math.floor(Math.max(ay, Math.max(by, cy))));
    int begin = Math.max(0, (int) Math.ceil(Math.min(ax, Math.min(bx, cx))));
    int end = Math.min(wide - 1, (int) Math.floor(Math.max(ax, Math.max(bx, cx))));
    for (int y = first; y <= last; y++) {
      for (int x = begin; x <= end; x++) {
        double u = ((x - ax) * (cy - ay) - (cx - ax) * (y - ay)) / det;
        double v = ((bx - ax) * (y - ay) - (x - ax) * (by - ay)) / det;
        if (u >= 0 && v >= 0 && u + v <= 1) {
          owner[y * wide + x] = t;
        }
      }
    }
  }

  private void sample(int x, int y) {
    int at = y * wide + x;
    double u = (left + (x + 0.5) / side) / sheet.size;
    double v = sheet.rows - (top + (y + 0.5) / side) / sheet.size;
    aim.at(owner[at], u, v, 1.0 / ((double) sheet.size * side), hit);
    hit.sample = y % side * side + x % side;
    hit.seed = mixed((top + y / side) * sheet.width + left + x / side);
    boolean any = ray.find(aim, hit);
    code[at] = (byte) (ray.missed == null ? 0 : ray.missed.code());
    int first = at * mean.length;
    if (!any) {
      Arrays.fill(numbers, first, first + mean.length, 0);
      return;
    }
    for (int m = 0; m < takers.size(); m++) {
      takers.get(m).take(hit, numbers, first + numberAt[m]);
    }
  }

  /** A number with its bits well mixed, by the last steps of MurmurHash3 (from memory). */
  private static int mixed(int number) {
    int h = number * 0x9e3779b1;
    h = (h ^ h >>> 15) * 0x85ebca6b;
    h = (h ^ h >>> 13) * 0xc2b2ae35;
    return h ^ h >>> 16;
  }

  /** Makes a texel of the samples in and around it. */
  private void resolve(int x, int y) {
    int samples = 0;
    int hits = 0;
    int reason = 0;
    int nearest = -1;
    double near = Double.POSITIVE_INFINITY;
    for (int sy = 0; sy < side; sy++) {
      for (int sx = 0; sx < side; sx++) {
        int at = (y * side + sy) * wide + x * side + sx;
        if (owner[at] >= 0) {
          samples++;
          Missed why = Missed.of(code[at]);
          hits += why == null || !why.isLost() ? 1 : 0;
          reason = Math.max(reason, code[at]);
          double away = Math.hypot(sx + 0.5 - 0.5 * side, sy + 0.5 - 0.5 * side);
          if (away < near) {
            near = away;
            nearest = at;
          }
        }
      }
    }
    if (samples == 0) {
      return;
    }
    int px = left + x;
    int py = top + y;
    coveredCount++;
    boolean isLost = 2 * hits < samples;
    if (isLost || reason == Missed.OTHER.code()) {
      sheet.missed.set(px, py, isLost ? lostReason(x, y) : reason);
      missedCount += isLost ? 1 : 0;
    }
    if (isLost && sheet.fillsAround) {
      return;
    }
    sheet.covered[py * sheet.width + px] = 1;
    if (sheet.filter == Filter.BOX || !weigh(x, y, sheet.chart[owner[nearest]])) {
      within(x, y, samples);
    }
    for (int m = 0; m < takers.size(); m++) {
      boolean mixes = sheet.rules.get(m).values() != MapRule.Values.NUMBER;
      takers
          .get(m)
          .store(
              mixes ? mean : numbers,
              mixes ? numberAt[m] : nearest * mean.length + numberAt[m],
              texel);
      double full = sheet.full[m];
      for (int k = 0; k < sheet.rules.get(m).channels(); k++) {
        texel[k] *= full;
      }
      sheet.pictures.get(m).set(px, py, texel);
    }
  }

  /** Why most of the samples that found nothing did not. */
  private int lostReason(int x, int y) {
    int[] count = new int[Missed.values().length + 1];
    int most = 0;
    for (int sy = 0; sy < side; sy++) {
      for (int sx = 0; sx < side; sx++) {
        int at = (y * side + sy) * wide + x * side + sx;
        Missed why = owner[at] < 0 ? null : Missed.of(code[at]);
        if (why != null && why.isLost() && ++count[why.code()] > count[most]) {
          most = why.code();
        }
      }
    }
    return most;
  }

  private void within(int x, int y, int samples) {
    Arrays.fill(mean, 0);
    for (int sy = 0; sy < side; sy++) {
      for (int sx = 0; sx < side; sx++) {
        int at = (y * side + sy) * wide + x * side + sx;
        if (owner[at] >= 0) {
          for (int k = 0; k < mean.length; k++) {
            mean[k] += numbers[at * mean.length + k];
          }
        }
      }
    }
    for (int k = 0; k < mean.length; k++) {
      mean[k] /= samples;
    }
  }

  /** The weighted mean of the samples around, of the same chart; whether there are enough. */
  private boolean weigh(int x, int y, int chart) {
    Arrays.fill(mean, 0);
    double weight = 0;
    double whole = 0;
    for (int i = 0; i < kernel.length; i++) {
      int row = (y - margin) * side + i;
      for (int j = 0; j < kernel.length; j++) {
        int at = row * wide + (x - margin) * side + j;
        double w = kernel[i] * kernel[j];
        whole += w;
        if (owner[at] >= 0 && sheet.chart[owner[at]] == chart) {
          weight += w;
          for (int k = 0; k < mean.length; k++) {
            mean[k] += (float) w * numbers[at * mean.length + k];
          }
        }
      }
    }
    for (int k = 0; k < mean.length; k++) {
      mean[k] /= (float) weight;
    }
    return weight > LEAST_WEIGHT * whole;
  }
}
