package holotome.app.tool;

import holotome.core.geometry.Vec;
import holotome.core.part.Workpiece;
import holotome.core.swatch.LaySwatch;
import java.util.Locale;

/**
 * Where a Swatch lies, in working space: taken at its middle it is moved over the Scan, taken at
 * the knob beside it, turned; its size stays.
 *
 * @param laid as what
 * @param middle of the tile
 * @param right from there to the middle of its right side
 * @param up from there to the middle of its upper side
 * @param hold what it is held at
 * @param turned by how many degrees since it was taken
 * @param isMoved whether it is elsewhere than when it was taken
 */
record SwatchOutline(
    LaySwatch laid,
    double[] middle,
    double[] right,
    double[] up,
    Hold hold,
    double turned,
    boolean isMoved) {
  private static final double REACH = 12;
  private static final int STEPS = 1440;

  /** The knob lies so far out, in halves of the width. */
  private static final double KNOB = 1.25;

  /** What it may be held at. */
  enum Hold {
    NOTHING,
    MIDDLE,
    KNOB
  }

  /** As it was laid. */
  static SwatchOutline of(Workpiece made, LaySwatch laid) {
    float[] xyz = made.cast().xyz();
    double[] corner = made.frame().toWork().apply(Vec.at(xyz, 0));
    double[] across = Vec.unit(Vec.sub(made.frame().toWork().apply(Vec.at(xyz, 1)), corner));
    double[] upwards = Vec.unit(Vec.sub(made.frame().toWork().apply(Vec.at(xyz, 2)), corner));
    return new SwatchOutline(
        laid,
        laid.point(),
        Vec.mul(across, laid.width().metres() / 2),
        Vec.mul(upwards, laid.height().metres() / 2),
        Hold.NOTHING,
        0,
        false);
  }

  double apron() {
    return laid.apron() / 100;
  }

  /** All around, with so much more on its left and lower side, as a share of its size. */
  double[] around(double more) {
    double[] out = new double[15];
    for (int i = 0; i < 5; i++) {
      double a = i == 1 || i == 2 ? 1 : -1 - 2 * more;
      double b = i == 2 || i == 3 ? 1 : -1 - 2 * more;
      System.arraycopy(at(a, b), 0, out, 3 * i, 3);
    }
    return out;
  }

  private double[] at(double a, double b) {
    return Vec.add(middle, Vec.add(Vec.mul(right, a), Vec.mul(up, b)));
  }

  double[] knob() {
    return at(KNOB, 0);
  }

  /** From its side to the knob. */
  double[] arm() {
    double[] from = at(1, 0);
    double[] to = knob();
    return new double[] {from[0], from[1], from[2], to[0], to[1], to[2]};
  }

  /** Held at what lies under a pixel; null for nothing. */
  SwatchOutline held(ViewPort view, double x, double y) {
    Hold h =
        isNear(view.project(knob()), x, y)
            ? Hold.KNOB
            : isNear(view.project(middle), x, y) ? Hold.MIDDLE : Hold.NOTHING;
    return h == Hold.NOTHING ? null : new SwatchOutline(laid, middle, right, up, h, 0, false);
  }

  private static boolean isNear(double[] p, double x, double y) {
    return p != null && Math.hypot(p[0] - x, p[1] - y) <= REACH;
  }

  boolean isTurning() {
    return hold == Hold.KNOB;
  }

  /** Whether it was moved, or is taken elsewhere by a pixel: no click that shakes a little. */
  boolean isAwayFrom(ViewPort view, double x, double y) {
    return isMoved || !isNear(view.project(middle), x, y);
  }

  SwatchOutline movedTo(double[] p) {
    return new SwatchOutline(laid, p, right, up, hold, turned, true);
  }

  /** Turned so that the knob comes as near to a pixel as it can. */
  SwatchOutline turnedTo(ViewPort view, double x, double y) {
    SwatchOutline best = this;
    double least = Double.POSITIVE_INFINITY;
    for (int i = 0; i < STEPS; i++) {
      SwatchOutline o = turned(2 * Math.PI * i / STEPS);
      double[] p = view.project(o.knob());
      double off = p == null ? Double.POSITIVE_INFINITY : Math.hypot(p[0] - x, p[1] - y);
      if (off < least) {
        least = off;
        best = o;
      }
    }
    return best;
  }

  private SwatchOutline turned(double angle) {
    double w = Vec.length(right);
    double h = Vec.length(up);
    double[] u = Vec.mul(right, 1 / w);
    double[] v = Vec.mul(up, 1 / h);
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    return new SwatchOutline(
        laid,
        middle,
        Vec.mul(Vec.add(Vec.mul(u, c), Vec.mul(v, s)), w),
        Vec.mul(Vec.sub(Vec.mul(v, c), Vec.mul(u, s)), h),
        hold,
        turned + Math.toDegrees(angle),
        true);
  }

  /** Within half a turn of none. */
  double turn() {
    return Math.IEEEremainder(laid.turn() + turned, 360);
  }

  String width() {
    return millimetres(laid.width().metres());
  }

  String height() {
    return millimetres(laid.height().metres());
  }

  private static String millimetres(double metres) {
    return String.format(Locale.ROOT, "%.1f mm", 1000 * metres);
  }
}
