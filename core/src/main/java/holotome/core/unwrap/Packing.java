package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.List;

/**
 * Packs charts into the unit square, all at one scale: the longest first, each by its true outline
 * to where its upper side comes lowest, in whichever of eight turns that is; holes of charts and
 * gaps between them are places as any other ({@link PackGrid}). The scale is the largest that fits,
 * found by halving.
 *
 * <p>Charts cover whole pixels and stay apart, and from the sides, by the gutter at least. O(pixels
 * x turns) for each of some nine scales, and what the search for places takes: 700 charts at 4096
 * pixels in some three seconds. The result does not depend on the number of threads.
 *
 * @param fill share of the square that charts cover
 */
record Packing(Uv uv, double fill) {

  static Packing pack(Charts charts, int size, int gutter, Work work) {
    return new Packer(charts, size, gutter).run(work);
  }

  private static final class Packer {
    /** Cells along a side of the picture, about. */
    private static final int CELLS = 512;

    private static final int TURNS = 8;

    /**
     * What is tried: from where to where charts may fill the square, and how often it is halved.
     */
    private static final double LEAST = 0.5;

    private static final double MOST = 0.97;
    private static final int HALVINGS = 7;

    /** By how much less, and how often, where not even the least fits. */
    private static final double LESS = 0.75;

    private static final int MOST_LESS = 40;

    private final Charts charts;
    private final int size;
    private final int gutter;
    private final int cell;

    /** Per chart the edges of its outline, two vertices each, and the turn of its smallest box. */
    private final int[][] outline;

    private final double[] angle;
    private final Integer[] order;
    private final double area;

    Packer(Charts charts, int size, int gutter) {
      this.charts = charts;
      this.size = size;
      this.gutter = gutter;
      cell = Math.max(1, (size + CELLS - 1) / CELLS);
      int n = charts.count();
      outline = new int[n][];
      angle = new double[n];
      double[] longest = new double[n];
      double[] areas = new double[n];
      Parallel.range(
          n,
          1,
          Work.unwatched(),
          (from, to) -> {
            for (int c = from; c < to; c++) {
              Charts.Chart chart = charts.list().get(c);
              outline[c] = outline(chart);
              angle[c] = smallest(chart.uv());
              double[] b = box(chart.uv(), angle[c]);
              longest[c] = Math.max(b[2] - b[0], b[3] - b[1]);
              areas[c] = area(chart);
            }
          });
      order = new Integer[n];
      Arrays.setAll(order, c -> c);
      Arrays.sort(
          order,
          (a, b) -> longest[a] != longest[b] ? Double.compare(longest[b], longest[a]) : a - b);
      double sum = 0;
      for (double a : areas) {
        sum += a;
      }
      area = sum;
    }

    /** One placed chart. */
    private record Placed(PackGrid.Spot spot, double[] place) {}

    Packing run(Work work) {
      if (!(area > 0)) {
        throw Failure.cannot(CoreWords.of("packing.the-cast-has-no-area"));
      }
      // Pixels per unit of length: no scale packs better than perfectly.
      double perfect = size / Math.sqrt(area);
      double low = Math.sqrt(LEAST) * perfect;
      double high = Math.sqrt(MOST) * perfect;
      double step = 1.0 / (HALVINGS + 1);
      Placed[] best = packed(low, work.part(step, work.label()));
      for (int i = 0; best == null && i < MOST_LESS; i++) {
        high = low;
        low *= LESS;
        best = packed(low, work.part(0, work.label()));
      }
      if (best == null) {
        throw Failure.cannot(
            CoreWords.of("packing.charts-with-px-between-them", charts.count(), gutter, size));
      }
      for (int i = 0; i < HALVINGS; i++) {
        double mid = (low + high) / 2;
        Placed[] made = packed(mid, work.part(step, work.label()));
        if (made == null) {
          high = mid;
        } else {
          low = mid;
          best = made;
        }
      }
      return result(low, best);
    }

    /** All charts at one scale; null where they do not fit. */
    private Placed[] packed(double scale, Work work) {
      PackGrid grid = new PackGrid(size, gutter, cell);
      Placed[] out = new Placed[order.length];
      double done = 0;
      for (int c : order) {
        out[c] = put(grid, c, scale);
        if (out[c] == null) {
          work.advance(1 - done);
          return null;
        }
        work.advance(1.0 / order.length);
        done += 1.0 / order.length;
      }
      return out;
    }

    private Placed put(PackGrid grid, int c, double scale) {
      double[] uv = charts.list().get(c).uv();
      PackShape[] shapes = new PackShape[TURNS];
      Parallel.range(
          TURNS,
          1,
          Work.unwatched(),
          (from, to) -> {
            for (int k = from; k < to; k++) {
              double turn = angle[c] + 2 * Math.PI * k / TURNS;
              shapes[k] = PackShape.of(uv, outline[c], turn, scale, cell, size - 2 * gutter);
            }
          });
      PackShape best = null;
      PackGrid.Spot spot = null;
      for (PackShape s : shapes) {
        int below = spot == null ? Integer.MAX_VALUE : spot.top();
        PackGrid.Spot found = s == null ? null : grid.find(s, below);
        if (found != null) {
          spot = found;
          best = s;
        }
      }
      if (best == null) {
        return null;
      }
      grid.take(best, spot);
      return new Placed(spot, best.place);
    }

    private static int[] outline(Charts.Chart chart) {
      int[] corners = chart.corners();
      int[] twin = Adjacency.of(new Mesh(new float[chart.uv().length / 2 * 3], corners)).twin();
      int[] edges = new int[2 * corners.length];
      int n = 0;
      for (int h = 0; h < corners.length; h++) {
        if (twin[h] < 0) {
          edges[n++] = corners[h];
          edges[n++] = corners[Adjacency.next(h)];
        }
      }
      return Arrays.copyOf(edges, n);
    }

    private static double area(Charts.Chart chart) {
      double[] p = chart.uv();
      int[] k = chart.corners();
      double s = 0;
      for (int i = 0; i < k.length; i += 3) {
        int a = 2 * k[i];
        int b = 2 * k[i + 1];
        int d = 2 * k[i + 2];
        s += ((p[b] - p[a]) * (p[d + 1] - p[a + 1]) - (p[d] - p[a]) * (p[b + 1] - p[a + 1])) / 2;
      }
      return s;
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

    private Packing result(double scale, Placed[] at) {
      int total = 0;
      int triangles = 0;
      List<Charts.Chart> list = charts.list();
      for (Charts.Chart c : list) {
        total += c.uv().length / 2;
        triangles += c.triangles().length;
      }
      float[] coords = new float[2 * total];
      int[] corners = new int[3 * triangles];
      int base = 0;
      for (int c = 0; c < at.length; c++) {
        double[] p = at[c].place;
        for (int i = 0; i < p.length; i++) {
          int corner = i % 2 == 0 ? at[c].spot.x() : at[c].spot.y();
          coords[2 * base + i] = (float) ((p[i] + corner) / size);
        }
        int[] k = list.get(c).corners();
        int[] t = list.get(c).triangles();
        for (int i = 0; i < k.length; i++) {
          corners[3 * t[i / 3] + i % 3] = base + k[i];
        }
        base += p.length / 2;
      }
      return new Packing(new Uv(coords, corners), area * scale * scale / ((double) size * size));
    }
  }
}
