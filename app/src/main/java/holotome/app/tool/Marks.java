package holotome.app.tool;

import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/** Marks that tools draw over the view. */
final class Marks {
  private Marks() {}

  /** A ring around a picked place in pixels, to be seen on any ground; nothing for null. */
  static void ring(GraphicsContext g, double[] p) {
    if (p == null) {
      return;
    }
    g.setStroke(Color.web("#F6F4EF"));
    g.setLineWidth(4);
    g.strokeOval(p[0] - 5, p[1] - 5, 10, 10);
    g.setStroke(Color.web("#1F7A6D"));
    g.setLineWidth(2);
    g.strokeOval(p[0] - 5, p[1] - 5, 10, 10);
  }
}
