package holotome.core.unwrap;

import holotome.core.array.LongIndex;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Makes few large charts of many small ones: pieces that share a border are laid flat together, and
 * stay so where the stretch allowed is kept. In each round those are tried that are each other's
 * best neighbour, side by side; which of them are tried does not depend on the number of threads.
 */
final class ChartMerging {
  private final Ground ground;
  private final int[] twin;
  private final double[] normal;
  private final double[] area;

  /** Below this share of the two a piece is small, and by how much it may spoil a chart then. */
  private static final double SMALL = 0.05;

  private static final double SLACK = 0.5;

  /**
   * Above this share of the whole surface a chart may have to be rounder, by so much: between a few
   * large ones there is nothing small to fill the gaps.
   */
  static final double LARGE = 0.1;

  private static final double LARGE_RAGGED = 0.68;

  /** Below this share it is a crumb, that may spoil any chart a little. */
  private static final double CRUMB = 0.005;

  private static final double CRUMB_SLACK = 1.05;

  private final double most;
  private final double ragged;
  private final double all;
  private final boolean isWhole;
  private final boolean isRound;

  /** Pieces by number; null once they are part of another, which has a higher number. */
  private final List<Piece> pieces;

  private final List<int[]> outlines = new ArrayList<>();

  /** Of each: its normals summed by area (3), its area, the length of its outline. */
  private final List<double[]> means = new ArrayList<>();

  private final int[] chart;
  private final int[] slot;

  /** Pairs that cannot be joined. */
  private final LongIndex failed = new LongIndex();

  /**
   * @param most stretch allowed
   * @param isWhole whether a chart may have no seam within
   * @param isRound whether large charts must be rounder than others
   * @param ragged the square of an outline's length beside a circle's of the same area, at most
   */
  ChartMerging(
      Ground ground,
      double most,
      double ragged,
      boolean isWhole,
      boolean isRound,
      List<Piece> pieces) {
    this.isRound = isRound;
    this.isWhole = isWhole;
    this.ragged = ragged;
    double sum = 0;
    for (double a : ground.area()) {
      sum += a;
    }
    all = sum;
    this.ground = ground;
    twin = ground.twin();
    normal = ground.normal();
    area = ground.area();
    this.most = most;
    this.pieces = new ArrayList<>(pieces);
    chart = new int[area.length];
    slot = new int[area.length];
    for (int c = 0; c < pieces.size(); c++) {
      enter(c);
    }
  }

  /** Two neighbours. */
  private record Pair(int a, int b, double score) {}

  /**
   * @param enough no more are joined where there are so few
   */
  List<Piece> merged(int enough, Work work) {
    int begun = pieces.size();
    int left = begun;
    while (left > enough) {
      List<Pair> pairs = mutual();
      if (pairs.isEmpty()) {
        break;
      }
      if (pairs.size() > left - enough) {
        pairs.sort((p, q) -> p.score != q.score ? Double.compare(q.score, p.score) : p.a - q.a);
        pairs = pairs.subList(0, left - enough);
      }
      List<Pair> tries = pairs;
      Piece[] made = new Piece[pairs.size()];
      Parallel.range(
          made.length,
          1,
          Work.unwatched(),
          (from, to) -> {
            for (int i = from; i < to; i++) {
              work.check();
              made[i] = tried(tries.get(i));
            }
          });
      for (int i = 0; i < made.length; i++) {
        Pair p = pairs.get(i);
        if (made[i] == null) {
          failed.add((long) p.a << 32 | p.b);
        } else {
          pieces.set(p.a, null);
          pieces.set(p.b, null);
          pieces.add(made[i]);
          enter(pieces.size() - 1);
          left--;
          work.advance(1.0 / begun);
        }
      }
    }
    return pieces.stream().filter(p -> p != null).toList();
  }

  private void enter(int c) {
    Piece p = pieces.get(c);
    double[] mean = new double[5];
    for (int i = 0; i < p.triangles().length; i++) {
      int t = p.triangles()[i];
      chart[t] = c;
      slot[t] = i;
      for (int k = 0; k < 3; k++) {
        mean[k] += area[t] * normal[3 * t + k];
      }
      mean[3] += area[t];
    }
    int[] outline = ChartOutline.of(p.corners());
    for (int h : outline) {
      mean[4] += ground.length(3 * p.triangles()[h / 3] + h % 3);
    }
    outlines.add(outline);
    means.add(mean);
  }

  private Piece tried(Pair pair) {
    Piece a = pieces.get(pair.a);
    Piece b = pieces.get(pair.b);
    int[] outline = outlines.get(pair.a);
    int[] shared = new int[outline.length];
    int[] opposite = new int[outline.length];
    int n = 0;
    for (int h : outline) {
      int g = twin[3 * a.triangles()[h / 3] + h % 3];
      if (g >= 0 && chart[g / 3] == pair.b) {
        shared[n] = h;
        opposite[n++] = 3 * slot[g / 3] + g % 3;
      }
    }
    return new PieceJoin(a, b, Arrays.copyOf(shared, n), Arrays.copyOf(opposite, n))
        .joined(most, isWhole);
  }

  /** Those pairs that have not failed and of which each is the other's best. */
  private List<Pair> mutual() {
    LongIndex index = new LongIndex();
    double[] border = new double[1024];
    double[] plain = new double[1024];
    for (int c = 0; c < pieces.size(); c++) {
      if (pieces.get(c) == null) {
        continue;
      }
      int[] triangles = pieces.get(c).triangles();
      for (int h : outlines.get(c)) {
        int t = triangles[h / 3];
        int g = twin[3 * t + h % 3];
        if (g < 0 || chart[g / 3] <= c) {
          continue;
        }
        int u = g / 3;
        int at = index.add((long) c << 32 | chart[u]);
        if (at >= border.length) {
          border = Arrays.copyOf(border, 2 * border.length);
          plain = Arrays.copyOf(plain, 2 * plain.length);
        }
        plain[at] += ground.length(g);
        border[at] += ground.seam()[g];
      }
    }
    Pair[] best = new Pair[pieces.size()];
    for (int i = 0; i < index.size(); i++) {
      if (failed.find(index.key(i)) >= 0) {
        continue;
      }
      int a = (int) (index.key(i) >>> 32);
      int b = (int) index.key(i);
      if (!isCompact(a, b, plain[i])) {
        continue;
      }
      Pair p = new Pair(a, b, score(a, b, border[i]));
      best[a] = better(p, best[a]);
      best[b] = better(p, best[b]);
    }
    List<Pair> out = new ArrayList<>();
    for (int a = 0; a < best.length; a++) {
      if (best[a] != null && best[a].a == a && best[best[a].b] == best[a]) {
        out.add(best[a]);
      }
    }
    return out;
  }

  private static Pair better(Pair p, Pair q) {
    if (q == null || p.score > q.score) {
      return p;
    }
    boolean isBefore = p.a < q.a || p.a == q.a && p.b < q.b;
    return p.score == q.score && isBefore ? p : q;
  }

  /** High where much of a border goes and the whole stays near a plane. */
  private double score(int a, int b, double border) {
    double[] p = means.get(a);
    double[] q = means.get(b);
    double l = Math.sqrt(sq(p[0] + q[0]) + sq(p[1] + q[1]) + sq(p[2] + q[2]));
    double bent = 1 - l / (p[3] + q[3]);
    return border / Math.min(p[4], q[4]) - bent;
  }

  /**
   * Whether two would make a chart that packs well: one whose outline is not long for its area, or
   * no longer than it was; a small one may make it a little longer.
   */
  private boolean isCompact(int a, int b, double border) {
    double[] p = means.get(a);
    double[] q = means.get(b);
    double both = p[3] + q[3];
    double length = p[4] + q[4] - 2 * border;
    double share = Math.min(p[3], q[3]) / both;
    double bound = ragged * (1 + SLACK * Math.max(0, 1 - share / SMALL));
    double made = length * length / (4 * Math.PI * both);
    if (isRound && both > LARGE * all && made > LARGE_RAGGED * ragged) {
      return false;
    }
    double room = share < CRUMB ? CRUMB_SLACK : 1;
    return made <= Math.max(bound, room * Math.max(ragged(p), ragged(q)));
  }

  /** The square of the outline's length beside that of a circle of the same area. */
  private static double ragged(double[] mean) {
    return mean[4] * mean[4] / (4 * Math.PI * mean[3]);
  }

  private static double sq(double x) {
    return x * x;
  }
}
