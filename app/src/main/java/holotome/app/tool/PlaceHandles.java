package holotome.app.tool;

import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/**
 * Handles about a place: a square to slide along each axis, a smaller one between two axes to slide
 * in their plane, a ring to turn about each, and a round one to scale. Says what a drag comes to;
 * changes nothing itself.
 */
final class PlaceHandles {
  private static final int STEPS = 60;
  private static final double PIXELS = 330;

  /** What is being dragged: 0 to 2 an axis, 3 to 5 a ring, 6 the size, 7 to 9 a plane. */
  private int held = -1;

  private double[] start;
  private double[] centre;
  private double size;

  /**
   * What a drag comes to: a move, a turn about an axis in degrees, or a factor.
   *
   * @param move along X, Y and Z
   */
  record Drag(double[] move, int axis, double degrees, double factor) {
    static Drag of(double[] move) {
      return new Drag(move, -1, 0, 1);
    }
  }

  private static double[] axis(int k) {
    double[] a = new double[3];
    a[k] = 1;
    return a;
  }

  private static double[] ring(int k, double[] c, double r, double angle) {
    double[] u = axis((k + 1) % 3);
    double[] v = axis((k + 2) % 3);
    return Vec.add(c, Vec.add(Vec.mul(u, r * Math.cos(angle)), Vec.mul(v, r * Math.sin(angle))));
  }

  private static double[] arm(int k, double[] c, double size) {
    return Vec.add(c, Vec.mul(axis(k), 0.42 * size));
  }

  /** Between the two axes that are not k. */
  private static double[] pad(int k, double[] c, double size) {
    double[] d = Vec.add(axis((k + 1) % 3), axis((k + 2) % 3));
    return Vec.add(c, Vec.mul(d, 0.15 * size));
  }

  private static double[] corner(double[] c, double size) {
    double d = 0.33 * size;
    return Vec.add(c, Vec.of(d, -d, d));
  }

  /** How large they are in space, to be as large in the picture wherever they are. */
  static double size(ViewPort view, double[] at, double hint) {
    double step = 1e-3 * hint;
    double[] a = view.project(at);
    double[] b = view.project(Vec.add(at, Vec.mul(view.camera().right(), step)));
    double px = a == null || b == null ? 0 : Math.hypot(b[0] - a[0], b[1] - a[1]);
    return px > 1e-6 ? PIXELS * step / px : hint;
  }

  /** Takes hold of what is under a pixel; false for nothing. */
  boolean pressed(ViewPort view, double x, double y, double[] at, double across) {
    held = -1;
    centre = at;
    size = across;
    start = new double[] {x, y};
    if (Handles.hit(view.project(corner(at, across)), x, y)) {
      held = 6;
    }
    for (int k = 0; held < 0 && k < 3; k++) {
      if (Handles.hit(view.project(arm(k, at, across)), x, y)) {
        held = k;
      } else if (Handles.hit(view.project(pad(k, at, across)), x, y)) {
        held = 7 + k;
      }
    }
    double least = 9;
    boolean square = held >= 0;
    for (int k = 0; !square && k < 3; k++) {
      // Closely: where rings cross in the picture the nearer one is meant.
      for (int i = 0; i < 10 * STEPS; i++) {
        double[] p = view.project(ring(k, at, 0.3 * across, 2 * Math.PI * i / (10 * STEPS)));
        double d = p == null ? 99 : Math.hypot(p[0] - x, p[1] - y);
        if (d < least) {
          least = d;
          held = 3 + k;
        }
      }
    }
    return held >= 0;
  }

  boolean isHeld() {
    return held >= 0;
  }

  void released() {
    held = -1;
  }

  /**
   * What the drag to a pixel comes to; null where the view does not tell.
   *
   * @param step lengths are rounded to it; 0 for none
   * @param turnStep angles are, in degrees; factors to a twentieth where there is one; 0 for none
   */
  Drag dragged(ViewPort view, double x, double y, double step, double turnStep) {
    if (held < 0) {
      return null;
    }
    double[] c = view.project(centre);
    if (c == null) {
      return null;
    }
    if (held < 3) {
      double d = Handles.along(view, centre, axis(held), 0.4 * size, x - start[0], y - start[1]);
      return Double.isNaN(d) ? null : Drag.of(Vec.mul(axis(held), rounded(d, step)));
    }
    if (held > 6) {
      return inPlane(view, c, x - start[0], y - start[1], step);
    }
    if (held == 6) {
      double was = Math.hypot(start[0] - c[0], start[1] - c[1]);
      double now = Math.hypot(x - c[0], y - c[1]);
      double f = was > 1 ? Math.max(0.01, now / was) : 1;
      return new Drag(new double[3], -1, 0, turnStep > 0 ? Math.max(0.05, rounded(f, 0.05)) : f);
    }
    double turn = Math.atan2(y - c[1], x - c[0]) - Math.atan2(start[1] - c[1], start[0] - c[0]);
    // y runs down; an axis that points at the viewer turns counter-clockwise as seen.
    double towards = -Vec.dot(axis(held - 3), view.camera().forward());
    double degrees = Math.toDegrees(turn) * (towards > 0 ? -1 : 1);
    degrees = degrees > 180 ? degrees - 360 : degrees < -180 ? degrees + 360 : degrees;
    return new Drag(new double[3], held - 3, rounded(degrees, turnStep), 1);
  }

  /** The move in the held plane that follows the pointer; null where it is seen edge-on. */
  private Drag inPlane(ViewPort view, double[] c, double dx, double dy, double step) {
    double[] u = axis((held - 7 + 1) % 3);
    double[] v = axis((held - 7 + 2) % 3);
    double l = 0.1 * size;
    double[] a = view.project(Vec.add(centre, Vec.mul(u, l)));
    double[] b = view.project(Vec.add(centre, Vec.mul(v, l)));
    if (a == null || b == null) {
      return null;
    }
    double det = (a[0] - c[0]) * (b[1] - c[1]) - (a[1] - c[1]) * (b[0] - c[0]);
    if (Math.abs(det) < 4) {
      return null;
    }
    double s = (dx * (b[1] - c[1]) - dy * (b[0] - c[0])) / det * l;
    double t = (dy * (a[0] - c[0]) - dx * (a[1] - c[1])) / det * l;
    return Drag.of(Vec.add(Vec.mul(u, rounded(s, step)), Vec.mul(v, rounded(t, step))));
  }

  private static double rounded(double v, double step) {
    return step > 0 ? Math.rint(v / step) * step : v;
  }

  /** A turn about an axis. */
  static Similarity turn(int axis, double degrees) {
    return Similarity.turning(axis(axis), Math.toRadians(degrees));
  }

  void draw(ViewPort view, GraphicsContext g, double[] at, double across) {
    double[] c = view.project(at);
    for (int k = 0; k < 3; k++) {
      g.setStroke(held == 3 + k ? Marks.VERDIGRIS : Handles.VIOLET);
      g.setLineWidth(held == 3 + k ? 3 : 1.6);
      double[] last = null;
      for (int i = 0; i <= STEPS; i++) {
        double[] p = view.project(ring(k, at, 0.3 * across, 2 * Math.PI * i / STEPS));
        if (p != null && last != null) {
          g.strokeLine(last[0], last[1], p[0], p[1]);
        }
        last = p;
      }
      double[] h = view.project(arm(k, at, across));
      if (h != null && c != null) {
        g.setLineWidth(1.4);
        g.strokeLine(c[0], c[1], h[0], h[1]);
        Handles.square(g, h);
        Marks.slip(g, new double[] {h[0] + 16, h[1] - 10}, "XYZ".substring(k, k + 1));
      }
      double[] p = view.project(pad(k, at, across));
      if (p != null) {
        g.setFill(Color.web("#6C4AB6", 0.35));
        g.fillRect(p[0] - 5, p[1] - 5, 10, 10);
        g.setStroke(Handles.VIOLET);
        g.setLineWidth(1);
        g.strokeRect(p[0] - 5, p[1] - 5, 10, 10);
      }
    }
    Handles.round(g, view.project(corner(at, across)));
  }
}
