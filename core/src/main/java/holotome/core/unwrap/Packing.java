package holotome.core.unwrap;

import holotome.core.mesh.Uv;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.List;

/**
 * Packs charts into the unit square, all at one scale: turned to their smallest box, tallest first,
 * each let down from above onto the profile of those below (the packing of Lévy and others,
 * SIGGRAPH 2002, section 4), in whichever of four quarter turns rises least. The scale is the
 * largest that fits, found by halving.
 *
 * <p>Profiles are kept per pixel and widened by the gutter, so charts stay apart by at least that.
 *
 * @param fill share of the square that charts cover
 */
record Packing(Uv uv, double fill) {

  static Packing pack(Charts charts, int size, int gutter, Work work) {
    return new Packer(charts, size, gutter).run(work);
  }

  private static final class Packer {
    private final Charts charts;
    private final int size;
    private final int gutter;

    /** Per chart its places in each of four quarter turns, x y in turn, from 0 0. */
    private final double[][][] turns;

    private final double[] height;
    private final Integer[] order;

    /** Per chart: x, y in pixels, and which turn. */
    private final int[][] place;

    Packer(Charts charts, int size, int gutter) {
      this.charts = charts;
      this.size = size;
      this.gutter = gutter;
      int n = charts.count();
      turns = new double[n][4][];
      height = new double[n];
      order = new Integer[n];
      place = new int[n][3];
      for (int c = 0; c < n; c++) {
        turns[c][0] = turned(charts.list().get(c));
        for (int k = 1; k < 4; k++) {
          turns[c][k] = quarter(turns[c][k - 1]);
        }
        height[c] = extent(turns[c][0], 1);
        order[c] = c;
      }
      Arrays.sort(
          order, (a, b) -> height[a] != height[b] ? Double.compare(height[b], height[a]) : a - b);
    }

    /** The largest x (axis 0) or y (axis 1). */
    private static double extent(double[] p, int axis) {
      double most = 0;
      for (int i = axis; i < p.length; i += 2) {
        most = Math.max(most, p[i]);
      }
      return most;
    }

    /** Turned left by 90 degrees, from 0 0 again. */
    private static double[] quarter(double[] p) {
      double high = extent(p, 1);
      double[] out = new double[p.length];
      for (int i = 0; i < p.length; i += 2) {
        out[i] = high - p[i + 1];
        out[i + 1] = p[i];
      }
      return out;
    }

    Packing run(Work work) {
      double area = 0;
      for (int c = 0; c < turns.length; c++) {
        area += area(c);
      }
      if (!(area > 0)) {
        throw Failure.cannot(CoreWords.of("packing.the-cast-has-no-area"));
      }
      // Pixels per unit of length: no scale packs better than perfectly.
      double high = size / Math.sqrt(area);
      double low = 0;
      int[][] best = null;
      for (int i = 0; i < 14; i++) {
        double mid = low == 0 ? high * Math.pow(0.75, i + 1) : (low + high) / 2;
        if (fits(mid)) {
          low = mid;
          best = new int[place.length][];
          for (int c = 0; c < best.length; c++) {
            best[c] = place[c].clone();
          }
          if (i == 0) {
            high /= 0.99;
          }
        } else {
          high = mid;
        }
        work.advance(1.0 / 14);
      }
      if (best == null) {
        throw Failure.cannot(
            CoreWords.of("packing.charts-with-px-between-them", turns.length, gutter, size));
      }
      return result(low, best, area);
    }

    private double area(int c) {
      int[] k = charts.list().get(c).corners();
      double s = 0;
      for (int i = 0; i < k.length; i += 3) {
        double[] p = turns[c][0];
        int a = 2 * k[i];
        int b = 2 * k[i + 1];
        int d = 2 * k[i + 2];
        s += ((p[b] - p[a]) * (p[d + 1] - p[a + 1]) - (p[d] - p[a]) * (p[b + 1] - p[a + 1])) / 2;
      }
      return s;
    }

    /** The chart in its smallest box over the turns by 3 degrees, long side lying, from 0 0. */
    private static double[] turned(Charts.Chart chart) {
      double[] p = chart.uv();
      double bestArea = Double.POSITIVE_INFINITY;
      double bestAngle = 0;
      for (int deg = 0; deg < 90; deg += 3) {
        double[] b = box(p, Math.toRadians(deg));
        double area = (b[2] - b[0]) * (b[3] - b[1]);
        if (area < bestArea) {
          bestArea = area;
          bestAngle = Math.toRadians(deg);
        }
      }
      double[] b = box(p, bestAngle);
      if (b[3] - b[1] > b[2] - b[0]) {
        bestAngle -= Math.PI / 2;
        b = box(p, bestAngle);
      }
      double c = Math.cos(bestAngle);
      double s = Math.sin(bestAngle);
      double[] out = new double[p.length];
      for (int i = 0; i < p.length; i += 2) {
        out[i] = c * p[i] - s * p[i + 1] - b[0];
        out[i + 1] = s * p[i] + c * p[i + 1] - b[1];
      }
      return out;
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

    private boolean fits(double scale) {
      int[] top = new int[size];
      Arrays.fill(top, gutter);
      for (int c : order) {
        if (!put(c, scale, top)) {
          return false;
        }
      }
      return true;
    }

    /**
     * A chart in one turn at one scale: pixels wide and high, its profile, where it comes to lie.
     */
    private record Fit(int turn, int w, int h, int[] under, int[] over, int x, int y, long waste) {
      /** Rising less is better; then leaving less room below. */
      boolean betterThan(Fit o) {
        return o == null || y + h < o.y + o.h || y + h == o.y + o.h && waste < o.waste;
      }
    }

    private boolean put(int c, double scale, int[] top) {
      Fit best = null;
      for (int turn = 0; turn < 4; turn++) {
        Fit f = letDown(c, turn, scale, top);
        if (f != null && f.betterThan(best)) {
          best = f;
        }
      }
      if (best == null) {
        return false;
      }
      place[c][0] = best.x;
      place[c][1] = best.y;
      place[c][2] = best.turn;
      for (int i = -gutter; i < best.w + gutter; i++) {
        int col = best.x + i;
        if (col >= 0 && col < size) {
          int o = 0;
          for (int k = Math.max(0, i - gutter); k <= Math.min(best.w - 1, i + gutter); k++) {
            o = Math.max(o, best.over[k]);
          }
          top[col] = Math.max(top[col], best.y + o + gutter);
        }
      }
      return true;
    }

    /** Where a chart in one turn comes to lie lowest; null where it does not fit. */
    private Fit letDown(int c, int turn, double scale, int[] top) {
      double[] p = turns[c][turn];
      // A chart covers whole pixels; half the gutter on each side keeps two of them apart.
      int w = (int) Math.ceil(extent(p, 0) * scale) + 1;
      int h = (int) Math.ceil(extent(p, 1) * scale) + 1;
      if (w + 2 * gutter > size || h + 2 * gutter > size) {
        return null;
      }
      int[] under = new int[w];
      int[] over = new int[w];
      profile(c, p, scale, under, over);
      int bestX = -1;
      int bestY = Integer.MAX_VALUE;
      long bestWaste = Long.MAX_VALUE;
      int stepX = Math.max(1, w / 64);
      for (int x = gutter; x + w + gutter <= size; x += stepX) {
        int y = 0;
        for (int i = 0; i < w; i++) {
          y = Math.max(y, top[x + i] - under[i]);
          if (y > bestY) {
            break;
          }
        }
        if (y > bestY) {
          continue;
        }
        long waste = 0;
        for (int i = 0; i < w; i++) {
          waste += y + under[i] - top[x + i];
        }
        if (y < bestY || waste < bestWaste) {
          bestY = y;
          bestX = x;
          bestWaste = waste;
        }
      }
      return bestX < 0 || bestY + h + gutter > size
          ? null
          : new Fit(turn, w, h, under, over, bestX, bestY, bestWaste);
    }

    /** Lowest and highest pixel of the chart per column. */
    private void profile(int c, double[] p, double scale, int[] under, int[] over) {
      Arrays.fill(under, Integer.MAX_VALUE);
      int[] k = charts.list().get(c).corners();
      for (int i = 0; i < k.length; i++) {
        int a = 2 * k[i];
        int b = 2 * k[i % 3 == 2 ? i - 2 : i + 1];
        edge(p[a] * scale, p[a + 1] * scale, p[b] * scale, p[b + 1] * scale, under, over);
      }
      for (int i = 0; i < under.length; i++) {
        if (under[i] == Integer.MAX_VALUE) {
          under[i] = 0;
        }
      }
    }

    private static void edge(double ax, double ay, double bx, double by, int[] under, int[] over) {
      double x0 = Math.min(ax, bx);
      double x1 = Math.max(ax, bx);
      int first = (int) Math.floor(x0);
      int last = Math.min(under.length - 1, (int) Math.floor(x1));
      for (int x = first; x <= last; x++) {
        double from = Math.max(x0, x);
        double to = Math.min(x1, x + 1.0);
        double ya = x1 > x0 ? ay + (by - ay) * (from - ax) / (bx - ax) : ay;
        double yb = x1 > x0 ? ay + (by - ay) * (to - ax) / (bx - ax) : by;
        under[x] = Math.min(under[x], (int) Math.floor(Math.min(ya, yb)));
        over[x] = Math.max(over[x], (int) Math.floor(Math.max(ya, yb)) + 1);
      }
    }

    private Packing result(double scale, int[][] at, double area) {
      int[] base = new int[turns.length];
      int total = 0;
      int triangles = 0;
      for (int c = 0; c < turns.length; c++) {
        base[c] = total;
        total += turns[c][0].length / 2;
        triangles += charts.list().get(c).triangles().length;
      }
      float[] coords = new float[2 * total];
      int[] corners = new int[3 * triangles];
      List<Charts.Chart> list = charts.list();
      for (int c = 0; c < turns.length; c++) {
        double[] p = turns[c][at[c][2]];
        for (int i = 0; i < p.length; i++) {
          coords[2 * base[c] + i] = (float) ((p[i] * scale + at[c][i % 2]) / size);
        }
        int[] k = list.get(c).corners();
        int[] t = list.get(c).triangles();
        for (int i = 0; i < k.length; i++) {
          corners[3 * t[i / 3] + i % 3] = base[c] + k[i];
        }
      }
      return new Packing(new Uv(coords, corners), area * scale * scale / ((double) size * size));
    }
  }
}
