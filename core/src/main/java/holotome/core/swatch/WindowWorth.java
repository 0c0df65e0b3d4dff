package holotome.core.swatch;

import holotome.core.swatch.SeamFit.Window;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * What windows of a piece of ground are worth but for how they fit: less is better. By summed
 * areas, in constant time each.
 */
final class WindowWorth {
  /** What is strange, and what is not even, counts so much beside what does not fit. */
  private static final double OF_STRANGE = 40;

  private static final double OF_UNEVEN = 0.15;

  /** The largest one may have so much on it that is strange. */
  private static final double MOST_STRANGE = 0.01;

  /** Small holes are no hindrance. */
  private static final double MOST_MISSING = 0.002;

  private final double apron;
  private final int columns;
  private final int rows;
  private final Sums missing;
  private final Sums strange;
  private final Sums light;
  private final Sums squares;

  /**
   * @param apron as a share of a window's size
   */
  WindowWorth(GroundTraits traits, int columns, int rows, double apron) {
    this.columns = columns;
    this.rows = rows;
    this.apron = apron;
    missing = new Sums(traits.missing, columns, rows);
    strange = new Sums(traits.strange, columns, rows);
    float[] l = traits.values[GroundTraits.LIGHT];
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

  /**
   * How many times larger it may be with no more on it that is strange than is allowed.
   *
   * @param most times at most
   */
  double largest(int wide, int high, double most, Work work) {
    double low = 0;
    double over = most;
    for (int round = 0; round < 16; round++) {
      work.check();
      double times = (low + over) / 2;
      if (isAnywhere((int) (times * wide), (int) (times * high))) {
        low = times;
      } else {
        over = times;
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

  /** A window and what it is worth. */
  private record Valued(Window window, double worth) {}

  /** The best ones that do not lie upon each other, as far as there are. */
  List<Window> best(int wide, int high, int step, int places, Work work) {
    List<Valued> all = new ArrayList<>();
    for (int y = 0; y + high <= rows; y += step) {
      work.check();
      for (int x = 0; x + wide <= columns; x += step) {
        Window w = Window.of(x, y, wide, high, apron);
        double worth = worth(w);
        if (worth < Double.POSITIVE_INFINITY) {
          all.add(new Valued(w, worth));
        }
      }
    }
    all.sort(Comparator.comparingDouble(Valued::worth));
    List<Window> out = new ArrayList<>();
    int apart = Math.max(wide, high) / 10;
    for (Valued w : all) {
      boolean isNew =
          out.stream()
              .noneMatch(
                  o ->
                      Math.abs(o.x() - w.window.x()) < apart
                          && Math.abs(o.y() - w.window.y()) < apart);
      if (isNew && out.size() < places) {
        out.add(w.window);
      }
    }
    return out;
  }
}
