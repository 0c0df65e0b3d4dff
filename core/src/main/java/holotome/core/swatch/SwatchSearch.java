package holotome.core.swatch;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.swatch.SeamFit.Window;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
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

  /** To the shorter side at least, and to the longer one at most. */
  private static final int LEAST_CELLS = 24;

  private static final int MOST_CELLS = 384;

  /** How far around the middle is looked, in longer sides. */
  private static final double AROUND = 1.5;

  /** Means along a pattern differ so many times more than along any line, at least. */
  private static final double PATTERN = 1.5;

  /** How many places are moved until they fit. */
  private static final int PLACES = 8;

  /** Their sides are moved by at most so much of their length, places by as many cells. */
  private static final double STRETCH = 0.12;

  private static final int ROUNDS = 3;

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

    WindowWorth worth(double apron) {
      return new WindowWorth(traits, columns, rows, apron);
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
    double shorter = Math.min(begun.width(), begun.height());
    double cell = Math.min(side / CELLS, shorter / LEAST_CELLS);
    if (side > MOST_CELLS * cell) {
      throw Failure.cannot(CoreWords.of("lay-swatch.too-narrow", MOST_CELLS / LEAST_CELLS));
    }
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
    int wide = (int) Math.round(begun.width() / cell);
    int high = (int) Math.round(begun.height() / cell);
    WindowWorth weights = g.worth(apron);
    if (find == LaySwatch.Find.LARGEST) {
      double times = weights.largest(wide, high, 2 * AROUND, work);
      // A cell less, or it has no room to be moved.
      wide = (int) (wide * times) - 1;
      high = (int) (high * times) - 1;
    }
    List<Window> best =
        weights.best(wide, high, Math.max(1, Math.max(wide, high) / 40), PLACES, work);
    if (best.isEmpty()) {
      // Where there is hardly room each place is looked at.
      best = weights.best(wide, high, 1, PLACES, work);
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
            fine.worth(apron),
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
      Ground g, WindowWorth weights, List<Window> begun, int reach, int stretch, Work work) {
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
  private Weighed fitted(Window begun, SeamFit fit, WindowWorth weights, int reach, int stretch) {
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
}
