package holotome.core.trim;

import holotome.core.cut.Knife;
import holotome.core.frame.Frame;
import holotome.core.geometry.Placing;
import holotome.core.select.Fence;
import holotome.core.select.FenceOutline;
import java.util.Arrays;
import java.util.function.IntConsumer;

/**
 * An outline on a view, reaching through space along the line of sight: one facet per edge of the
 * outline. What lies behind the eye is not met.
 */
final class OutlineKnife implements Knife {
  private static final int CELLS = 128;

  private final double[] m;
  private final double[] outline;
  private final FenceOutline inside;

  /** Four numbers per facet: its plane, with a normal of unit length. */
  private final double[] plane;

  private final double cellX;
  private final double cellY;
  private final int[] start = new int[CELLS * CELLS + 1];
  private final int[] edges;

  OutlineKnife(Fence fence, Frame frame) {
    m = Placing.then(frame.toWork(), fence.view());
    outline = withoutRepeats(fence.outline());
    inside = new FenceOutline(outline);
    int n = facets();
    plane = new double[4 * n];
    for (int i = 0; i < n; i++) {
      // The line through both corners: a x + b y + c = 0, and its plane through the eye.
      double x = x(i);
      double y = y(i);
      double a = y(i + 1) - y;
      double b = x - x(i + 1);
      double c = -(a * x + b * y);
      for (int k = 0; k < 4; k++) {
        plane[4 * i + k] = a * m[k] + b * m[4 + k] + c * m[12 + k];
      }
      double l = Math.hypot(Math.hypot(plane[4 * i], plane[4 * i + 1]), plane[4 * i + 2]);
      for (int k = 0; k < 4 && l > 0; k++) {
        plane[4 * i + k] /= l;
      }
    }
    cellX = Math.max((inside.maxX() - inside.minX()) / CELLS, Double.MIN_NORMAL);
    cellY = Math.max((inside.maxY() - inside.minY()) / CELLS, Double.MIN_NORMAL);
    sort((cell, edge) -> start[cell + 1]++);
    for (int c = 0; c < CELLS * CELLS; c++) {
      start[c + 1] += start[c];
    }
    edges = new int[start[CELLS * CELLS]];
    int[] at = start.clone();
    sort((cell, edge) -> edges[at[cell]++] = edge);
  }

  private static double[] withoutRepeats(double[] outline) {
    double[] out = new double[outline.length];
    int n = 0;
    for (int i = 0; i < outline.length; i += 2) {
      int before = n == 0 ? -2 : n - 2;
      if (before < 0 || outline[i] != out[before] || outline[i + 1] != out[before + 1]) {
        out[n++] = outline[i];
        out[n++] = outline[i + 1];
      }
    }
    if (n > 2 && out[0] == out[n - 2] && out[1] == out[n - 1]) {
      n -= 2;
    }
    return Arrays.copyOf(out, n);
  }

  private double x(int i) {
    return outline[2 * (i % facets())];
  }

  private double y(int i) {
    return outline[2 * (i % facets()) + 1];
  }

  private interface Into {
    void put(int cell, int edge);
  }

  private void sort(Into into) {
    for (int i = 0; i < facets(); i++) {
      int x0 = column(Math.min(x(i), x(i + 1)));
      int x1 = column(Math.max(x(i), x(i + 1)));
      int y0 = row(Math.min(y(i), y(i + 1)));
      int y1 = row(Math.max(y(i), y(i + 1)));
      for (int y = y0; y <= y1; y++) {
        for (int x = x0; x <= x1; x++) {
          into.put(y * CELLS + x, i);
        }
      }
    }
  }

  private int column(double x) {
    return Math.clamp((int) Math.floor((x - inside.minX()) / cellX), 0, CELLS - 1);
  }

  private int row(double y) {
    return Math.clamp((int) Math.floor((y - inside.minY()) / cellY), 0, CELLS - 1);
  }

  @Override
  public int facets() {
    return outline.length / 2;
  }

  @Override
  public double side(int i, double x, double y, double z) {
    return plane[4 * i] * x + plane[4 * i + 1] * y + plane[4 * i + 2] * z + plane[4 * i + 3];
  }

  /** The triangle as seen, six numbers; null where a corner is not before the eye. */
  private double[] seen(double[] t) {
    double[] out = new double[6];
    for (int k = 0; k < 3; k++) {
      double x = t[3 * k];
      double y = t[3 * k + 1];
      double z = t[3 * k + 2];
      double w = m[12] * x + m[13] * y + m[14] * z + m[15];
      if (!(w > 0)) {
        return null;
      }
      out[2 * k] = (m[0] * x + m[1] * y + m[2] * z + m[3]) / w;
      out[2 * k + 1] = (m[4] * x + m[5] * y + m[6] * z + m[7]) / w;
    }
    return out;
  }

  @Override
  public boolean meets(int facet, double[] nine) {
    double[] s = seen(nine);
    return s != null && crosses(facet, s);
  }

  /** Whether an edge of the outline meets a triangle; by separating axes, touching counts. */
  private boolean crosses(int i, double[] s) {
    double x0 = x(i);
    double y0 = y(i);
    double x1 = x(i + 1);
    double y1 = y(i + 1);
    if (apart(x0, y0, x1, y1, s)) {
      return false;
    }
    for (int k = 0; k < 3; k++) {
      int a = 2 * k;
      int b = (a + 2) % 6;
      int c = (a + 4) % 6;
      double dx = s[b] - s[a];
      double dy = s[b + 1] - s[a + 1];
      double own = dx * (s[c + 1] - s[a + 1]) - dy * (s[c] - s[a]);
      double p = dx * (y0 - s[a + 1]) - dy * (x0 - s[a]);
      double q = dx * (y1 - s[a + 1]) - dy * (x1 - s[a]);
      if (own > 0 ? p < 0 && q < 0 : own < 0 && p > 0 && q > 0) {
        return false;
      }
    }
    return true;
  }

  private static boolean apart(double x0, double y0, double x1, double y1, double[] s) {
    if (Math.max(s[0], Math.max(s[2], s[4])) < Math.min(x0, x1)
        || Math.min(s[0], Math.min(s[2], s[4])) > Math.max(x0, x1)
        || Math.max(s[1], Math.max(s[3], s[5])) < Math.min(y0, y1)
        || Math.min(s[1], Math.min(s[3], s[5])) > Math.max(y0, y1)) {
      return true;
    }
    double dx = x1 - x0;
    double dy = y1 - y0;
    double a = dx * (s[1] - y0) - dy * (s[0] - x0);
    double b = dx * (s[3] - y0) - dy * (s[2] - x0);
    double c = dx * (s[5] - y0) - dy * (s[4] - x0);
    return a > 0 && b > 0 && c > 0 || a < 0 && b < 0 && c < 0;
  }

  @Override
  public void facetsOf(double[] nine, IntConsumer each) {
    double[] s = seen(nine);
    if (s == null) {
      return;
    }
    double lowX = Math.min(s[0], Math.min(s[2], s[4]));
    double highX = Math.max(s[0], Math.max(s[2], s[4]));
    double lowY = Math.min(s[1], Math.min(s[3], s[5]));
    double highY = Math.max(s[1], Math.max(s[3], s[5]));
    if (highX < inside.minX()
        || lowX > inside.maxX()
        || highY < inside.minY()
        || lowY > inside.maxY()) {
      return;
    }
    int x0 = column(lowX);
    int x1 = column(highX);
    int y0 = row(lowY);
    int y1 = row(highY);
    if (x0 == x1 && y0 == y1) {
      int cell = y0 * CELLS + x0;
      for (int k = start[cell]; k < start[cell + 1]; k++) {
        if (crosses(edges[k], s)) {
          each.accept(edges[k]);
        }
      }
      return;
    }
    int[] found = new int[16];
    int n = 0;
    for (int y = y0; y <= y1; y++) {
      for (int x = x0; x <= x1; x++) {
        int cell = y * CELLS + x;
        for (int k = start[cell]; k < start[cell + 1]; k++) {
          if (n == found.length) {
            found = Arrays.copyOf(found, 2 * n);
          }
          found[n++] = edges[k];
        }
      }
    }
    Arrays.sort(found, 0, n);
    for (int k = 0; k < n; k++) {
      if ((k == 0 || found[k] != found[k - 1]) && crosses(found[k], s)) {
        each.accept(found[k]);
      }
    }
  }

  @Override
  public boolean contains(double x, double y, double z) {
    double w = m[12] * x + m[13] * y + m[14] * z + m[15];
    return w > 0
        && inside.contains(
            (m[0] * x + m[1] * y + m[2] * z + m[3]) / w,
            (m[4] * x + m[5] * y + m[6] * z + m[7]) / w);
  }
}
