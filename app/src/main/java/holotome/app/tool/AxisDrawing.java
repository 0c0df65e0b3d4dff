package holotome.app.tool;

import holotome.core.frame.AxisPreset;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/** What coordinates mean, as a small drawing: a work seen from the front right, and its axes. */
final class AxisDrawing {
  static final double WIDTH = 250;
  static final double HEIGHT = 84;
  private static final Color PAPER = Color.web("#F6F4EF");
  private static final Color INK = Color.web("#1D2B33");
  private static final Color SOFT = Color.web("#5B6A70");

  private AxisDrawing() {}

  /** Draws a preset; null for a kept frame, whose axes are its own. */
  static void draw(GraphicsContext g, AxisPreset p) {
    // Drawn in ink on its own slip of paper: the same in film and slate.
    g.setFill(PAPER);
    g.fillRoundRect(0, 0, WIDTH, HEIGHT, 4, 4);
    g.setTextBaseline(VPos.CENTER);
    g.setTextAlign(TextAlignment.LEFT);
    g.setFont(Font.font("IBM Plex Sans", 12));
    g.setFill(SOFT);
    if (p == null) {
      g.fillText("In the scan file's own coordinates", 10, HEIGHT / 2);
      return;
    }
    double x = 44;
    double y = HEIGHT - 28;
    g.setFont(Font.font("IBM Plex Mono", 12));
    // To the right, to the back, and up, as the work stands here.
    arrow(g, x, y, x + 34, y + 8, "x");
    boolean backwards = p.isYUp() != p.isLeftHanded();
    double bx = backwards ? -26 : 26;
    double by = backwards ? 12 : -12;
    arrow(g, x, y, x + bx, y + by, p.isYUp() ? "z" : "y");
    arrow(g, x, y, x, y - 40, p.isYUp() ? "y" : "z");
    g.setFill(INK);
    g.setFont(Font.font("IBM Plex Sans", 12));
    String unit = p.unit() == 1 ? "metres" : p.unit() == 0.01 ? "centimetres" : "millimetres";
    g.fillText("in " + unit, 108, 24);
    g.fillText((p.isYUp() ? "Y" : "Z") + " is up", 108, 42);
    g.fillText(p.isLeftHanded() ? "left-handed" : "right-handed", 108, 60);
  }

  private static void arrow(
      GraphicsContext g, double x, double y, double toX, double toY, String name) {
    g.setStroke(INK);
    g.setLineWidth(1.6);
    g.strokeLine(x, y, toX, toY);
    double a = Math.atan2(toY - y, toX - x);
    g.setFill(INK);
    g.fillPolygon(
        new double[] {
          toX + 6 * Math.cos(a), toX + 4 * Math.cos(a + 2.2), toX + 4 * Math.cos(a - 2.2)
        },
        new double[] {
          toY + 6 * Math.sin(a), toY + 4 * Math.sin(a + 2.2), toY + 4 * Math.sin(a - 2.2)
        },
        3);
    g.fillText(name, toX + 13 * Math.cos(a) - 3, toY + 13 * Math.sin(a));
  }
}
