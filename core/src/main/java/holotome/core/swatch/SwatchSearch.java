package holotome.core.swatch;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.swatch.SeamFit.Window;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Looks around a laid rectangle for a better place: where the ground is whole, even and nothing
 * strange lies on it, and where opposite sides would go on in each other; turned as the pattern of
 * the ground is, where it has one. Weights and limits are this program's own.
 *
 * <p>The ground is looked at as a picture ({@link GroundPicture}); every place of it is weighed by
 * summed areas; around the best few the sides are moved until they fit ({@link SeamFit}), and once
 * more in a finer picture of the best one. O(cells + places x cells of their strips).
 */
final class SwatchSearch {
  /** Cells to the longer side, at first and in the end. */
  private static final int CELLS = 160;

  private static final int FINE = 480;

  /** How far around the middle is looked, in longer sides. */
  private static final double AROUND = 1.5;

  /** Means along a pattern differ so many times more than along any line, at least. */
  private static final double PATTERN = 1.5;

  /** How many places are moved until they fit. */
  private static final int PLACES = 8;

  /** Their sides are moved by at most so much of their length, places by as many cells. */
  private static final double STRETCH = 0.12;

  private static final int ROUNDS = 3;

  /** What is strange, and what is not even, counts so much beside what does not fit. */
  private static final double OF_STRANGE = 40;

  private static final double OF_UNEVEN = 0.15;

  /** The largest one may have so much on it that is strange. */
  private static final double MOST_STRANGE = 0.01;

  /** Small holes are no hindrance. */
  private static final double MOST_MISSING = 0.002;

  private final Mesh scan;
  private final Bvh index;
  private final double apron;
  private final LaySwatch.Find find;

  /**
   * @param apron as a share of the size
   */
  SwatchSearch(Mesh scan, Bvh index, double apron, LaySwatch.Find find) {
    this.scan = scan;
    this.index = index;
    this.apron = Math.max(apron, 1.0 / 16);
    this.find = find;
  }

  /**
   * What was found.
   *
   * @param turned from the one that was begun with, in radians about its normal
   * @param strange share of it that does not look like ground
   * @param fit what the sides cost that go on in each other, 0 to about 2
   */
  record Found(Rectangle place, double turned, double strange, double fit) {}

  /** The ground around a rectangle as a grid of cells. */
  private static final class Ground {
    final Rectangle area;
    final int columns;
    final int rows;
    final GroundPicture picture;
    final GroundTraits traits;

    Ground(
        Mesh scan, Bvh index, Rectangle area, double cell, double within, int around, Work work) {
      this.area = area;
      columns = (int) Math.round(area.width() / cell);
      rows = (int) Math.round(area.height() / cell);
      picture = GroundPicture.of(scan, index, area, columns, rows, within, work.part(0.7, ""));
      traits = new GroundTraits(picture, around, work.part(0.3, ""));
    }
  }

  /** A window and what it is worth: less is better. */
  private record Weighed(Window window, double worth) {}

  /**
   * Looks.
   *
   * @param begun the rectangle that was asked for, lying on the ground
   */
  Found of(Rectangle begun, Work work) {
    double side = Math.max(begun.width(), begun.height());
    double cell = side / CELLS;
    double[] middle = begun.at(0.5, 0.5, 0);
    Ground g = around(begun, middle, side, cell, work.part(0.2, ""));
    GroundPattern pattern = GroundPattern.of(g.traits, g.columns, g.rows, work.part(0.05, ""));
    double turned = 0;
    Rectangle frame = begun;
    if (pattern.strength() >= PATTERN) {
      // The nearer way round.
      turned = pattern.angle() > Math.PI / 4 ? pattern.angle() - Math.PI / 2 : pattern.angle();
      frame = turned(begun, middle, turned);
      g = around(frame, middle, side, cell, work.part(0.15, ""));
    }
    int wide = Math.max(8, (int) Math.round(begun.width() / cell));
    int high = Math.max(8, (int) Math.round(begun.height() / cell));
    Weights weights = new Weights(g);
    if (find == LaySwatch.Find.LARGEST) {
      double times = weights.largest(wide, high);
      // A cell less, or it has no room to be moved.
      wide = (int) (wide * times) - 1;
      high = (int) (high * times) - 1;
    }
    List<Window> best = weights.best(wide, high, Math.max(1, Math.max(wide, high) / 40));
    if (best.isEmpty()) {
      // Where there is hardly room each place is looked at.
      best = weights.best(wide, high, 1);
    }
    if (best.isEmpty()) {
      throw Failure.cannot(CoreWords.of("lay-swatch.no-place"));
    }
    boolean isStretched = find == LaySwatch.Find.PATTERN;
    int reach = (int) Math.ceil(STRETCH * Math.max(wide, high));
    Weighed found = fitted(g, weights, best, reach, isStretched ? reach : 0, work.part(0.4, ""));
    double strange = weights.strange(found.window);
    // Once more, closely.
    Window w = found.window;
    double small = cell * Math.max(wide, high) / FINE;
    double more = 3 * cell;
    Rectangle near = part(g, w, cell, more);
    Ground fine = new Ground(scan, index, near, small, side, FINE / 8, work.part(0.1, ""));
    double times = cell / small;
    Window start =
        Window.of(
            (int) Math.round((w.over() * cell + more) / small),
            (int) Math.round((w.under() * cell + more) / small),
            (int) Math.round(w.wide() * times),
            (int) Math.round(w.high() * times),
            apron);
    int few = (int) Math.ceil(1.5 * times);
    Weighed last =
        fitted(
            fine,
            new Weights(fine),
            List.of(start),
            few,
            isStretched ? few : 0,
            work.part(0.1, ""));
    Window l = last.window;
    double[] corner = near.at((double) l.x() / fine.columns, (double) l.y() / fine.rows, 0);
    // A size that was typed stays what it is.
    Rectangle place =
        find == LaySwatch.Find.EVEN
            ? new Rectangle(corner, frame.across(), frame.up(), begun.width(), begun.height())
            : new Rectangle(
                corner,
                frame.across(),
                frame.up(),
                l.wide() * near.width() / fine.columns,
                l.high() * near.height() / fine.rows);
    return new Found(place, turned, strange, new SeamFit(fine.traits, fine.columns).of(l));
  }

  private static Rectangle turned(Rectangle r, double[] middle, double angle) {
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    double[] across = Vec.add(Vec.mul(r.across(), c), Vec.mul(r.up(), s));
    double[] up = Vec.sub(Vec.mul(r.up(), c), Vec.mul(r.across(), s));
    double[] corner =
        Vec.sub(middle, Vec.add(Vec.mul(across, r.width() / 2), Vec.mul(up, r.height() / 2)));
    return new Rectangle(corner, across, up, r.width(), r.height());
  }

  private Ground around(Rectangle r, double[] middle, double side, double cell, Work work) {
    double half = AROUND * side;
    double[] corner = Vec.sub(middle, Vec.add(Vec.mul(r.across(), half), Vec.mul(r.up(), half)));
    Rectangle area = new Rectangle(corner, r.across(), r.up(), 2 * half, 2 * half);
    return new Ground(scan, index, area, cell, side, CELLS / 8, work);
  }

  /** A window of the ground with its apron, and so much more on all sides. */
  private static Rectangle part(Ground g, Window w, double cell, double more) {
    Rectangle a = g.area;
    double left = (w.x() - w.over()) * cell - more;
    double low = (w.y() - w.under()) * cell - more;
    double[] corner = Vec.add(a.corner(), Vec.add(Vec.mul(a.across(), left), Vec.mul(a.up(), low)));
    return new Rectangle(
        corner,
        a.across(),
        a.up(),
        (w.wide() + w.over()) * cell + 2 * more,
        (w.high() + w.under()) * cell + 2 * more);
  }

  /** Moves windows and their sides until they fit best; the best of all. */
  private Weighed fitted(
      Ground g, Weights weights, List<Window> begun, int reach, int stretch, Work work) {
    Weighed[] out = new Weighed[begun.size()];
    Parallel.range(
        out.length,
        1,
        work,
        (from, to) -> {
          SeamFit fit = new SeamFit(g.traits, g.columns);
          for (int i = from; i < to; i++) {
            out[i] = fitted(begun.get(i), fit, weights, reach, stretch);
            work.check();
          }
        });
    Weighed best = null;
    for (Weighed w : out) {
      if (w != null && (best == null || w.worth < best.worth)) {
        best = w;
      }
    }
    if (best == null) {
      throw Failure.cannot(CoreWords.of("lay-swatch.no-place"));
    }
    return best;
  }

  /** One way after the other: both sides left and right, then both below and above. */
  private Weighed fitted(Window begun, SeamFit fit, Weights weights, int reach, int stretch) {
    // How long sides are matters to a cell, where they lie less so.
    int stride = Math.max(1, reach / 8);
    Window at = begun;
    double worth = Double.POSITIVE_INFINITY;
    for (int round = 0; round < ROUNDS; round++) {
      Window was = at;
      for (boolean isUp : new boolean[] {false, true}) {
        Window best = null;
        double least = Double.POSITIVE_INFINITY;
        for (int d = -reach / stride * stride; d <= reach; d += stride) {
          for (int s = -stretch; s <= stretch; s++) {
            Window w =
                isUp
                    ? Window.of(at.x(), begun.y() + d, at.wide(), begun.high() + s, apron)
                    : Window.of(begun.x() + d, at.y(), begun.wide() + s, at.high(), apron);
            double plain = weights.worth(w);
            if (plain < least) {
              double all = plain + (isUp ? fit.up(w) : fit.across(w));
              if (all < least) {
                least = all;
                best = w;
              }
            }
          }
        }
        if (best == null) {
          return null;
        }
        at = best;
      }
      worth = weights.worth(at) + fit.of(at);
      if (at.equals(was)) {
        break;
      }
    }
    return new Weighed(at, worth);
  }

  /** What windows are worth but for how they fit. */
  private final class Weights {
    private final int columns;
    private final int rows;
    private final Sums missing;
    private final Sums strange;
    private final Sums light;
    private final Sums squares;

    Weights(Ground g) {
      columns = g.columns;
      rows = g.rows;
      missing = new Sums(g.traits.missing, columns, rows);
      strange = new Sums(g.traits.strange, columns, rows);
      float[] l = g.traits.values[GroundTraits.LIGHT];
      light = new Sums(l, columns, rows);
      float[] s = new float[l.length];
      for (int i = 0; i < s.length; i++) {
        s[i] = l[i] * l[i];
      }
      squares = new Sums(s, columns, rows);
    }

    private double share(Sums of, Window w) {
      double n = (double) (w.wide() + w.over()) * (w.high() + w.under());
      return of.of(w.x() - w.over(), w.y() - w.under(), w.x() + w.wide(), w.y() + w.high()) / n;
    }

    double strange(Window w) {
      return share(strange, w);
    }

    /** Endless where it is not all over ground. */
    double worth(Window w) {
      if (!w.isWithin(columns, rows) || share(missing, w) > MOST_MISSING) {
        return Double.POSITIVE_INFINITY;
      }
      return OF_STRANGE * strange(w) + OF_UNEVEN * uneven(w);
    }

    /** How much the light of its sixteen parts differs, in deviations of single cells. */
    private double uneven(Window w) {
      double sum = 0;
      double square = 0;
      for (int k = 0; k < 16; k++) {
        int x0 = w.x() + w.wide() * (k % 4) / 4;
        int x1 = w.x() + w.wide() * (k % 4 + 1) / 4;
        int y0 = w.y() + w.high() * (k / 4) / 4;
        int y1 = w.y() + w.high() * (k / 4 + 1) / 4;
        double mean = light.of(x0, y0, x1, y1) / Math.max(1, (x1 - x0) * (y1 - y0));
        sum += mean;
        square += mean * mean;
      }
      double n = (double) w.wide() * w.high();
      double mean = light.of(w.x(), w.y(), w.x() + w.wide(), w.y() + w.high()) / n;
      double all = squares.of(w.x(), w.y(), w.x() + w.wide(), w.y() + w.high()) / n - mean * mean;
      double parts = Math.max(0, square / 16 - sum * sum / 256);
      return all > 0 ? Math.sqrt(parts / all) : 0;
    }

    /** How many times larger it may be with no more on it that is strange than is allowed. */
    double largest(int wide, int high) {
      double low = 0;
      double most = 2 * AROUND;
      for (int round = 0; round < 16; round++) {
        double times = (low + most) / 2;
        if (isAnywhere((int) (times * wide), (int) (times * high))) {
          low = times;
        } else {
          most = times;
        }
      }
      if (low * Math.min(wide, high) < 8) {
        throw Failure.cannot(CoreWords.of("lay-swatch.no-place"));
      }
      return low;
    }

    private boolean isAnywhere(int wide, int high) {
      for (int y = 0; y + high <= rows; y++) {
        for (int x = 0; x + wide <= columns; x++) {
          Window w = Window.of(x, y, wide, high, apron);
          if (w.isWithin(columns, rows)
              && share(missing, w) <= MOST_MISSING
              && strange(w) <= MOST_STRANGE) {
            return true;
          }
        }
      }
      return false;
    }

    /** The best ones that do not lie upon each other, as far as there are. */
    List<Window> best(int wide, int high, int step) {
      List<Weighed> all = new ArrayList<>();
      for (int y = 0; y + high <= rows; y += step) {
        for (int x = 0; x + wide <= columns; x += step) {
          Window w = Window.of(x, y, wide, high, apron);
          double worth = worth(w);
          if (worth < Double.POSITIVE_INFINITY) {
            all.add(new Weighed(w, worth));
          }
        }
      }
      all.sort(Comparator.comparingDouble(Weighed::worth));
      List<Window> out = new ArrayList<>();
      int apart = Math.max(wide, high) / 10;
      for (Weighed w : all) {
        boolean isNew =
            out.stream()
                .noneMatch(
                    o ->
                        Math.abs(o.x() - w.window.x()) < apart
                            && Math.abs(o.y() - w.window.y()) < apart);
        if (isNew && out.size() < PLACES) {
          out.add(w.window);
        }
      }
      return out;
    }
  }
}
