package holotome.core.unwrap;

import holotome.core.array.Grouping;
import holotome.core.frame.Frame;
import holotome.core.geometry.TrianglePlaces;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.List;

/**
 * How a chart is laid over another: turned so that what is up on both runs the same way, where both
 * stand; else by steps of fifteen degrees as it fits best; mirrored or not; the middles of their
 * boxes on each other. How well it fits is told by points of it, evenly spread, and of its outline.
 */
final class OverFit {
  /** Points that are looked at, of the surface and of the outline. */
  private static final int POINTS = 2000;

  /** A chart stands where its height changes by so much along it at least. */
  private static final double STANDS = 0.35;

  /** So far outside, as a share of the box, is within still. */
  private static final double HAIR = 2e-3;

  private static final int TURNS = 24;
  private static final int HALVINGS = 12;
  private static final double LEAST = 0.02;

  /**
   * A chart as it lies.
   *
   * @param points u, v in turn, those of its outline first
   * @param rim how many are of its outline
   * @param density length in the texture to one on the surface
   * @param up the direction in the texture that is up; null where it does not stand
   * @param isMirrored whether it lies on its back
   */
  private record Lying(double[] points, int rim, double density, double[] up, boolean isMirrored) {}

  /**
   * What was found.
   *
   * @param by the new u and v: a u + b v + c each
   * @param share of it that comes to lie on the other
   */
  record Fitted(double[] by, double share, boolean isMirrored) {}

  private final Mesh mesh;
  private final Frame frame;
  private final int[] chartOf;
  private final Grouping charts;
  private final Lying leader;
  private final double[] box;
  private final BvhQuery query;

  /**
   * @param chartOf of each triangle
   * @param leader the chart that others are laid over
   */
  OverFit(Mesh mesh, int[] chartOf, int leader, Frame frame) {
    this.mesh = mesh;
    this.chartOf = chartOf;
    this.frame = frame;
    charts = Grouping.of(chartOf, 1 + Arrays.stream(chartOf).max().orElse(0), Work.unwatched());
    this.leader = lying(leader);
    box = box(this.leader.points);
    query = new BvhQuery(Bvh.of(flat(leader)));
  }

  private int[] members(int chart) {
    return Arrays.copyOfRange(charts.order(), charts.start()[chart], charts.start()[chart + 1]);
  }

  private Mesh flat(int chart) {
    int[] t = members(chart);
    float[] xyz = new float[9 * t.length];
    int[] tri = new int[3 * t.length];
    for (int i = 0; i < tri.length; i++) {
      int v = 2 * mesh.uv().corners()[3 * t[i / 3] + i % 3];
      xyz[3 * i] = mesh.uv().coords()[v];
      xyz[3 * i + 1] = mesh.uv().coords()[v + 1];
      tri[i] = i;
    }
    return new Mesh(xyz, tri);
  }

  /** The best of all ways to lay a chart over the leading one. */
  Fitted of(int chart, LayOver.Fit fit, LayOver.Mirror mirror) {
    Lying own = lying(chart);
    Fitted best = null;
    double least = -1;
    for (boolean isMirrored : List.of(false, true)) {
      boolean isLeftOut =
          mirror == LayOver.Mirror.NEVER && isMirrored
              || mirror == LayOver.Mirror.ALWAYS && !isMirrored;
      if (isLeftOut) {
        continue;
      }
      // Whether its own sides are to change places for that.
      boolean turnsOver = isMirrored != (own.isMirrored != leader.isMirrored);
      for (double angle : angles(own, turnsOver)) {
        double[] turned = turning(angle, turnsOver);
        double size = fit == LayOver.Fit.WITHIN ? largest(own, turned) : 1;
        Fitted f = fitted(own, turned, size, fit == LayOver.Fit.DRAWN, isMirrored);
        double worth = f.share * size;
        // Of like ones the first: less is turned over.
        if (worth > least + 1e-3) {
          least = worth;
          best = f;
        }
      }
    }
    return best;
  }

  private double[] angles(Lying own, boolean turnsOver) {
    if (own.up != null && leader.up != null) {
      double x = turnsOver ? -own.up[0] : own.up[0];
      double to = Math.atan2(leader.up[1], leader.up[0]);
      return new double[] {to - Math.atan2(own.up[1], x)};
    }
    double[] out = new double[TURNS];
    for (int i = 0; i < TURNS; i++) {
      // Quarter turns first, as charts are laid out by their boxes.
      int turn = i < 4 ? i * TURNS / 4 : i - 4 + 1 + (i - 4) / (TURNS / 4 - 1);
      out[i] = 2 * Math.PI * turn / TURNS;
    }
    return out;
  }

  /** Columns of the map that turns, after u is turned over if asked. */
  private static double[] turning(double angle, boolean turnsOver) {
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    return turnsOver ? new double[] {-c, -s, -s, c} : new double[] {c, -s, s, c};
  }

  /** The largest size at which it lies within; that it has beside the leading one is 1. */
  private double largest(Lying own, double[] turned) {
    if (isWithin(own, turned, 1)) {
      return 1;
    }
    double low = 0;
    double high = 1;
    for (int i = 0; i < HALVINGS; i++) {
      double mid = (low + high) / 2;
      if (isWithin(own, turned, mid)) {
        low = mid;
      } else {
        high = mid;
      }
    }
    return Math.max(LEAST, low);
  }

  private boolean isWithin(Lying own, double[] turned, double size) {
    double[] by = map(own, turned, size, false);
    return share(own, by, 0, own.points.length / 2) == 1;
  }

  private Fitted fitted(
      Lying own, double[] turned, double size, boolean isDrawn, boolean isMirrored) {
    double[] by = map(own, turned, size, isDrawn);
    return new Fitted(by, share(own, by, own.rim, own.points.length / 2), isMirrored);
  }

  /** The map that lays it at a size, the middles of both boxes on each other. */
  private double[] map(Lying own, double[] turned, double size, boolean isDrawn) {
    double k = size * leader.density / own.density;
    double[] m = {k * turned[0], k * turned[1], 0, k * turned[2], k * turned[3], 0};
    double[] b = box(mapped(own, m));
    if (isDrawn) {
      double x = (box[2] - box[0]) / Math.max(1e-12, b[2] - b[0]);
      double y = (box[3] - box[1]) / Math.max(1e-12, b[3] - b[1]);
      m = new double[] {x * m[0], x * m[1], 0, y * m[3], y * m[4], 0};
      b = new double[] {x * b[0], y * b[1], x * b[2], y * b[3]};
    }
    m[2] = (box[0] + box[2] - b[0] - b[2]) / 2;
    m[5] = (box[1] + box[3] - b[1] - b[3]) / 2;
    return m;
  }

  private static double[] mapped(Lying own, double[] m) {
    double[] p = own.points;
    double[] out = new double[p.length];
    for (int i = 0; i < p.length; i += 2) {
      out[i] = m[0] * p[i] + m[1] * p[i + 1] + m[2];
      out[i + 1] = m[3] * p[i] + m[4] * p[i + 1] + m[5];
    }
    return out;
  }

  private double share(Lying own, double[] by, int from, int to) {
    double[] p = mapped(own, by);
    float hair = (float) (HAIR * Math.hypot(box[2] - box[0], box[3] - box[1]));
    int within = 0;
    for (int i = from; i < to; i++) {
      within += query.closest((float) p[2 * i], (float) p[2 * i + 1], 0, hair) ? 1 : 0;
    }
    return to == from ? 1 : (double) within / (to - from);
  }

  private static double[] box(double[] p) {
    double[] b = {1e300, 1e300, -1e300, -1e300};
    for (int i = 0; i < p.length; i += 2) {
      b[0] = Math.min(b[0], p[i]);
      b[1] = Math.min(b[1], p[i + 1]);
      b[2] = Math.max(b[2], p[i]);
      b[3] = Math.max(b[3], p[i + 1]);
    }
    return b;
  }

  private Lying lying(int chart) {
    int[] t = members(chart);
    int[] k = mesh.uv().corners();
    float[] uv = mesh.uv().coords();
    double onSurface = 0;
    double inTexture = 0;
    double signed = 0;
    double[] up = new double[2];
    double[] until = new double[t.length];
    for (int i = 0; i < t.length; i++) {
      onSurface += Vec.length(Measures.cross(mesh, t[i]));
      int a = 2 * k[3 * t[i]];
      int b = 2 * k[3 * t[i] + 1];
      int c = 2 * k[3 * t[i] + 2];
      double bu = (double) uv[b] - uv[a];
      double bv = (double) uv[b + 1] - uv[a + 1];
      double cu = (double) uv[c] - uv[a];
      double cv = (double) uv[c + 1] - uv[a + 1];
      double twice = bu * cv - cu * bv;
      double high = height(t[i], 0);
      double hb = height(t[i], 1) - high;
      double hc = height(t[i], 2) - high;
      // The gradient of the height over the texture, times the area there.
      double sign = Math.signum(twice);
      up[0] += sign * (hb * cv - hc * bv);
      up[1] += sign * (hc * bu - hb * cu);
      signed += twice;
      inTexture += Math.abs(twice);
      until[i] = inTexture;
    }
    double density = Math.sqrt(inTexture / Math.max(1e-300, onSurface));
    double slope = Math.hypot(up[0], up[1]) / Math.max(1e-300, inTexture) * density;
    double[] rim = rim(t);
    double[] points = Arrays.copyOf(rim, rim.length + 2 * POINTS);
    spread(t, until, points, rim.length);
    boolean stands = slope / frame.toWork().scale() > STANDS;
    return new Lying(points, rim.length / 2, density, stands ? up : null, signed < 0);
  }

  private double height(int triangle, int corner) {
    double[] p = Vec.at(mesh.xyz(), mesh.triangles()[3 * triangle + corner]);
    return frame.toWork().apply(p)[2];
  }

  /** Points of the outline: ends of its edges, not more than some. */
  private double[] rim(int[] t) {
    int[] corners = new int[3 * t.length];
    for (int i = 0; i < corners.length; i++) {
      corners[i] = mesh.uv().corners()[3 * t[i / 3] + i % 3];
    }
    int[] outline = ChartOutline.of(corners);
    int every = Math.max(1, outline.length / POINTS);
    double[] out = new double[2 * ((outline.length + every - 1) / every)];
    for (int i = 0; i < out.length; i += 2) {
      int v = 2 * corners[outline[i / 2 * every]];
      out[i] = mesh.uv().coords()[v];
      out[i + 1] = mesh.uv().coords()[v + 1];
    }
    return out;
  }

  /**
   * Points evenly spread over triangles, by their area in the texture, each at a place of {@link
   * TrianglePlaces}.
   */
  private void spread(int[] t, double[] until, double[] out, int from) {
    double all = until[until.length - 1];
    int i = 0;
    for (int n = 0; n < POINTS; n++) {
      while (i < t.length - 1 && until[i] < (n + 0.5) / POINTS * all) {
        i++;
      }
      double[] ab = TrianglePlaces.weights(n, 0.5);
      double[] weight = {1 - ab[0] - ab[1], ab[0], ab[1]};
      for (int c = 0; c < 3; c++) {
        int v = 2 * mesh.uv().corners()[3 * t[i] + c];
        out[from + 2 * n] += weight[c] * mesh.uv().coords()[v];
        out[from + 2 * n + 1] += weight[c] * mesh.uv().coords()[v + 1];
      }
    }
  }
}
