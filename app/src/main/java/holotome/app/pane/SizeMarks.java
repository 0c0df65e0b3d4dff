package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.tool.MeasureMarks;
import holotome.app.tool.ViewPort;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.part.Workpiece;
import holotome.core.unit.Length;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * How large the work is: width, depth and height as dimension lines along its box, and familiar
 * things beside it, so that a wrong scale is seen at once.
 */
final class SizeMarks {
  private static final Color INK = Color.web("#1D2B33");
  private static final Color PAPER = Color.web("#F6F4EF");

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
      FamiliarThings.draw(g, view, b);
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

  static void slip(GraphicsContext g, double x, double y, String text) {
    g.setFont(Font.font("IBM Plex Mono", 12));
    double w = 7.3 * text.length() + 10;
    g.setFill(PAPER);
    g.fillRoundRect(x - w / 2, y - 9, w, 18, 4, 4);
    g.setFill(INK);
    g.setTextAlign(TextAlignment.CENTER);
    g.setTextBaseline(VPos.CENTER);
    g.fillText(text, x, y);
  }
}
