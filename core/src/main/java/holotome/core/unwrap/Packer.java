package holotome.core.unwrap;

import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Packs charts into squares of the texture, all at one scale: the largest first, each by its true
 * outline to where it comes to lie lowest, in whichever of eight turns that is, of sixteen at last;
 * holes of charts and gaps between them are places as any other ({@link PackGrid}). Of several
 * squares each chart comes into the one that has most room left, or nearest to the one that its
 * rank asks for ({@link SquareChoice}). The scale is the largest that fits: each scale is tried
 * with three orders of the charts, side by side; found by halving, and then raised by little as
 * long as one fits.
 *
 * <p>Charts cover whole pixels and stay apart, and from the sides, by the gutter at least. O(pixels
 * x turns) for each of some twelve tries, and what the search for places takes: 330 charts at 4096
 * pixels in some two seconds. The result does not depend on the number of threads.
 */
final class Packer {
  /** Cells along a side of the picture, about. */
  private static final int CELLS = 512;

  /** Turns that a share is raised with; every second one of them does before. */
  private static final int TURNS = 16;

  /** Shares of the square: the first that is tried, and by how much it goes up or down. */
  private static final double FIRST = 0.75;

  private static final double STEP = 0.05;
  private static final double LEAST = 0.5;
  private static final int HALVINGS = 3;

  /** By how much a share is raised while any way fits. */
  private static final double RAISE = 0.004;

  private static final int RAISES = 2;

  /** More charts than these are packed one way, to the nearest twentieth or so. */
  private static final int MANY = 2000;

  /** Tries that are foreseen; more go without progress. */
  private static final int TRIES = 12;

  /** By how much less, and how often, where not even the least fits. */
  private static final double LESS = 0.75;

  private static final int MOST_LESS = 40;

  /**
   * An order and what counts as low.
   *
   * @param byArea 0 for the longest first, 1 for the largest
   * @param byTop 1 where a shape counts as lying as high as its upper side, 0 for its middle
   */
  private record Way(double byArea, double byTop) {}

  private static final List<Way> WAYS = List.of(new Way(0.5, 0.3), new Way(0.67, 0), new Way(0, 1));

  private final Charts charts;
  private final Staying staying;
  private final PackSquares squares;
  private final Staying.Shapes[] fixed;

  /** Of each square the share that charts cover which stay. */
  private final double[] taken;

  /** Per chart the square that it is to come into; null where any will do. */
  private final int[] home;

  private final int size;
  private final int gutter;
  private final int cell;

  /** Per chart the edges of its outlines, two ends each, x, y in turn. */
  private final double[][][] rims;

  /** The first turn, that of its smallest box; and the box around it in each turn. */
  private final double[] angle;

  private final double[][][] boxes;
  private final double[] longest;
  private final double[] areas;
  private final boolean[] isHeld;

  /** Of those whose size may change. */
  private final double area;

  /**
   * @param staying charts that lie in those squares
   * @param rank see {@link Packing#pack}
   */
  Packer(Charts charts, Staying staying, PackSquares squares, double[] rank) {
    this.charts = charts;
    this.staying = staying;
    this.squares = squares;
    size = squares.size();
    gutter = squares.gutter();
    cell = Math.max(1, (size + CELLS - 1) / CELLS);
    fixed = new Staying.Shapes[squares.count()];
    taken = new double[fixed.length];
    for (int i = 0; i < fixed.length; i++) {
      Staying there = staying.in(new PackSquares(size, gutter, squares.first() + i, 1));
      fixed[i] = there.shapes(size, cell);
      taken[i] = there.area();
    }
    int n = charts.count();
    rims = new double[n][][];
    boxes = new double[n][TURNS][];
    angle = new double[n];
    longest = new double[n];
    areas = new double[n];
    isHeld = new boolean[n];
    Parallel.range(
        n,
        1,
        Work.unwatched(),
        (from, to) -> {
          for (int c = from; c < to; c++) {
            Charts.Chart chart = charts.list().get(c);
            rims[c] = chart.rims();
            double[] points = chart.points();
            angle[c] = smallest(points);
            for (int k = 0; k < TURNS; k++) {
              boxes[c][k] = box(points, turn(c, k));
            }
            double[] b = boxes[c][0];
            longest[c] = Math.max(b[2] - b[0], b[3] - b[1]);
            areas[c] = chart.area();
            isHeld[c] = chart.isHeld();
          }
        });
    area = charts.area();
    home = rank == null ? null : SquareChoice.homes(rank, areas, fixed.length);
  }

  /** Pixels to a unit at which each chart just has room in a square of its own. */
  double most() {
    double out = Double.POSITIVE_INFINITY;
    for (int c = 0; c < boxes.length; c++) {
      double least = Double.POSITIVE_INFINITY;
      for (double[] b : boxes[c]) {
        least = Math.min(least, Math.max(b[2] - b[0], b[3] - b[1]));
      }
      out = isHeld[c] ? out : Math.min(out, (size - 2 * gutter) / least);
    }
    return out;
  }

  /** Pixels to a chart's own unit where those that may change have so many to theirs. */
  private double own(int c, double scale) {
    return isHeld[c] ? size : scale;
  }

  private double turn(int c, int k) {
    return angle[c] + 2 * Math.PI * k / TURNS;
  }

  /** One placed chart, in which of the turns, in which square. */
  private record Placed(PackGrid.Spot spot, int turn, int square) {}

  Packing run(Work work) {
    double held = charts.held();
    if (!(area + held > 0)) {
      throw Failure.cannot(CoreWords.of("packing.the-cast-has-no-area"));
    }
    // A pixel each, and the gutter on two of its sides.
    double rooms = Math.pow(size - gutter, 2) * fixed.length;
    if (charts.count() * Math.pow(gutter + 1, 2) > rooms) {
      throw tooMany();
    }
    if (!(area > 0)) {
      Placed[] only = packed(0, 1, work);
      if (only == null) {
        throw tooMany();
      }
      return result(new Made(0, 0, only));
    }
    Placed[] alike = staying.isEmpty() ? null : packed(alike(), 1, work);
    if (alike != null) {
      return result(new Made(alike(), alike(), alike));
    }
    Made best = first(work);
    double high = best.above;
    boolean isMany = charts.count() > MANY;
    for (int i = 0; i < (isMany ? 1 : HALVINGS); i++) {
      double mid = (best.share + high) / 2;
      Placed[] placed = packed(mid, 2, work);
      if (placed == null) {
        high = mid;
      } else {
        best = new Made(mid, high, placed);
      }
    }
    Made more = isMany ? null : raised(best, work);
    while (more != null) {
      best = more;
      more = raised(best, work);
    }
    return result(best);
  }

  /** The share at which they have the scale of what stays. */
  private double alike() {
    return area * staying.scale() * staying.scale() / fixed.length;
  }

  /** The share of all squares that those have whose size does not change. */
  private double unchanged() {
    return (charts.held() + staying.area()) / fixed.length;
  }

  /** A little higher: what does not fit at one share may at the next. Null where none fits. */
  private Made raised(Made made, Work work) {
    for (int i = 1; i <= RAISES; i++) {
      double share = made.share + i * RAISE;
      Placed[] placed = packed(share, 1, work);
      if (placed != null) {
        return new Made(share, share, placed);
      }
    }
    return null;
  }

  /**
   * What was tried.
   *
   * @param share of the squares that charts cover
   * @param above a share that did not fit
   */
  private record Made(double share, double above, Placed[] placed) {}

  /** The highest share that fits of some far apart. */
  private Made first(Work work) {
    double share = FIRST;
    while (share > LEAST && share + unchanged() >= 1) {
      share -= STEP;
    }
    Placed[] placed = packed(share, 2, work);
    if (placed != null) {
      for (double next = share + STEP; next < 1; next += STEP) {
        Placed[] more = packed(next, 2, work);
        if (more == null) {
          break;
        }
        placed = more;
        share = next;
      }
      return new Made(share, share + STEP, placed);
    }
    double above = share;
    for (int i = 0; placed == null && i < MOST_LESS; i++) {
      above = share;
      share = share - STEP >= LEAST ? share - STEP : share * LESS;
      placed = packed(share, 2, work);
    }
    if (placed == null) {
      throw tooMany();
    }
    return new Made(share, above, placed);
  }

  private Failure tooMany() {
    return Failure.cannot(
        CoreWords.of("packing.charts-with-px-between-them", charts.count(), gutter, size));
  }

  /**
   * The first of all ways that fits at a share; null for none.
   *
   * @param every of so many turns one is tried
   */
  private Placed[] packed(double share, int every, Work work) {
    // Pixels per unit of length: no scale packs better than perfectly.
    double scale = scale(share);
    boolean isMany = charts.count() > MANY;
    Work tries = work.part(1.0 / TRIES, work.label());
    PackShape[][] shapes = isMany ? null : new PackShape[charts.count()][];
    Parallel.range(
        isMany ? 0 : shapes.length,
        1,
        tries.part(0, work.label()),
        (from, to) -> {
          for (int c = from; c < to; c++) {
            shapes[c] = shapes(c, scale, every);
          }
        });
    Placed[][] made = new Placed[isMany ? 1 : WAYS.size()][];
    Parallel.range(
        made.length,
        1,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            Work part = tries.part(1.0 / made.length, work.label());
            made[i] = packed(scale, WAYS.get(i), shapes, every, part);
          }
        });
    for (Placed[] m : made) {
      if (m != null) {
        return m;
      }
    }
    return null;
  }

  /** Pixels to a unit where those whose size may change cover a share of the squares. */
  private double scale(double share) {
    return area > 0 ? Math.sqrt(share * fixed.length / area) * size : 0;
  }

  /** The charts in the order of a way, of equal ones the lower number first. */
  private Integer[] order(Way way, double scale) {
    double[] key = new double[charts.count()];
    Integer[] out = new Integer[key.length];
    for (int c = 0; c < key.length; c++) {
      key[c] =
          own(c, scale)
              * Math.pow(longest[c], 1 - way.byArea)
              * Math.pow(Math.max(0, areas[c]), way.byArea / 2);
      out[c] = c;
    }
    Arrays.sort(out, (a, b) -> key[a] != key[b] ? Double.compare(key[b], key[a]) : a - b);
    return out;
  }

  /** All charts at the scale where they cover a share; null where they do not fit. */
  private Placed[] packed(double scale, Way way, PackShape[][] shapes, int every, Work work) {
    Integer[] order = order(way, scale);
    PackGrid[] grids = new PackGrid[fixed.length];
    for (int i = 0; i < grids.length; i++) {
      grids[i] = new PackGrid(size, gutter, cell);
      fixed[i].take(grids[i]);
    }
    SquareChoice choice = new SquareChoice(taken, home);
    Placed[] out = new Placed[order.length];
    double done = 0;
    for (int c : order) {
      work.check();
      PackShape[] turned = shapes == null ? shapes(c, scale, every) : shapes[c];
      double share = Math.max(0, areas[c]) * Math.pow(own(c, scale) / size, 2);
      for (int square : choice.order(c, share)) {
        out[c] = put(grids[square], square, turned, way);
        if (out[c] != null) {
          choice.took(square, share);
          break;
        }
      }
      if (out[c] == null) {
        work.advance(1 - done);
        return null;
      }
      work.advance(1.0 / order.length);
      done += 1.0 / order.length;
    }
    return out;
  }

  /** A chart in all turns, null for those that are too large. */
  private PackShape[] shapes(int c, double scale, int every) {
    PackShape[] out = new PackShape[TURNS];
    int room = size - 2 * gutter;
    for (int k = 0; k < TURNS; k += every) {
      out[k] = PackShape.of(rims[c], turn(c, k), boxes[c][k], own(c, scale), cell, room);
    }
    return out;
  }

  private static Placed put(PackGrid grid, int square, PackShape[] shapes, Way way) {
    int best = -1;
    PackGrid.Spot spot = null;
    for (int k = 0; k < TURNS; k++) {
      PackShape s = shapes[k];
      if (s == null) {
        continue;
      }
      int below = spot == null ? Integer.MAX_VALUE : spot.level();
      int lift = (int) Math.round(way.byTop * s.height + (1 - way.byTop) * s.middle);
      PackGrid.Spot found = grid.find(s, lift, below);
      if (found != null && found.level() < below) {
        spot = found;
        best = k;
      }
    }
    if (spot == null) {
      return null;
    }
    grid.take(shapes[best], spot);
    return new Placed(spot, best, square);
  }

  /** The turn, by steps of three degrees, with the smallest box, its long side lying. */
  private static double smallest(double[] p) {
    double least = Double.POSITIVE_INFINITY;
    double best = 0;
    for (int degrees = 0; degrees < 90; degrees += 3) {
      double[] b = box(p, Math.toRadians(degrees));
      double boxArea = (b[2] - b[0]) * (b[3] - b[1]);
      if (boxArea < least) {
        least = boxArea;
        best = Math.toRadians(degrees);
      }
    }
    double[] b = box(p, best);
    return b[3] - b[1] > b[2] - b[0] ? best - Math.PI / 2 : best;
  }

  private static double[] box(double[] p, double angle) {
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    double[] b = {1e300, 1e300, -1e300, -1e300};
    for (int i = 0; i < p.length; i += 2) {
      double x = c * p[i] - s * p[i + 1];
      double y = s * p[i] + c * p[i + 1];
      b[0] = Math.min(b[0], x);
      b[1] = Math.min(b[1], y);
      b[2] = Math.max(b[2], x);
      b[3] = Math.max(b[3], y);
    }
    return b;
  }

  private Packing result(Made made) {
    double scale = scale(made.share);
    List<Packing.At> at = new ArrayList<>();
    for (int c = 0; c < made.placed.length; c++) {
      Placed p = made.placed[c];
      double[] low = boxes[c][p.turn];
      double by = own(c, scale);
      double x = squares.left(p.square) + p.spot.x() - by * low[0];
      double y = squares.bottom(p.square) + p.spot.y() - by * low[1];
      at.add(new Packing.At(by, turn(c, p.turn), x, y));
    }
    return new Packing(charts, at, staying, squares, made.share + unchanged(), scale);
  }
}
