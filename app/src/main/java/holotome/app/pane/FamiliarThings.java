package holotome.app.pane;

import holotome.app.tool.ViewPort;
import holotome.app.words.AppWords;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * Two familiar things, the nearest to the work in size, standing left and right of it in the scene
 * and turned to the viewer; where one does not fit into the view, both in a small drawing too, with
 * the work's box between them.
 */
final class FamiliarThings {
  private static final Color INK = Color.web("#1D2B33");
  private static final Color SHADE = Color.web("#1D2B33", 0.25);
  private static final double INSET_WIDTH = 210;
  private static final double INSET_HEIGHT = 180;

  private FamiliarThings() {}

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

    String words() {
      return AppWords.of("familiar." + name);
    }
  }

  private static final Thing[] THINGS = {
    new Thing("coin", 0.023, round(0.0115, 0.0115, 0, 360)),
    new Thing(
        "mug",
        0.095,
        new double[] {
          -0.040, 0, 0.040, 0, 0.042, 0.022, 0.062, 0.026, 0.074, 0.045, 0.066, 0.066, 0.042, 0.072,
          0.042, 0.095, -0.042, 0.095
        }),
    new Thing(
        "hand",
        0.19,
        new double[] {
          -0.028, 0, 0.028, 0, 0.034, 0.040, 0.062, 0.075, 0.072, 0.105, 0.062, 0.112, 0.042, 0.088,
          0.040, 0.150, 0.032, 0.166, 0.025, 0.152, 0.021, 0.110, 0.016, 0.172, 0.008, 0.186, 0,
          0.174, -0.002, 0.112, -0.009, 0.178, -0.017, 0.190, -0.024, 0.178, -0.022, 0.108, -0.032,
          0.154, -0.040, 0.162, -0.046, 0.150, -0.040, 0.090, -0.038, 0.040
        }),
    new Thing(
        "person",
        1.75,
        new double[] {
          -0.16, 0, -0.03, 0, -0.02, 0.78, 0.02, 0.78, 0.03, 0, 0.16, 0, 0.17, 0.80, 0.20, 0.80,
          0.25, 0.86, 0.26, 1.30, 0.21, 1.43, 0.06, 1.49, 0.06, 1.53, 0.10, 1.60, 0.10, 1.68, 0.05,
          1.75, -0.05, 1.75, -0.10, 1.68, -0.10, 1.60, -0.06, 1.53, -0.06, 1.49, -0.21, 1.43, -0.26,
          1.30, -0.25, 0.86, -0.20, 0.80, -0.17, 0.80
        }),
    new Thing("door", 2.03, new double[] {-0.45, 0, 0.45, 0, 0.45, 2.03, -0.45, 2.03})
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

  private static double longest(Box b) {
    return Math.max(b.height(), Math.max(b.width(), b.depth()));
  }

  static void draw(GraphicsContext g, ViewPort view, Box b) {
    double h = longest(b);
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
    double[][] left = standing(view, b, small, -1);
    double[][] right = standing(view, b, large, 1);
    boolean both = isSeen(view, left) && isSeen(view, right);
    if (isSeen(view, left)) {
      stand(g, small, left, true);
    }
    if (isSeen(view, right)) {
      stand(g, large, right, false);
    }
    if (!both) {
      inset(g, view, b, small, large);
    }
  }

  /**
   * A thing on the work's floor, to one side of it as seen: x and y of its outline in pixels; null
   * where it reaches behind the viewer, or is seen from above only.
   */
  private static double[][] standing(ViewPort view, Box b, Thing t, int side) {
    double[] right = view.camera().right();
    double l = Math.hypot(right[0], right[1]);
    if (l < 0.5 || Math.abs(view.camera().forward()[2]) > 0.9) {
      return null;
    }
    double ux = right[0] / l;
    double uy = right[1] / l;
    double half = (Math.abs(ux) * b.width() + Math.abs(uy) * b.depth()) / 2;
    double away = side * (half + 0.16 * b.diagonal() + t.width() / 2);
    double[] c = b.centre();
    double middle = (t.most() + t.least()) / 2;
    int n = t.outline.length / 2;
    double[][] out = new double[2][n];
    for (int i = 0; i < n; i++) {
      double along = away + t.outline[2 * i] - middle;
      double[] p =
          view.project(
              Vec.of(c[0] + ux * along, c[1] + uy * along, b.minZ() + t.outline[2 * i + 1]));
      if (p == null) {
        return null;
      }
      out[0][i] = p[0];
      out[1][i] = p[1];
    }
    return out;
  }

  private static boolean isSeen(ViewPort view, double[][] at) {
    if (at == null) {
      return false;
    }
    for (int i = 0; i < at[0].length; i++) {
      if (at[0][i] < 4
          || at[0][i] > view.width() - 4
          || at[1][i] < 4
          || at[1][i] > view.height() - 30) {
        return false;
      }
    }
    return true;
  }

  /** Draws a thing, its name below it to the left, else over it: clear of the dimensions. */
  private static void stand(GraphicsContext g, Thing t, double[][] at, boolean below) {
    int n = at[0].length;
    g.setFill(SHADE);
    g.fillPolygon(at[0], at[1], n);
    g.setStroke(INK);
    g.setLineWidth(1.2);
    g.strokePolygon(at[0], at[1], n);
    double x = 0;
    double low = Double.NEGATIVE_INFINITY;
    double high = Double.POSITIVE_INFINITY;
    for (int i = 0; i < n; i++) {
      x += at[0][i] / n;
      low = Math.max(low, at[1][i]);
      high = Math.min(high, at[1][i]);
    }
    if (below) {
      double half = 3.65 * t.words().length() + 9;
      SizeMarks.slip(g, Math.max(half, x - half + 9), low + 14, t.words());
    } else {
      SizeMarks.slip(g, x, high - 14, t.words());
    }
  }

  /** The box of the work from the front between the two familiar things nearest to it in size. */
  private static void inset(GraphicsContext g, ViewPort view, Box b, Thing small, Thing large) {
    double h = longest(b);
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
    g.fillText(AppWords.of("familiar.beside", small.words()), x0 + INSET_WIDTH / 2, floor + 11);
    g.fillText(AppWords.of("familiar.and", large.words()), x0 + INSET_WIDTH / 2, floor + 24);
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
