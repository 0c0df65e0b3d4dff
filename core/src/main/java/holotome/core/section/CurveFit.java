package holotome.core.section;

import java.util.ArrayList;
import java.util.List;

/**
 * A curve told in lines and arcs: from point to point of the curve, each as long as the tolerance
 * allows, found by galloping ahead and halving; an arc through two ends of the curve takes its bend
 * by least squares. O(n log n) for n points. The pieces join exactly.
 *
 * @param start x, y of the first piece's start
 * @param circle the whole curve as one circle, or null
 */
public record CurveFit(double[] start, List<Piece> pieces, boolean closed, Circle circle) {

  /**
   * A line or an arc from where the last piece ended.
   *
   * @param x y where it ends
   * @param bulge the tangent of a quarter of the angle it turns through, above zero
   *     counter-clockwise; 0 for a line
   * @param off how far points of the curve are from it, at most
   */
  public record Piece(double x, double y, double bulge, double off) {
    public boolean isArc() {
      return bulge != 0;
    }

    /** The radius of an arc that starts at a place; infinite for a line. */
    public double radius(double fromX, double fromY) {
      double chord = Math.hypot(x - fromX, y - fromY);
      return chord * (1 + bulge * bulge) / (4 * Math.abs(bulge));
    }
  }

  /**
   * A full circle.
   *
   * @param rms root of the mean squared distance of the points
   */
  public record Circle(double x, double y, double radius, double rms) {}

  /**
   * A line, an arc or a full circle with its figures, in metres and degrees.
   *
   * @param radius infinite for a line
   * @param degrees that it turns through; 0 for a line
   * @param off how far points of the curve are from it: at most, of a full circle as a rule (RMS)
   */
  public record Fitted(double length, double radius, double degrees, double off) {
    public boolean isLine() {
      return degrees == 0;
    }
  }

  /** What the curve was told in, in its order. */
  public List<Fitted> fitted() {
    if (circle != null) {
      return List.of(new Fitted(2 * Math.PI * circle.radius, circle.radius, 360, circle.rms));
    }
    List<Fitted> out = new ArrayList<>(pieces.size());
    double x = start[0];
    double y = start[1];
    for (Piece p : pieces) {
      if (p.isArc()) {
        double angle = 4 * Math.atan(Math.abs(p.bulge));
        double radius = p.radius(x, y);
        out.add(new Fitted(radius * angle, radius, Math.toDegrees(angle), p.off));
      } else {
        out.add(new Fitted(Math.hypot(p.x - x, p.y - y), Double.POSITIVE_INFINITY, 0, p.off));
      }
      x = p.x;
      y = p.y;
    }
    return out;
  }

  /**
   * Fits a curve.
   *
   * @param tolerance the most a point may be off, in metres; above zero
   */
  public static CurveFit of(Curve curve, double tolerance) {
    if (curve.closed()) {
      Circle c = circle(curve, tolerance);
      if (c != null) {
        return new CurveFit(new double[] {c.x + c.radius, c.y}, List.of(), true, c);
      }
    }
    return new Fitting(curve, tolerance).run();
  }

  private static Circle circle(Curve curve, double tolerance) {
    if (curve.size() < 8) {
      return null;
    }
    double[] p = new double[3 * curve.size()];
    for (int i = 0; i < curve.size(); i++) {
      p[3 * i] = curve.xy()[2 * i];
      p[3 * i + 1] = curve.xy()[2 * i + 1];
    }
    holotome.core.solve.CircleFit fit;
    try {
      fit = holotome.core.solve.CircleFit.of(p);
    } catch (holotome.core.task.Failure f) {
      // In one line: no circle.
      return null;
    }
    for (int i = 0; i < p.length; i += 3) {
      int j = (i + 3) % p.length;
      // Half way too: a long side is no part of a circle though both its ends lie on it.
      double mx = (p[i] + p[j]) / 2;
      double my = (p[i + 1] + p[j + 1]) / 2;
      double d = Math.hypot(p[i] - fit.centre()[0], p[i + 1] - fit.centre()[1]) - fit.radius();
      double m = Math.hypot(mx - fit.centre()[0], my - fit.centre()[1]) - fit.radius();
      if (Math.max(Math.abs(d), Math.abs(m)) > tolerance) {
        return null;
      }
    }
    return new Circle(fit.centre()[0], fit.centre()[1], fit.radius(), fit.rms());
  }

  /** One curve at work. */
  private static final class Fitting {
    private final double[] xy;
    private final int n;
    private final boolean closed;
    private final double tolerance;
    private final int first;

    Fitting(Curve curve, double tolerance) {
      this.xy = curve.xy();
      this.n = curve.size();
      this.closed = curve.closed();
      this.tolerance = tolerance;
      first = closed ? sharpest() : 0;
    }

    private double x(int i) {
      return xy[2 * ((first + i) % n)];
    }

    private double y(int i) {
      return xy[2 * ((first + i) % n) + 1];
    }

    /** A closed curve begins where it bends most: at a corner, if it has any. */
    private int sharpest() {
      int best = 0;
      double most = -1;
      for (int i = 0; i < n; i++) {
        int a = (i + n - 1) % n;
        int b = (i + 1) % n;
        double ux = xy[2 * i] - xy[2 * a];
        double uy = xy[2 * i + 1] - xy[2 * a + 1];
        double vx = xy[2 * b] - xy[2 * i];
        double vy = xy[2 * b + 1] - xy[2 * i + 1];
        double turn = Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
        // Short steps bend wildly and tell nothing of a corner.
        double weight = turn * Math.min(Math.hypot(ux, uy), Math.hypot(vx, vy));
        if (weight > most) {
          most = weight;
          best = i;
        }
      }
      return best;
    }

    CurveFit run() {
      int last = closed ? n : n - 1;
      List<Piece> pieces = new ArrayList<>();
      for (int at = 0; at < last; ) {
        int line = reach(at, last, false);
        int arc = reach(at, last, true);
        // A line that runs a little way into a bend could be had as a very flat arc: that tells
        // less.
        boolean bent = arc - at >= Math.max(4, 2 * (line - at));
        int end = bent ? arc : Math.max(line, at + 1);
        double[] bend = bent ? arc(at, end) : new double[] {0, lineOff(at, end)};
        pieces.add(new Piece(x(end), y(end), bend[0], bend[1]));
        at = end;
      }
      return new CurveFit(new double[] {x(0), y(0)}, List.copyOf(pieces), closed, null);
    }

    /** The farthest point that one piece reaches within the tolerance. */
    private int reach(int at, int last, boolean arc) {
      int good = at + 1;
      int step = 2;
      int bad = last + 1;
      while (at + step <= last) {
        if (!fits(at, at + step, arc)) {
          bad = at + step;
          break;
        }
        good = at + step;
        step *= 2;
      }
      if (bad > last && good < last && fits(at, last, arc)) {
        return last;
      }
      bad = Math.min(bad, last);
      while (bad - good > 1) {
        int mid = (good + bad) / 2;
        if (fits(at, mid, arc)) {
          good = mid;
        } else {
          bad = mid;
        }
      }
      return good;
    }

    private boolean fits(int a, int b, boolean arc) {
      // A closed curve in one piece has no chord to stand on.
      if (closed && b - a >= n) {
        return false;
      }
      if (!arc) {
        return lineOff(a, b) <= tolerance;
      }
      double[] bend = arc(a, b);
      return bend != null && bend[1] <= tolerance;
    }

    private double lineOff(int a, int b) {
      double dx = x(b) - x(a);
      double dy = y(b) - y(a);
      double l2 = dx * dx + dy * dy;
      double most = 0;
      for (int i = a + 1; i < b; i++) {
        double px = x(i) - x(a);
        double py = y(i) - y(a);
        double f = l2 > 0 ? Math.clamp((px * dx + py * dy) / l2, 0.0, 1.0) : 0;
        most = Math.max(most, Math.hypot(px - f * dx, py - f * dy));
      }
      return most;
    }

    /** Bulge and greatest distance of the arc between two points; null where there is none. */
    private double[] arc(int a, int b) {
      double mx = (x(a) + x(b)) / 2;
      double my = (y(a) + y(b)) / 2;
      double half = Math.hypot(x(b) - x(a), y(b) - y(a)) / 2;
      if (!(half > 0)) {
        return null;
      }
      double ux = (x(b) - x(a)) / (2 * half);
      double uy = (y(b) - y(a)) / (2 * half);
      double up = 0;
      double down = 0;
      double side = 0;
      for (int i = a + 1; i < b; i++) {
        double px = (x(i) - mx) * ux + (y(i) - my) * uy;
        double py = (y(i) - my) * ux - (x(i) - mx) * uy;
        up += py * (px * px + py * py - half * half);
        down += 2 * py * py;
        side += py;
      }
      if (!(down > 0)) {
        return null;
      }
      // The centre stands at k above the chord's middle.
      double k = up / down;
      double r = Math.hypot(half, k);
      double most = 0;
      // Points, and the middles of the steps between them: a long side is no part of an arc.
      for (int h = 2 * a + 1; h < 2 * b; h++) {
        double qx = (x(h / 2) + x((h + 1) / 2)) / 2 - mx;
        double qy = (y(h / 2) + y((h + 1) / 2)) / 2 - my;
        double px = qx * ux + qy * uy;
        double py = qy * ux - qx * uy;
        double off = Math.abs(Math.hypot(px, py - k) - r);
        // On the wrong side of the chord it is no point of this arc.
        off = py * side < 0 ? Math.max(off, Math.abs(py)) : off;
        most = Math.max(most, off);
      }
      double sagitta = side > 0 ? k + r : k - r;
      double bulge = -sagitta / half;
      return Math.abs(bulge) > 20 || bulge == 0 ? null : new double[] {bulge, most};
    }
  }
}
