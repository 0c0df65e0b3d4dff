package holotome.core.unwrap;

import holotome.core.array.Grouping;
import holotome.core.geometry.Vec;
import holotome.core.solve.TurnedAxis;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * A chart of a turned body as a straight strip: what goes around the axis runs level, what goes
 * along the body upright, each at its length in the mean. Exact for a tube; of a cone both ends are
 * as long as its middle.
 */
final class TurnedStrip {
  /** Triangles that the axis is found from, and the fewest that it is. */
  private static final int SAMPLE = 4000;

  private static final int FEWEST = 12;

  /** How far normals may pass from the axis in the mean, as a sine. */
  private static final double OFF = 0.12;

  /** A chart that turns by less lies flat as it is. */
  private static final double LEAST_TURN = Math.toRadians(60);

  /** Of what goes around: radii below this share of the greatest would be torn wide. */
  private static final double NARROW = 0.2;

  private TurnedStrip() {}

  /**
   * Charts of which those of turned bodies are strips: where that stretches them no more than
   * allowed, and nothing is turned over or lies over itself. The others are as they were.
   *
   * @param most stretch allowed
   */
  static List<Piece> of(Ground ground, List<Piece> pieces, double most, Work work) {
    Laying laying = new StraightLaying(p -> straight(ground, p));
    List<Piece> out = new ArrayList<>();
    for (Piece p : pieces) {
      work.check();
      List<Piece> strip = laying.flat(p, p, work);
      boolean isGood = !strip.isEmpty() && strip.getFirst().stretch() <= most;
      out.add(isGood ? strip.getFirst() : p);
    }
    return out;
  }

  /** The same for one chart: all of it, or the outline where that would turn triangles over. */
  static Straight straight(Ground ground, Piece p) {
    Straight to = places(ground, p);
    boolean isClean = to == null || p.at(to.uv()).isUpright(Settling.UPRIGHT);
    return isClean ? to : outlined(p, to);
  }

  /** Only the outline where it is to be. */
  private static Straight outlined(Piece p, Straight to) {
    boolean[] held = new boolean[p.vertices()];
    double[] uv = to.from().clone();
    for (int h : ChartOutline.of(p.corners())) {
      for (int v : new int[] {p.corners()[h], p.corners()[Adjacency.next(h)]}) {
        held[v] = true;
        uv[2 * v] = to.uv()[2 * v];
        uv[2 * v + 1] = to.uv()[2 * v + 1];
      }
    }
    return new Straight(held, to.from(), uv);
  }

  /**
   * Where all vertices are to lie.
   *
   * @return null where it is no part of a turned body, or hardly bent
   */
  private static Straight places(Ground ground, Piece p) {
    if (p.triangles().length < FEWEST) {
      return null;
    }
    TubeAxis axis = axis(ground, p);
    if (axis == null) {
      return null;
    }
    double[] x = Vec.perpendicular(axis.axis());
    double[] y = Vec.cross(axis.axis(), x);
    int n = p.vertices();
    double[] raw = new double[n];
    double[] radius = new double[n];
    double[] height = new double[n];
    int[] tri = ground.mesh().triangles();
    for (int i = 0; i < p.corners().length; i++) {
      int v = p.corners()[i];
      double[] at = Vec.at(ground.mesh().xyz(), tri[3 * p.triangles()[i / 3] + i % 3]);
      double[] d = Vec.sub(at, axis.point());
      raw[v] = Math.atan2(Vec.dot(d, y), Vec.dot(d, x));
      radius[v] = Math.hypot(Vec.dot(d, x), Vec.dot(d, y));
      height[v] = Vec.dot(d, axis.axis());
    }
    double[] angle = around(p, raw);
    double greatest = Arrays.stream(radius).max().orElse(0);
    double turn = Arrays.stream(angle).max().orElse(0) - Arrays.stream(angle).min().orElse(0);
    if (turn < LEAST_TURN || Arrays.stream(radius).min().orElse(0) < NARROW * greatest) {
      return null;
    }
    return placed(p, angle, radius, height);
  }

  private static Straight placed(Piece p, double[] angle, double[] radius, double[] height) {
    double mean = 0;
    double[] m = new double[2];
    double area = 0;
    for (int i = 0; i < p.corners().length; i++) {
      int v = p.corners()[i];
      double a = p.restArea(i / 3);
      area += a;
      mean += a * radius[v];
      m[1] += a * height[v];
    }
    mean /= area;
    m[0] = mean;
    m[1] /= area;
    // Along the body: the line that the outline of the turned body follows in the mean.
    double rr = 0;
    double rh = 0;
    double hh = 0;
    for (int i = 0; i < p.corners().length; i++) {
      int v = p.corners()[i];
      double a = p.restArea(i / 3);
      rr += a * (radius[v] - m[0]) * (radius[v] - m[0]);
      rh += a * (radius[v] - m[0]) * (height[v] - m[1]);
      hh += a * (height[v] - m[1]) * (height[v] - m[1]);
    }
    double along = Math.atan2(2 * rh, rr - hh) / 2;
    double dr = Math.cos(along);
    double dh = Math.sin(along);
    double[] uv = new double[2 * p.vertices()];
    for (int v = 0; v < p.vertices(); v++) {
      uv[2 * v] = mean * angle[v];
      uv[2 * v + 1] = dr * radius[v] + dh * height[v];
    }
    double flat = 0;
    for (int t = 0; t < p.triangles().length; t++) {
      flat += p.at(uv).flatArea(t);
    }
    for (int i = 0; i < uv.length && flat < 0; i += 2) {
      uv[i] = -uv[i];
    }
    boolean[] held = new boolean[p.vertices()];
    Arrays.fill(held, true);
    return new Straight(held, onto(p, uv), uv);
  }

  /** Where the piece lies, turned and moved to lie on other places as well as can be. */
  private static double[] onto(Piece p, double[] to) {
    double[] from = p.uv();
    double[] mean = new double[4];
    int n = p.vertices();
    for (int v = 0; v < n; v++) {
      for (int k = 0; k < 2; k++) {
        mean[k] += from[2 * v + k] / n;
        mean[2 + k] += to[2 * v + k] / n;
      }
    }
    double c = 0;
    double s = 0;
    for (int v = 0; v < n; v++) {
      double a = from[2 * v] - mean[0];
      double b = from[2 * v + 1] - mean[1];
      double u = to[2 * v] - mean[2];
      double w = to[2 * v + 1] - mean[3];
      c += a * u + b * w;
      s += a * w - b * u;
    }
    double angle = Math.atan2(s, c);
    double[] out = Straight.turned(p, angle).uv();
    double du = mean[2] - Math.cos(angle) * mean[0] + Math.sin(angle) * mean[1];
    double dv = mean[3] - Math.sin(angle) * mean[0] - Math.cos(angle) * mean[1];
    for (int i = 0; i < out.length; i += 2) {
      out[i] += du;
      out[i + 1] += dv;
    }
    return out;
  }

  private static TubeAxis axis(Ground ground, Piece p) {
    BitSet which = new BitSet();
    for (int t : p.triangles()) {
      which.set(t);
    }
    try {
      TurnedAxis found = TubeAxis.turned(ground, which, SAMPLE);
      return found.off() < OFF ? new TubeAxis(found.point(), found.axis()) : null;
    } catch (Failure none) {
      // Normals that meet in no line: it is no turned body.
      return null;
    }
  }

  /** Angles that go on from vertex to vertex instead of beginning again after a turn. */
  private static double[] around(Piece p, double[] raw) {
    double[] out = new double[raw.length];
    Grouping at = Grouping.of(p.corners(), raw.length, Work.unwatched());
    BitSet isSeen = new BitSet();
    int[] queue = new int[raw.length];
    for (int seed = 0; seed < raw.length; seed++) {
      if (isSeen.get(seed)) {
        continue;
      }
      isSeen.set(seed);
      out[seed] = raw[seed];
      queue[0] = seed;
      int end = 1;
      for (int i = 0; i < end; i++) {
        int v = queue[i];
        for (int c = at.start()[v]; c < at.start()[v + 1]; c++) {
          int h = at.order()[c];
          for (int g = h / 3 * 3; g < h / 3 * 3 + 3; g++) {
            int w = p.corners()[g];
            if (!isSeen.get(w)) {
              isSeen.set(w);
              out[w] = out[v] + Math.IEEEremainder(raw[w] - out[v], 2 * Math.PI);
              queue[end++] = w;
            }
          }
        }
      }
    }
    return out;
  }
}
