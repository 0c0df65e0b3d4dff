package holotome.core.unwrap;

import holotome.core.frame.Frame;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Texture coordinates while charts are moved. What belongs to a chart is found by points on the
 * surface; texture vertices that touch in a point only are parted as soon as one side moves. O(T)
 * for an edit.
 */
final class MovedCharts {
  /** Texture points closer than this are one place. */
  private static final double SAME = 1e-6;

  private final ChartPoints points;

  /** Which charts lie over which, see {@link LaidOver}; null for none. */
  private final int[] laid;

  private final int[] corners;
  private float[] coords;
  private int vertices;

  private MovedCharts(Mesh mesh, ChartPoints points) {
    this.points = points;
    laid = LaidOver.of(mesh);
    corners = mesh.uv().corners().clone();
    coords = mesh.uv().coords().clone();
    vertices = coords.length / 2;
  }

  /**
   * @throws Failure where the mesh has no charts
   */
  static MovedCharts of(Mesh mesh, Frame frame, Work work) {
    if (mesh.uv() == null) {
      throw Failure.cannot(CoreWords.of("pack-charts.no-charts"));
    }
    return new MovedCharts(mesh, ChartPoints.of(mesh, frame, work));
  }

  ChartPoints points() {
    return points;
  }

  /** Makes an edit; false where nothing lies where it says. */
  boolean make(ChartEdit edit) {
    BitSet charts = points.charts(edit.charts());
    if (edit.at() == null) {
      addFollowing(charts);
    }
    BitSet own = own(charts);
    if (edit.at() != null) {
      own = near(own, edit.at());
    }
    if (own.isEmpty()) {
      return false;
    }
    double[] b = box(own);
    double x = (b[0] + b[2]) / 2;
    double y = (b[1] + b[3]) / 2;
    boolean isWhole = edit.at() == null;
    double by = isWhole ? edit.times() : 1;
    double angle = isWhole ? Math.toRadians(edit.turn()) : 0;
    double c = by * Math.cos(angle);
    double s = by * Math.sin(angle);
    double du = edit.move() == null ? 0 : edit.move()[0];
    double dv = edit.move() == null ? 0 : edit.move()[1];
    map(own, new double[] {c, -s, x - c * x + s * y + du, s, c, y - s * x - c * y + dv});
    return true;
  }

  /**
   * Puts a chart elsewhere.
   *
   * @param by the new u and v: a u + b v + c each
   */
  void put(int chart, double[] by) {
    BitSet charts = new BitSet();
    charts.set(chart);
    map(own(charts), by);
  }

  private void map(BitSet own, double[] by) {
    for (int v = own.nextSetBit(0); v >= 0; v = own.nextSetBit(v + 1)) {
      double u = coords[2 * v];
      double w = coords[2 * v + 1];
      coords[2 * v] = (float) (by[0] * u + by[1] * w + by[2]);
      coords[2 * v + 1] = (float) (by[3] * u + by[4] * w + by[5]);
    }
  }

  /** With a chart that leads go those laid over it. */
  private void addFollowing(BitSet charts) {
    int[] of = points.chartOfTriangle();
    BitSet led = new BitSet();
    for (int t = 0; laid != null && t < of.length; t++) {
      if (laid[t] > 0 && charts.get(of[t])) {
        led.set(laid[t]);
      }
    }
    for (int t = 0; laid != null && t < of.length; t++) {
      if (laid[t] < 0 && led.get(-laid[t])) {
        charts.set(of[t]);
      }
    }
  }

  /** The texture vertices of charts; those that other charts have too are made anew for them. */
  private BitSet own(BitSet charts) {
    BitSet mine = new BitSet(vertices);
    BitSet others = new BitSet(vertices);
    int[] of = points.chartOfTriangle();
    for (int h = 0; h < corners.length; h++) {
      (charts.get(of[h / 3]) ? mine : others).set(corners[h]);
    }
    BitSet both = (BitSet) mine.clone();
    both.and(others);
    if (both.isEmpty()) {
      return mine;
    }
    int[] anew = new int[vertices];
    coords = Arrays.copyOf(coords, 2 * (vertices + both.cardinality()));
    for (int v = both.nextSetBit(0); v >= 0; v = both.nextSetBit(v + 1)) {
      System.arraycopy(coords, 2 * v, coords, 2 * vertices, 2);
      anew[v] = vertices;
      mine.clear(v);
      mine.set(vertices++);
    }
    for (int h = 0; h < corners.length; h++) {
      if (charts.get(of[h / 3]) && corners[h] < anew.length && both.get(corners[h])) {
        corners[h] = anew[corners[h]];
      }
    }
    return mine;
  }

  private BitSet near(BitSet own, double[] at) {
    BitSet out = new BitSet();
    for (int v = own.nextSetBit(0); v >= 0; v = own.nextSetBit(v + 1)) {
      for (int i = 0; i < at.length; i += 2) {
        double far = Math.hypot(coords[2 * v] - at[i], coords[2 * v + 1] - at[i + 1]);
        if (far <= SAME) {
          out.set(v);
        }
      }
    }
    return out;
  }

  private double[] box(BitSet these) {
    double[] b = {1e300, 1e300, -1e300, -1e300};
    for (int v = these.nextSetBit(0); v >= 0; v = these.nextSetBit(v + 1)) {
      b[0] = Math.min(b[0], coords[2 * v]);
      b[1] = Math.min(b[1], coords[2 * v + 1]);
      b[2] = Math.max(b[2], coords[2 * v]);
      b[3] = Math.max(b[3], coords[2 * v + 1]);
    }
    return b;
  }

  Uv uv() {
    return new Uv(coords, corners);
  }
}
