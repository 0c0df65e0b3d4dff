package holotome.app.tool;

import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/** How handles that can be dragged in the view look, and how dragging one is read. */
final class Handles {
  static final Color VIOLET = Color.web("#6C4AB6");
  private static final Color PAPER = Color.web("#F6F4EF");
  private static final double SIZE = 9;

  private Handles() {}

  static boolean hit(double[] at, double x, double y) {
    return at != null && Math.hypot(x - at[0], y - at[1]) < 1.7 * SIZE;
  }

  static void square(GraphicsContext g, double[] at) {
    if (at != null) {
      g.setLineWidth(1.8);
      g.setStroke(VIOLET);
      g.setFill(PAPER);
      g.fillRect(at[0] - SIZE / 2, at[1] - SIZE / 2, SIZE, SIZE);
      g.strokeRect(at[0] - SIZE / 2, at[1] - SIZE / 2, SIZE, SIZE);
    }
  }

  static void round(GraphicsContext g, double[] at) {
    if (at != null) {
      g.setLineWidth(1.8);
      g.setStroke(VIOLET);
      g.setFill(PAPER);
      g.fillOval(at[0] - SIZE / 2, at[1] - SIZE / 2, SIZE, SIZE);
      g.strokeOval(at[0] - SIZE / 2, at[1] - SIZE / 2, SIZE, SIZE);
    }
  }

  static void arrow(GraphicsContext g, double[] from, double[] to) {
    if (from == null || to == null) {
      return;
    }
    g.setStroke(VIOLET);
    g.setLineWidth(2);
    g.strokeLine(from[0], from[1], to[0], to[1]);
    double a = Math.atan2(to[1] - from[1], to[0] - from[0]);
    g.setFill(VIOLET);
    g.fillPolygon(
        new double[] {
          to[0] + 9 * Math.cos(a), to[0] + 6 * Math.cos(a + 2.2), to[0] + 6 * Math.cos(a - 2.2)
        },
        new double[] {
          to[1] + 9 * Math.sin(a), to[1] + 6 * Math.sin(a + 2.2), to[1] + 6 * Math.sin(a - 2.2)
        },
        3);
  }

  /**
   * How far along a direction of space a drag in the view leads.
   *
   * @param from where the direction begins, in working space
   * @param step a length along it that is well seen
   * @return the length, or NaN where the direction points at the eye
   */
  static double along(
      ViewPort view, double[] from, double[] direction, double step, double dx, double dy) {
    double[] a = view.project(from);
    double[] b =
        view.project(
            holotome.core.geometry.Vec.add(from, holotome.core.geometry.Vec.mul(direction, step)));
    if (a == null || b == null) {
      return Double.NaN;
    }
    double x = b[0] - a[0];
    double y = b[1] - a[1];
    double l2 = x * x + y * y;
    return l2 < 9 ? Double.NaN : (dx * x + dy * y) / l2 * step;
  }
}
