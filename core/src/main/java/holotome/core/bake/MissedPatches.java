package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.map.Missed;
import holotome.core.map.MissedPatch;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * Puts missed texels that lie side by side, corner to corner too, together. Runs of texels in rows,
 * joined from row to row by a forest of sets: O(missed texels).
 */
final class MissedPatches {
  /** So many of them are kept, the largest. */
  private static final int MOST = 1000;

  private final Image missed;
  private final int across;

  /** Per tile of the picture: 1 for one without any, 2 for one with some; 0 until it is known. */
  private final byte[] known;

  /** Row, first column, column after the last, reason and set of each run. */
  private int[] runs = new int[5 * 256];

  private int count;

  MissedPatches(Image missed) {
    this.missed = missed;
    across = (missed.width() + Image.TILE - 1) / Image.TILE;
    known = new byte[missed.tileCount()];
  }

  /** Which triangle of the Cast lies at a place of the texture; -1 for none. */
  @FunctionalInterface
  interface At {
    int triangle(double u, double v);
  }

  /**
   * @param size texels of the side of a square of the texture
   */
  List<MissedPatch> found(int size, int rows, At at) {
    int before = 0;
    for (int y = 0; y < missed.height(); y++) {
      int first = count;
      row(y);
      join(before, first);
      before = first;
    }
    int[] texels = new int[count];
    long[] sumX = new long[count];
    long[] sumY = new long[count];
    for (int r = 0; r < count; r++) {
      int root = root(r);
      int n = runs[5 * r + 2] - runs[5 * r + 1];
      texels[root] += n;
      sumX[root] += (long) n * (runs[5 * r + 1] + runs[5 * r + 2] - 1) / 2;
      sumY[root] += (long) n * runs[5 * r];
    }
    int[] best = new int[count];
    double[] away = new double[count];
    Arrays.fill(away, Double.POSITIVE_INFINITY);
    for (int r = 0; r < count; r++) {
      int root = root(r);
      double d =
          Math.hypot(
              near(r, sumX[root] / texels[root]) - (double) sumX[root] / texels[root],
              runs[5 * r] - (double) sumY[root] / texels[root]);
      if (d < away[root]) {
        away[root] = d;
        best[root] = r;
      }
    }
    List<Integer> roots = new ArrayList<>();
    for (int r = 0; r < count; r++) {
      if (root(r) == r) {
        roots.add(r);
      }
    }
    roots.sort(Comparator.comparingInt((Integer r) -> texels[r]).reversed());
    List<MissedPatch> out = new ArrayList<>();
    for (int r : roots.subList(0, Math.min(MOST, roots.size()))) {
      int x = near(best[r], sumX[r] / texels[r]);
      double u = (x + 0.5) / size;
      double v = rows - (runs[5 * best[r]] + 0.5) / size;
      Missed reason = Missed.of(runs[5 * r + 3]);
      out.add(new MissedPatch(reason, texels[r], (float) u, (float) v, at.triangle(u, v)));
    }
    return out;
  }

  /** The column of a run that is nearest to one. */
  private int near(int run, long x) {
    return (int) Math.clamp(x, runs[5 * run + 1], runs[5 * run + 2] - 1L);
  }

  private void row(int y) {
    int x = 0;
    while (x < missed.width()) {
      if (x % Image.TILE == 0 && isBlank(y / Image.TILE * across + x / Image.TILE)) {
        x += Image.TILE;
        continue;
      }
      int reason = (int) missed.stored(x, y, 0);
      if (reason == 0) {
        x++;
        continue;
      }
      int from = x;
      while (x < missed.width() && (int) missed.stored(x, y, 0) == reason) {
        x++;
      }
      add(y, from, x, reason);
    }
  }

  private boolean isBlank(int tile) {
    if (known[tile] == 0) {
      known[tile] = 1;
      for (byte b : (byte[]) missed.tile(tile)) {
        if (b != 0) {
          known[tile] = 2;
          break;
        }
      }
    }
    return known[tile] == 1;
  }

  private void add(int y, int from, int to, int reason) {
    if (5 * count == runs.length) {
      runs = Arrays.copyOf(runs, 2 * runs.length);
    }
    runs[5 * count] = y;
    runs[5 * count + 1] = from;
    runs[5 * count + 2] = to;
    runs[5 * count + 3] = reason;
    runs[5 * count + 4] = count;
    count++;
  }

  /** Joins the runs of the last row with those of the one before. */
  private void join(int before, int first) {
    int a = before;
    for (int b = first; b < count; b++) {
      while (a < first && (runs[5 * a] < runs[5 * b] - 1 || runs[5 * a + 2] < runs[5 * b + 1])) {
        a++;
      }
      for (int c = a; c < first && runs[5 * c + 1] <= runs[5 * b + 2]; c++) {
        if (runs[5 * c + 3] == runs[5 * b + 3]) {
          int p = root(b);
          int q = root(c);
          runs[5 * Math.max(p, q) + 4] = Math.min(p, q);
        }
      }
    }
  }

  private int root(int run) {
    int r = run;
    while (runs[5 * r + 4] != r) {
      runs[5 * r + 4] = runs[5 * runs[5 * r + 4] + 4];
      r = runs[5 * r + 4];
    }
    return r;
  }
}
