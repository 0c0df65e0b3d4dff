package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.tool.MeasureMarks;
import holotome.app.tool.ViewPort;
import holotome.core.mesh.Box;
import holotome.core.mesh.Vec;
import holotome.core.step.Length;
import holotome.core.step.Workpiece;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * How large the work is: width, depth and height as dimension lines along its box, and a small
 * drawing of the box between familiar things, so that a wrong scale is seen at once.
 */
final class SizeMarks {
  private static final Color INK = Color.web("#1D2B33");
  private static final double INSET_WIDTH = 210;
  private static final double INSET_HEIGHT = 180;
  private static final Color PAPER = Color.web("#F6F4EF");

  /**
   * An outline in metres, standing on nought: x, y in turn. Sizes are common practice, no source.
   */
  private record Thing(String name, double height, double[] outline) {
    double least() {
      double x = 0;
      for (int i = 0; i < outline.length; i += 2) {
        x = Math.min(x, outline[i]);
      }
      return x;
    }

    double most() {
      double x = 0;
      for (int i = 0; i < outline.length; i += 2) {
        x = Math.max(x, outline[i]);
      }
      return x;
    }

    double width() {
      return most() - least();
    }
  }

  private static final Thing[] THINGS = {
    new Thing("coin, 23 mm", 0.023, round(0.0115, 0.0115, 0, 360)),
    new Thing(
        "mug, 95 mm",
        0.095,
        new double[] {
          -0.040, 0, 0.040, 0, 0.042, 0.022, 0.062, 0.026, 0.074, 0.045, 0.066, 0.066, 0.042, 0.072,
          0.042, 0.095, -0.042, 0.095
        }),
    new Thing(
        "hand, 190 mm",
        0.19,
        new double[] {
          -0.028, 0, 0.028, 0, 0.034, 0.040, 0.062, 0.075, 0.072, 0.105, 0.062, 0.112, 0.042, 0.088,
          0.040, 0.150, 0.032, 0.166, 0.025, 0.152, 0.021, 0.110, 0.016, 0.172, 0.008, 0.186, 0,
          0.174, -0.002, 0.112, -0.009, 0.178, -0.017, 0.190, -0.024, 0.178, -0.022, 0.108, -0.032,
          0.154, -0.040, 0.162, -0.046, 0.150, -0.040, 0.090, -0.038, 0.040
        }),
    new Thing(
        "person, 1.75 m",
        1.75,
        new double[] {
          -0.16, 0, -0.03, 0, -0.02, 0.78, 0.02, 0.78, 0.03, 0, 0.16, 0, 0.17, 0.80, 0.20, 0.80,
          0.25, 0.86, 0.26, 1.30, 0.21, 1.43, 0.06, 1.49, 0.06, 1.53, 0.10, 1.60, 0.10, 1.68, 0.05,
          1.75, -0.05, 1.75, -0.10, 1.68, -0.10, 1.60, -0.06, 1.53, -0.06, 1.49, -0.21, 1.43, -0.26,
          1.30, -0.25, 0.86, -0.20, 0.80, -0.17, 0.80
        }),
    new Thing("door, 2.03 m", 2.03, new double[] {-0.45, 0, 0.45, 0, 0.45, 2.03, -0.45, 2.03})
  };

  private static double[] round(double r, double up, double from, double to) {
    int n = 36;
    double[] out = new double[2 * n];
    for (int i = 0; i < n; i++) {
      double a = Math.toRadians(from + (to - from) * i / n);
      out[2 * i] = r * Math.cos(a);
      out[2 * i + 1] = up + r * Math.sin(a);
    }
    return out;
  }

  /** Draws the size where it is asked for, and in Datum what was measured with it or measuring. */
  void draw(
      GraphicsContext g,
      ViewPort view,
      Workpiece w,
      Session session,
      boolean sized,
      boolean measuring) {
    boolean trueSize = w.frame().trueSize();
    if (sized) {
      size(g, view, w.frame().workBounds(w.current()), trueSize);
    }
    if (session.stage() == Stage.DATUM && (sized || measuring)) {
      MeasureMarks.draw(view, g, session.measurements().taken(), trueSize);
    }
  }

  private static void size(GraphicsContext g, ViewPort view, Box b, boolean trueSize) {
    if (b.isEmpty()) {
      return;
    }
    double gap = 0.06 * b.diagonal();
    // Along the lower edges on the viewer's side and the upright between them, a little off.
    double[] ahead = view.camera().forward();
    boolean left = ahead[0] > 0;
    boolean front = ahead[1] > 0;
    double x = left ? b.minX() - gap : b.maxX() + gap;
    double y = front ? b.minY() - gap : b.maxY() + gap;
    double z = b.minZ();
    dimension(
        g,
        view,
        Vec.of(b.minX(), y, z),
        Vec.of(b.maxX(), y, z),
        Length.format(b.width(), trueSize));
    dimension(
        g,
        view,
        Vec.of(x, b.minY(), z),
        Vec.of(x, b.maxY(), z),
        Length.format(b.depth(), trueSize));
    // Of the two uprights at the rim the left one: the small drawing stands on the right.
    double[] one = Vec.of(left ? b.maxX() + gap : b.minX() - gap, y, z);
    double[] other = Vec.of(x, front ? b.maxY() + gap : b.minY() - gap, z);
    double[] p = view.project(one);
    double[] q = view.project(other);
    double[] foot = p != null && q != null && p[0] > q[0] ? other : one;
    dimension(
        g, view, foot, Vec.of(foot[0], foot[1], b.maxZ()), Length.format(b.height(), trueSize));
    if (trueSize) {
      things(g, view, b);
    }
  }

  private static void dimension(
      GraphicsContext g, ViewPort view, double[] from, double[] to, String text) {
    double[] a = view.project(from);
    double[] b = view.project(to);
    if (a == null || b == null) {
      return;
    }
    double l = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (l < 12) {
      return;
    }
    double nx = -(b[1] - a[1]) / l * 5;
    double ny = (b[0] - a[0]) / l * 5;
    for (int pass = 0; pass < 2; pass++) {
      g.setStroke(pass == 0 ? PAPER : INK);
      g.setLineWidth(pass == 0 ? 3 : 1.2);
      g.strokeLine(a[0], a[1], b[0], b[1]);
      g.strokeLine(a[0] - nx, a[1] - ny, a[0] + nx, a[1] + ny);
      g.strokeLine(b[0] - nx, b[1] - ny, b[0] + nx, b[1] + ny);
    }
    slip(g, (a[0] + b[0]) / 2, (a[1] + b[1]) / 2, text);
  }

  private static void slip(GraphicsContext g, double x, double y, String text) {
    g.setFont(Font.font("IBM Plex Mono", 12));
    double w = 7.3 * text.length() + 10;
    g.setFill(PAPER);
    g.fillRoundRect(x - w / 2, y - 9, w, 18, 4, 4);
    g.setFill(INK);
    g.setTextAlign(TextAlignment.CENTER);
    g.setTextBaseline(VPos.CENTER);
    g.fillText(text, x, y);
  }

  /** The box of the work from the front between the two familiar things nearest to it in size. */
  private static void things(GraphicsContext g, ViewPort view, Box b) {
    double h = Math.max(b.height(), Math.max(b.width(), b.depth()));
    int near = 0;
    for (int i = 0; i < THINGS.length; i++) {
      if (Math.abs(Math.log(THINGS[i].height / h)) < Math.abs(Math.log(THINGS[near].height / h))) {
        near = i;
      }
    }
    int other =
        near + 1 < THINGS.length && THINGS[near].height < h || near == 0 ? near + 1 : near - 1;
    Thing small = THINGS[Math.min(near, other)];
    Thing large = THINGS[Math.max(near, other)];
    double gap = 0.08 * Math.max(h, large.height);
    double across = small.width() + b.width() + large.width() + 4 * gap;
    double tall = Math.max(b.height(), large.height);
    double k = Math.min((INSET_WIDTH - 12) / across, (INSET_HEIGHT - 44) / tall);
    double x0 = view.width() - INSET_WIDTH - 14;
    double y0 = view.height() - INSET_HEIGHT - 112;
    g.setFill(Color.web("#F6F4EF", 0.9));
    g.fillRoundRect(x0, y0, INSET_WIDTH, INSET_HEIGHT, 6, 6);
    double floor = y0 + INSET_HEIGHT - 34;
    double x = x0 + (INSET_WIDTH - k * across) / 2 + k * gap;
    thing(g, small, x + k * small.width() / 2, floor, k);
    x += k * (small.width() + gap);
    g.setFill(Color.web("#1F7A6D", 0.35));
    g.fillRect(x, floor - k * b.height(), k * b.width(), k * b.height());
    g.setStroke(Color.web("#1F7A6D"));
    g.setLineWidth(1.4);
    g.strokeRect(x, floor - k * b.height(), k * b.width(), k * b.height());
    x += k * (b.width() + gap);
    thing(g, large, x + k * large.width() / 2, floor, k);
    g.setStroke(INK);
    g.setLineWidth(1);
    g.strokeLine(x0 + 8, floor, x0 + INSET_WIDTH - 8, floor);
    g.setFont(Font.font("IBM Plex Sans", 11));
    g.setFill(INK);
    g.setTextBaseline(VPos.CENTER);
    g.setTextAlign(TextAlignment.CENTER);
    g.fillText("beside a " + small.name, x0 + INSET_WIDTH / 2, floor + 11);
    g.fillText("and a " + large.name, x0 + INSET_WIDTH / 2, floor + 24);
  }

  private static void thing(GraphicsContext g, Thing t, double x, double floor, double k) {
    int n = t.outline.length / 2;
    double middle = (t.most() + t.least()) / 2;
    double[] xs = new double[n];
    double[] ys = new double[n];
    for (int i = 0; i < n; i++) {
      xs[i] = x + k * (t.outline[2 * i] - middle);
      ys[i] = floor - k * t.outline[2 * i + 1];
    }
    g.setFill(Color.web("#1D2B33", 0.25));
    g.fillPolygon(xs, ys, n);
    g.setStroke(INK);
    g.setLineWidth(1);
    g.strokePolygon(xs, ys, n);
  }
}
