package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.task.Work;
import holotome.core.touch.Course.Dab;
import java.util.Arrays;

/**
 * A piece of surface seen square on, as a grid about as fine as the maps: what is around a hole in
 * them, and the hole. Directions are held in the frame of the form, so that what is taken from one
 * place fits another.
 */
final class FlatPatch {
  /** As much around the hole as it is wide is looked at, and so many nodes at least. */
  private static final double MARGIN = 1;

  private static final int LEAST_MARGIN = 40;

  /** Nodes at most; beyond that the grid is coarser than the maps. */
  private static final int MOST = 4_000_000;

  private static final int MOST_TRIANGLES = 400;

  private final Layout layout;
  private final Dab dab;
  private final double step;
  private final double left;
  private final double low;
  final int width;
  final int height;
  private final int[] places;
  private final int channels;
  private final float[] value;
  private final byte[] state;

  /**
   * @param region texels up to 1 are the hole
   */
  FlatPatch(Layout layout, Form form, Region region, double texel, Work work) {
    this.layout = layout;
    dab = middle(form);
    places = layout.places(m -> true);
    channels = places[places.length - 1];
    double[] box = box(region);
    double margin =
        Math.max(MARGIN * Math.max(box[2] - box[0], box[3] - box[1]), LEAST_MARGIN * texel);
    double wide = box[2] - box[0] + 2 * margin;
    double high = box[3] - box[1] + 2 * margin;
    step = Math.max(texel, Math.sqrt(wide * high / MOST));
    left = box[0] - margin;
    low = box[1] - margin;
    width = Math.max(2 * PatchMatch.HALF + 2, (int) Math.ceil(wide / step) + 1);
    height = Math.max(2 * PatchMatch.HALF + 2, (int) Math.ceil(high / step) + 1);
    value = new float[Math.multiplyExact(width * height, channels)];
    state = new byte[width * height];
    look(work);
    for (Region.Tile tile : region.tiles()) {
      dig(tile);
    }
  }

  private static Dab middle(Form form) {
    Course c = form.course();
    return c.dab((c.lead() + c.size()) / 2 < c.size() ? (c.lead() + c.size()) / 2 : c.size() - 1);
  }

  private double ahead(double x, double y, double z) {
    double[] a = dab.at();
    double[] g = dab.ahead();
    return (x - a[0]) * g[0] + (y - a[1]) * g[1] + (z - a[2]) * g[2];
  }

  private double beside(double x, double y, double z) {
    double[] a = dab.at();
    double[] g = dab.beside();
    return (x - a[0]) * g[0] + (y - a[1]) * g[1] + (z - a[2]) * g[2];
  }

  /** What the hole covers: least and most, ahead and beside. */
  private double[] box(Region region) {
    double[] out = {0, 0, 0, 0};
    boolean any = false;
    Spot spot = new Spot(layout.ground());
    for (Region.Tile tile : region.tiles()) {
      for (int i = 0; i < tile.far.length; i++) {
        if (tile.far[i] <= 1) {
          spot.set(tile.triangle[i], tile.second[i], tile.third[i]);
          double a = ahead(spot.x, spot.y, spot.z);
          double b = beside(spot.x, spot.y, spot.z);
          out[0] = any ? Math.min(out[0], a) : a;
          out[1] = any ? Math.min(out[1], b) : b;
          out[2] = any ? Math.max(out[2], a) : a;
          out[3] = any ? Math.max(out[3], b) : b;
          any = true;
        }
      }
    }
    return out;
  }

  /** Reads what is there, row by row from the middle outwards. */
  private void look(Work work) {
    SurfaceWalk walk = new SurfaceWalk(layout.ground());
    CarriedMap[] maps = layout.carried(layout.maps());
    Spot spot = new Spot(layout.ground());
    double[][] own = layout.room();
    int[] begin = new int[width];
    Arrays.fill(begin, dab.triangle());
    int middleX = Math.clamp((int) (-left / step), 0, width - 1);
    int middleY = Math.clamp((int) (-low / step), 0, height - 1);
    for (int way = 0; way < 2; way++) {
      int[] from = begin.clone();
      for (int y = way == 0 ? middleY : middleY - 1; y >= 0 && y < height; y += way == 0 ? 1 : -1) {
        work.check();
        row(walk, maps, spot, own, y, middleX, from);
      }
    }
  }

  /**
   * @param from per column the triangle to begin at: that of the row before
   */
  private void row(
      SurfaceWalk walk,
      CarriedMap[] maps,
      Spot spot,
      double[][] own,
      int y,
      int middle,
      int[] from) {
    double b = low + y * step;
    for (int way = 0; way < 2; way++) {
      int last = -1;
      for (int x = way == 0 ? middle : middle - 1; x >= 0 && x < width; x += way == 0 ? 1 : -1) {
        double a = left + x * step;
        double[] p = new double[3];
        for (int k = 0; k < 3; k++) {
          p[k] = dab.at()[k] + a * dab.ahead()[k] + b * dab.beside()[k];
        }
        boolean isFound =
            walk.to(from[x], p[0], p[1], p[2], dab.normal(), MOST_TRIANGLES)
                || last >= 0 && walk.to(last, p[0], p[1], p[2], dab.normal(), MOST_TRIANGLES);
        if (!isFound) {
          continue;
        }
        last = walk.triangle;
        from[x] = last;
        spot.set(walk.triangle, walk.second, walk.third);
        spot.turn();
        state[y * width + x] = PatchMatch.AROUND;
        for (int m = 0; m < maps.length; m++) {
          maps[m].sample(spot, own[m]);
          if (maps[m].isDirection() || maps[m].isPlace()) {
            framed(spot.normal, own[m]);
          }
          for (int c = 0; c < maps[m].numbers(); c++) {
            value[(y * width + x) * channels + places[m] + c] = (float) own[m][c];
          }
        }
      }
    }
  }

  /** A direction in the frame of the form. */
  private void framed(double[] n, double[] v) {
    double[] t = Turning.along(dab.ahead(), n);
    double[] b = Vec.cross(n, t);
    double x = Vec.dot(v, t);
    double y = Vec.dot(v, b);
    double z = Vec.dot(v, n);
    v[0] = x;
    v[1] = y;
    v[2] = z;
  }

  /** Nodes around texels of the hole belong to it. */
  private void dig(Region.Tile tile) {
    Spot spot = new Spot(layout.ground());
    for (int i = 0; i < tile.far.length; i++) {
      if (tile.far[i] <= 1) {
        spot.set(tile.triangle[i], tile.second[i], tile.third[i]);
        int x = (int) ((ahead(spot.x, spot.y, spot.z) - left) / step);
        int y = (int) ((beside(spot.x, spot.y, spot.z) - low) / step);
        for (int k = 0; k < 4; k++) {
          int at = (y + (k >> 1)) * width + x + (k & 1);
          if (x >= 0 && y >= 0 && x + 1 < width && y + 1 < height && state[at] != PatchMatch.NONE) {
            state[at] = PatchMatch.HOLE;
          }
        }
      }
    }
  }

  /** Makes the hole from what is around it; whether there is enough. */
  boolean fill(Work work) {
    float[] counts = new float[channels];
    CarriedMap[] maps = layout.carried(layout.maps());
    for (int m = 0; m < maps.length; m++) {
      for (int c = places[m]; c < places[m] + maps[m].numbers(); c++) {
        double per = maps[m].isMeasured() ? Math.max(1e-30, variance(c)) : 1;
        counts[c] = (float) (maps[m].telling() / per);
      }
    }
    return new PatchMatch(width, height, channels, value, state, counts).fill(work);
  }

  /** How far what is around varies in a number. */
  private double variance(int channel) {
    double sum = 0;
    double squares = 0;
    int n = 0;
    for (int i = 0; i < state.length; i++) {
      if (state[i] == PatchMatch.AROUND) {
        double v = value[i * channels + channel];
        sum += v;
        squares += v * v;
        n++;
      }
    }
    return n == 0 ? 0 : squares / n - sum / n * (sum / n);
  }

  /** What came to a place; whether the grid has it. */
  private boolean read(Spot spot, CarriedMap[] maps, double[][] out) {
    double gx = (ahead(spot.x, spot.y, spot.z) - left) / step;
    double gy = (beside(spot.x, spot.y, spot.z) - low) / step;
    int x = (int) Math.floor(gx);
    int y = (int) Math.floor(gy);
    if (x < 0 || y < 0 || x + 1 >= width || y + 1 >= height) {
      return false;
    }
    for (double[] o : out) {
      Arrays.fill(o, 0);
    }
    double whole = 0;
    for (int k = 0; k < 4; k++) {
      int at = (y + (k >> 1)) * width + x + (k & 1);
      double s = ((k & 1) == 0 ? 1 - gx + x : gx - x) * (k >> 1 == 0 ? 1 - gy + y : gy - y);
      if (state[at] != PatchMatch.NONE) {
        whole += s;
        for (int m = 0; m < maps.length; m++) {
          for (int c = 0; c < maps[m].numbers(); c++) {
            out[m][c] += s * value[at * channels + places[m] + c];
          }
        }
      }
    }
    for (double[] o : out) {
      for (int c = 0; c < o.length && whole > 0; c++) {
        o[c] /= whole;
      }
    }
    return whole > 0.5;
  }

  /** What comes of the filled grid. */
  Coming coming() {
    CarriedMap[] maps = layout.carried(layout.maps());
    return (tile, at, spot, own, out) -> {
      if (!read(spot, maps, out)) {
        return false;
      }
      spot.turn();
      double[] n = spot.normal;
      double[] t = Turning.along(dab.ahead(), n);
      double[] b = Vec.cross(n, t);
      for (int m = 0; m < maps.length; m++) {
        if (maps[m].isDirection() || maps[m].isPlace()) {
          double x = out[m][0];
          double y = out[m][1];
          double z = out[m][2];
          for (int k = 0; k < 3; k++) {
            out[m][k] = x * t[k] + y * b[k] + z * n[k];
          }
        }
      }
      return true;
    };
  }
}
