package holotome.core.touch;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Makes a hole in a picture from what is around it: every small patch over the hole is to look like
 * one outside, from coarse to fine (Wexler and others, "Space-time completion of video", 2007), the
 * like patches found by chance and by what their neighbours found (Barnes and others, "PatchMatch",
 * 2009). Neighbours are asked for what they found in the round before, so that the order does not
 * matter.
 */
final class PatchMatch {
  static final byte NONE = 0;
  static final byte AROUND = 1;
  static final byte HOLE = 2;

  /** Patches reach so far to each side. */
  static final int HALF = 3;

  private static final int SIDE = 2 * HALF + 1;

  /** Rounds of looking and making on each level, and of looking in each. */
  private static final int ROUNDS = 5;

  private static final int LOOKS = 3;

  /** Below this width or height there is no coarser level. */
  private static final int LEAST = 4 * SIDE;

  private static final int GRAIN = 16;

  private final int width;
  private final int height;
  private final int channels;
  private final float[] value;
  private final byte[] state;
  private final float[] counts;

  /** Nodes whose patch lies within the picture and touches the hole. */
  private final int[] targets;

  /** Per node, the number among the targets; -1 for none. */
  private final int[] target;

  /** Nodes whose patch is all known. */
  private final int[] known;

  private final boolean[] isKnown;

  /** Per target the node that its patch is like, and by how much it is not. */
  private int[] like;

  private float[] unlike;

  /**
   * @param value channels a node, by rows; set where the hole is
   * @param counts how much each channel counts when patches are compared
   */
  PatchMatch(int width, int height, int channels, float[] value, byte[] state, float[] counts) {
    this.width = width;
    this.height = height;
    this.channels = channels;
    this.value = value;
    this.state = state;
    this.counts = counts;
    int n = width * height;
    target = new int[n];
    Arrays.fill(target, -1);
    isKnown = new boolean[n];
    int[] found = new int[n];
    int[] whole = new int[n];
    int t = 0;
    int k = 0;
    int[] holes = sums(HOLE);
    int[] arounds = sums(AROUND);
    for (int y = HALF; y < height - HALF; y++) {
      for (int x = HALF; x < width - HALF; x++) {
        int i = y * width + x;
        if (count(holes, x, y) > 0 && state[i] != NONE) {
          target[i] = t;
          found[t++] = i;
        }
        if (count(arounds, x, y) == SIDE * SIDE) {
          isKnown[i] = true;
          whole[k++] = i;
        }
      }
    }
    targets = Arrays.copyOf(found, t);
    known = Arrays.copyOf(whole, k);
  }

  /** Sums over all rectangles from the first node. */
  private int[] sums(byte of) {
    int[] out = new int[(width + 1) * (height + 1)];
    for (int y = 0; y < height; y++) {
      int row = 0;
      for (int x = 0; x < width; x++) {
        row += state[y * width + x] == of ? 1 : 0;
        out[(y + 1) * (width + 1) + x + 1] = out[y * (width + 1) + x + 1] + row;
      }
    }
    return out;
  }

  private int count(int[] sums, int x, int y) {
    int w = width + 1;
    int a = (y - HALF) * w + x - HALF;
    int b = (y + HALF + 1) * w + x - HALF;
    return sums[b + SIDE] - sums[b] - sums[a + SIDE] + sums[a];
  }

  /** Fills the hole; whether there is enough around it to take anything from. */
  boolean fill(Work work) {
    if (known.length == 0 || targets.length == 0) {
      return false;
    }
    work.check();
    PatchMatch coarse = width < LEAST || height < LEAST ? null : half();
    boolean isBegun = coarse != null && coarse.fill(work);
    like = new int[targets.length];
    unlike = new float[targets.length];
    if (isBegun) {
      takeFrom(coarse);
    } else {
      smooth();
      Parallel.range(
          targets.length,
          1024,
          Work.unwatched(),
          (from, to) -> {
            for (int i = from; i < to; i++) {
              like[i] = known[Math.floorMod(mixed(targets[i], 0), known.length)];
            }
          });
    }
    for (int round = 0; round < ROUNDS; round++) {
      measure();
      for (int look = 0; look < LOOKS; look++) {
        work.check();
        look(round * LOOKS + look + 1);
      }
      vote(round == ROUNDS - 1);
    }
    return true;
  }

  /** Half as wide and high; what touches the hole belongs to it. */
  private PatchMatch half() {
    int w = width / 2;
    int h = height / 2;
    float[] v = new float[w * h * channels];
    byte[] s = new byte[w * h];
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        boolean hole = false;
        int n = 0;
        for (int k = 0; k < 4; k++) {
          int i = (2 * y + (k >> 1)) * width + 2 * x + (k & 1);
          hole |= state[i] == HOLE;
          if (state[i] == AROUND) {
            n++;
            for (int c = 0; c < channels; c++) {
              v[(y * w + x) * channels + c] += value[i * channels + c];
            }
          }
        }
        s[y * w + x] = hole ? HOLE : n == 0 ? NONE : AROUND;
        for (int c = 0; c < channels && n > 0; c++) {
          v[(y * w + x) * channels + c] /= n;
        }
      }
    }
    return new PatchMatch(w, h, channels, v, s, counts);
  }

  private void takeFrom(PatchMatch coarse) {
    for (int i = 0; i < targets.length; i++) {
      int x = targets[i] % width;
      int y = targets[i] / width;
      int cx = Math.clamp(x / 2, HALF, coarse.width - HALF - 1);
      int cy = Math.clamp(y / 2, HALF, coarse.height - HALF - 1);
      int t = coarse.target[cy * coarse.width + cx];
      int at = -1;
      if (t >= 0) {
        int from = coarse.like[t];
        at = held(2 * (from % coarse.width - cx) + x, 2 * (from / coarse.width - cy) + y);
      }
      like[i] = at >= 0 ? at : known[Math.floorMod(mixed(targets[i], 0), known.length)];
    }
    for (int y = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        int i = y * width + x;
        if (state[i] == HOLE) {
          int c =
              Math.min(y / 2, coarse.height - 1) * coarse.width + Math.min(x / 2, coarse.width - 1);
          System.arraycopy(coarse.value, c * channels, value, i * channels, channels);
        }
      }
    }
  }

  /** A node as a source; -1 where its patch is not all known. */
  private int held(int x, int y) {
    boolean isIn = x >= 0 && y >= 0 && x < width && y < height;
    return isIn && isKnown[y * width + x] ? y * width + x : -1;
  }

  /** Begins with what is around, carried in from all sides, the nearer the more. */
  private void smooth() {
    boolean[] has = new boolean[state.length];
    for (int i = 0; i < state.length; i++) {
      has[i] = state[i] == AROUND;
    }
    boolean isOpen = true;
    while (isOpen) {
      isOpen = false;
      boolean[] before = has.clone();
      for (int y = 0; y < height; y++) {
        for (int x = 0; x < width; x++) {
          int i = y * width + x;
          if (state[i] == HOLE && !before[i]) {
            has[i] = mean(before, x, y);
            isOpen |= has[i];
          }
        }
      }
    }
  }

  private boolean mean(boolean[] has, int x, int y) {
    int i = y * width + x;
    int n = 0;
    for (int v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
      for (int u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
        if (has[v * width + u]) {
          n++;
          for (int c = 0; c < channels; c++) {
            float more = value[(v * width + u) * channels + c];
            value[i * channels + c] = n == 1 ? more : value[i * channels + c] + more;
          }
        }
      }
    }
    for (int c = 0; c < channels && n > 0; c++) {
      value[i * channels + c] /= n;
    }
    return n > 0;
  }

  private void measure() {
    Parallel.range(
        targets.length,
        256,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            unlike[i] = unlike(targets[i], like[i], Float.POSITIVE_INFINITY);
          }
        });
  }

  /** How much two patches differ; more than {@code most} as soon as it is. */
  private float unlike(int at, int from, float most) {
    float sum = 0;
    for (int dy = -HALF; dy <= HALF; dy++) {
      for (int dx = -HALF; dx <= HALF; dx++) {
        int a = at + dy * width + dx;
        if (state[a] != NONE) {
          int b = (from + dy * width + dx) * channels;
          a *= channels;
          for (int c = 0; c < channels; c++) {
            float d = value[a + c] - value[b + c];
            sum += counts[c] * d * d;
          }
        }
      }
      if (sum > most) {
        return sum;
      }
    }
    return sum;
  }

  /** Every target asks its neighbours and tries some by chance, ever nearer to what it has. */
  private void look(int round) {
    int[] before = like.clone();
    Parallel.range(
        targets.length,
        256,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            look(i, before, round);
          }
        });
  }

  private void look(int i, int[] before, int round) {
    int at = targets[i];
    int x = at % width;
    int y = at / width;
    for (int k = 0; k < 4; k++) {
      int dx = k == 0 ? -1 : k == 1 ? 1 : 0;
      int dy = k == 2 ? -1 : k == 3 ? 1 : 0;
      // Targets keep away from the rim of the picture: their neighbours lie within it.
      int next = target[(y + dy) * width + x + dx];
      if (next >= 0) {
        int from = before[next];
        consider(i, held(from % width - dx, from / width - dy));
      }
    }
    int number = 0;
    for (int far = Math.max(width, height); far >= 1; far /= 2) {
      int h = mixed(at, round * 64 + ++number);
      int sx = like[i] % width + (int) ((h & 0xffff) / 65536.0 * (2 * far + 1)) - far;
      int sy = like[i] / width + (int) ((h >>> 16) / 65536.0 * (2 * far + 1)) - far;
      consider(i, held(sx, sy));
    }
  }

  private void consider(int i, int from) {
    if (from >= 0 && from != like[i]) {
      float d = unlike(targets[i], from, unlike[i]);
      if (d < unlike[i]) {
        unlike[i] = d;
        like[i] = from;
      }
    }
  }

  /** A number with its bits well mixed, by the last steps of MurmurHash3 (from memory). */
  private static int mixed(int number, int round) {
    int h = number * 0x9e3779b1 + round * 0x7feb352d;
    h = (h ^ h >>> 16) * 0x85ebca6b;
    h = (h ^ h >>> 13) * 0xc2b2ae35;
    return h ^ h >>> 16;
  }

  /**
   * Every node of the hole becomes the mean of what the patches over it have there, the more alike
   * the more.
   *
   * @param isLast the best patch then has nearly all of it, so that it stays sharp
   */
  private void vote(boolean isLast) {
    double mean = 0;
    for (float u : unlike) {
      mean += u / unlike.length;
    }
    double per = 1 / Math.max(1e-9, isLast ? 0.05 * mean : mean);
    float[] made = new float[value.length];
    Parallel.range(
        height,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          double[] sum = new double[channels];
          for (int y = from; y < to; y++) {
            for (int x = 0; x < width; x++) {
              if (state[y * width + x] == HOLE) {
                vote(x, y, per, sum, made);
              }
            }
          }
        });
    for (int i = 0; i < state.length; i++) {
      if (state[i] == HOLE) {
        System.arraycopy(made, i * channels, value, i * channels, channels);
      }
    }
  }

  private void vote(int x, int y, double per, double[] sum, float[] made) {
    Arrays.fill(sum, 0);
    double whole = 0;
    float least = Float.POSITIVE_INFINITY;
    for (int dy = -HALF; dy <= HALF; dy++) {
      for (int dx = -HALF; dx <= HALF; dx++) {
        int t = target(x + dx, y + dy);
        least = t >= 0 ? Math.min(least, unlike[t]) : least;
      }
    }
    for (int dy = -HALF; dy <= HALF; dy++) {
      for (int dx = -HALF; dx <= HALF; dx++) {
        int t = target(x + dx, y + dy);
        if (t >= 0) {
          int from = (like[t] - dy * width - dx) * channels;
          double w = Math.exp((least - unlike[t]) * per);
          whole += w;
          for (int c = 0; c < channels; c++) {
            sum[c] += w * value[from + c];
          }
        }
      }
    }
    int i = (y * width + x) * channels;
    for (int c = 0; c < channels; c++) {
      // At the very rim of the picture no patch lies over it: then it stays.
      made[i + c] = whole > 0 ? (float) (sum[c] / whole) : value[i + c];
    }
  }

  private int target(int x, int y) {
    return x >= 0 && y >= 0 && x < width && y < height ? target[y * width + x] : -1;
  }
}
