package holotome.app.tool;

import holotome.app.words.AppWords;
import holotome.core.frame.AxisPreset;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polygon;

/**
 * What coordinates mean, as a small drawing: a work seen from the front right, and its axes; in the
 * colours of the paper it stands on.
 */
final class AxisDrawing extends Pane {
  private static final double WIDTH = 250;
  private static final double HEIGHT = 84;

  AxisDrawing() {
    setId("axes");
    setMinSize(WIDTH, HEIGHT);
    setPrefSize(WIDTH, HEIGHT);
  }

  /** Draws a preset; null for a kept frame, whose axes are its own. */
  void show(AxisPreset p) {
    getChildren().clear();
    if (p == null) {
      words(AppWords.of("axis-drawing.in-the-scan-files-own"), 10, HEIGHT / 2);
      return;
    }
    double x = 44;
    double y = HEIGHT - 28;
    // To the right, to the back, and up, as the work stands here.
    arrow(x, y, x + 34, y + 8, "x");
    boolean backwards = p.isYUp() != p.isLeftHanded();
    double bx = backwards ? -26 : 26;
    double by = backwards ? 12 : -12;
    arrow(x, y, x + bx, y + by, p.isYUp() ? "z" : "y");
    arrow(x, y, x, y - 40, p.isYUp() ? "y" : "z");
    String unit = p.unit() == 1 ? "metres" : p.unit() == 0.01 ? "centimetres" : "millimetres";
    words(AppWords.of("axis-drawing." + unit), 108, 24);
    words(AppWords.of("axis-drawing.is-up", (p.isYUp() ? "Y" : "Z")), 108, 42);
    words(
        AppWords.of(p.isLeftHanded() ? "axis-drawing.left-handed" : "axis-drawing.right-handed"),
        108,
        60);
  }

  private void words(String text, double x, double middle) {
    Label l = new Label(text);
    l.relocate(x, middle - 9);
    getChildren().add(l);
  }

  private void arrow(double x, double y, double toX, double toY, String name) {
    Line line = new Line(x, y, toX, toY);
    line.getStyleClass().add("axis");
    double a = Math.atan2(toY - y, toX - x);
    Polygon tip =
        new Polygon(
            toX + 6 * Math.cos(a),
            toY + 6 * Math.sin(a),
            toX + 4 * Math.cos(a + 2.2),
            toY + 4 * Math.sin(a + 2.2),
            toX + 4 * Math.cos(a - 2.2),
            toY + 4 * Math.sin(a - 2.2));
    tip.getStyleClass().add("axis-tip");
    Label l = new Label(name);
    l.getStyleClass().add("figure");
    l.relocate(toX + 13 * Math.cos(a) - 3, toY + 13 * Math.sin(a) - 9);
    getChildren().addAll(line, tip, l);
  }
}
