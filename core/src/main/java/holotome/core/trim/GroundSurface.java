package holotome.core.trim;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.PlaneFinder;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * The ground as it runs under and around what stands on it: heights over the ground's mean plane on
 * a grid, the median of what faces up and lies near the plane in each cell, carried on into cells
 * that have none and evened out. One pass over the mesh.
 */
final class GroundSurface {
  private static final int CELLS = 48;
  private static final int BINS = 64;
  private static final double FACING = Math.cos(Math.toRadians(35));

  private final double[] origin;
  private final double[] normal;
  private final double[] u;
  private final double[] w;
  private final double minU;
  private final double minW;
  private final double cell;
  private final int columns;
  private final int rows;
  private final double[] height;

  private GroundSurface(PlaneFinder.Flat flat, double[] box, double[] height, double cell) {
    origin = flat.point();
    normal = flat.normal();
    u = Vec.perpendicular(normal);
    w = Vec.cross(normal, u);
    minU = box[0];
    minW = box[1];
    this.cell = cell;
    columns = columns(box, cell);
    rows = rows(box, cell);
    this.height = height;
  }

  private static int columns(double[] box, double cell) {
    return (int) ((box[2] - box[0]) / cell) + 1;
  }

  private static int rows(double[] box, double cell) {
    return (int) ((box[3] - box[1]) / cell) + 1;
  }

  /** The ground near a flat part, in the units of the mesh. */
  static GroundSurface of(Mesh mesh, PlaneFinder.Flat flat, Work work) {
    double band = Math.max(4 * flat.rms(), 1e-4 * mesh.bounds().diagonal());
    double[] u = Vec.perpendicular(flat.normal());
    double[] w = Vec.cross(flat.normal(), u);
    double[] box = {Double.MAX_VALUE, Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
    each(
        mesh,
        flat,
        band,
        u,
        w,
        work.part(0.4, CoreWords.of("work.following-the-ground")),
        (x, y, h, area) -> {
          box[0] = Math.min(box[0], x);
          box[1] = Math.min(box[1], y);
          box[2] = Math.max(box[2], x);
          box[3] = Math.max(box[3], y);
        });
    if (box[0] > box[2]) {
      return new GroundSurface(flat, new double[4], new double[1], 1);
    }
    double cell = Math.max(box[2] - box[0], box[3] - box[1]) / CELLS;
    cell = cell > 0 ? cell : 1;
    int columns = columns(box, cell);
    double[][] bins = new double[columns * rows(box, cell)][];
    double size = cell;
    each(
        mesh,
        flat,
        band,
        u,
        w,
        work.part(0.6, CoreWords.of("work.following-the-ground")),
        (x, y, h, area) -> {
          int at = (int) ((y - box[1]) / size) * columns + (int) ((x - box[0]) / size);
          if (bins[at] == null) {
            bins[at] = new double[BINS];
          }
          bins[at][Math.clamp((int) ((h + band) / (2 * band) * BINS), 0, BINS - 1)] += area;
        });
    double[] height = new double[bins.length];
    double most = 0;
    double[] area = new double[bins.length];
    for (int i = 0; i < bins.length; i++) {
      area[i] = bins[i] == null ? 0 : Arrays.stream(bins[i]).sum();
      most = Math.max(most, area[i]);
    }
    for (int i = 0; i < bins.length; i++) {
      // A cell with hardly any ground, as at a foot, takes its height from around it.
      height[i] = area[i] < 0.2 * most ? Double.NaN : median(bins[i], area[i], band);
    }
    spread(height, columns);
    return new GroundSurface(flat, box, height, cell);
  }

  private interface Met {
    void at(double x, double y, double h, double area);
  }

  private static void each(
      Mesh mesh, PlaneFinder.Flat flat, double band, double[] u, double[] w, Work work, Met met) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    double[] n = flat.normal();
    double[] o = flat.point();
    int count = mesh.triangleCount();
    for (int t = 0; t < count; t++) {
      if ((t & 0xfffff) == 0) {
        work.check();
      }
      int v = 3 * tri[3 * t];
      double dx = p[v] - o[0];
      double dy = p[v + 1] - o[1];
      double dz = p[v + 2] - o[2];
      double h = dx * n[0] + dy * n[1] + dz * n[2];
      if (Math.abs(h) > band) {
        continue;
      }
      double[] c = Measures.cross(mesh, t);
      double area = Vec.length(c);
      if (area > 0 && Math.abs(Vec.dot(c, n)) >= FACING * area) {
        met.at(dx * u[0] + dy * u[1] + dz * u[2], dx * w[0] + dy * w[1] + dz * w[2], h, area);
      }
    }
    work.advance(1);
  }

  private static double median(double[] bins, double sum, double band) {
    double below = 0;
    for (int b = 0; b < BINS; b++) {
      if (below + bins[b] >= sum / 2) {
        return ((b + (sum / 2 - below) / bins[b]) / BINS * 2 - 1) * band;
      }
      below += bins[b];
    }
    return band;
  }

  /** Carries heights on into cells without one, then evens all out a little. */
  private static void spread(double[] height, int columns) {
    int rows = height.length / columns;
    boolean open = true;
    while (open) {
      open = false;
      double[] next = height.clone();
      boolean any = false;
      for (int i = 0; i < height.length; i++) {
        if (Double.isNaN(height[i])) {
          next[i] = around(height, i, columns, rows);
          open |= Double.isNaN(next[i]);
          any |= !Double.isNaN(next[i]);
        }
      }
      System.arraycopy(next, 0, height, 0, height.length);
      if (!any) {
        break;
      }
    }
    for (int pass = 0; pass < 3; pass++) {
      double[] next = new double[height.length];
      for (int i = 0; i < height.length; i++) {
        double a = around(height, i, columns, rows);
        next[i] = Double.isNaN(height[i]) ? 0 : Double.isNaN(a) ? height[i] : (height[i] + a) / 2;
      }
      System.arraycopy(next, 0, height, 0, height.length);
    }
  }

  private static double around(double[] height, int i, int columns, int rows) {
    double sum = 0;
    int n = 0;
    int x = i % columns;
    int y = i / columns;
    for (int dy = -1; dy <= 1; dy++) {
      for (int dx = -1; dx <= 1; dx++) {
        int cx = x + dx;
        int cy = y + dy;
        if ((dx != 0 || dy != 0) && cx >= 0 && cy >= 0 && cx < columns && cy < rows) {
          double h = height[cy * columns + cx];
          if (!Double.isNaN(h)) {
            sum += h;
            n++;
          }
        }
      }
    }
    return n == 0 ? Double.NaN : sum / n;
  }

  int cells() {
    return height.length;
  }

  /** The cell over which a point lies; the nearest for a point outside the grid. */
  int cellOf(double x, double y, double z) {
    double dx = x - origin[0];
    double dy = y - origin[1];
    double dz = z - origin[2];
    int i = (int) Math.floor((dx * u[0] + dy * u[1] + dz * u[2] - minU) / cell);
    int j = (int) Math.floor((dx * w[0] + dy * w[1] + dz * w[2] - minW) / cell);
    return Math.clamp(j, 0, rows - 1) * columns + Math.clamp(i, 0, columns - 1);
  }

  /** Marked cells and those that touch them. */
  boolean[] widened(boolean[] marked) {
    boolean[] out = new boolean[marked.length];
    for (int i = 0; i < marked.length; i++) {
      for (int dy = -1; dy <= 1 && marked[i]; dy++) {
        for (int dx = -1; dx <= 1; dx++) {
          int x = i % columns + dx;
          int y = i / columns + dy;
          if (x >= 0 && y >= 0 && x < columns && y < rows) {
            out[y * columns + x] = true;
          }
        }
      }
    }
    return out;
  }

  /** How far a point lies above the ground under it. */
  double above(double x, double y, double z) {
    double dx = x - origin[0];
    double dy = y - origin[1];
    double dz = z - origin[2];
    double a = (dx * u[0] + dy * u[1] + dz * u[2] - minU) / cell - 0.5;
    double b = (dx * w[0] + dy * w[1] + dz * w[2] - minW) / cell - 0.5;
    a = Math.clamp(a, 0, columns - 1.0);
    b = Math.clamp(b, 0, rows - 1.0);
    int i = Math.min((int) a, Math.max(0, columns - 2));
    int j = Math.min((int) b, Math.max(0, rows - 2));
    int ni = Math.min(i + 1, columns - 1);
    int nj = Math.min(j + 1, rows - 1);
    double fa = a - i;
    double fb = b - j;
    double low = height[j * columns + i] * (1 - fa) + height[j * columns + ni] * fa;
    double high = height[nj * columns + i] * (1 - fa) + height[nj * columns + ni] * fa;
    return dx * normal[0] + dy * normal[1] + dz * normal[2] - (low * (1 - fb) + high * fb);
  }
}
