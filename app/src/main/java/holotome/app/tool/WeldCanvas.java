package holotome.app.tool;

import holotome.core.mend.WeldCurve;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/**
 * Draws how many points would be joined (a line), and how many triangles would lose an edge
 * (dashed), over the distance, both axes by ratios; the natural gap as a band, the distance chosen
 * as an upright line.
 */
final class WeldCanvas extends Canvas {
  private static final double WIDTH = 262;
  private static final double HEIGHT = 84;

  /** The curve begins at this share of its limit. */
  private static final double LEAST = 1e-6;

  private static final Color JOINED = Color.web("#8A6FD1");
  private static final Color BROKEN = Color.web("#C9922F");
  private static final Color CHOSEN = Color.web("#2E9C8A");
  private static final Color FRAME = Color.gray(0.55);

  WeldCanvas() {
    super(WIDTH, HEIGHT);
  }

  void clear() {
    getGraphicsContext2D().clearRect(0, 0, WIDTH, HEIGHT);
  }

  /** The distance at a place along the axis. */
  double distance(double x, WeldCurve c) {
    double share = Math.clamp(x / WIDTH, 0, 1);
    return c.limit() * LEAST * Math.pow(1 / LEAST, share);
  }

  private static double place(double distance, WeldCurve c) {
    double share = Math.log(Math.max(LEAST, distance / c.limit()) / LEAST) / Math.log(1 / LEAST);
    return WIDTH * Math.clamp(share, 0, 1);
  }

  void draw(WeldCurve c, double natural, double chosen) {
    GraphicsContext g = getGraphicsContext2D();
    g.clearRect(0, 0, WIDTH, HEIGHT);
    double foot = HEIGHT - 1;
    g.setStroke(FRAME);
    g.setLineWidth(1);
    g.strokeLine(0, foot + 0.5, WIDTH, foot + 0.5);
    if (natural > 0) {
      g.setFill(Color.color(CHOSEN.getRed(), CHOSEN.getGreen(), CHOSEN.getBlue(), 0.18));
      double x = place(natural, c);
      g.fillRect(x - 7, 2, 14, foot - 2);
    }
    double most = Math.log1p(Math.max(1, Math.max(c.joins().length, c.breaks().length)));
    line(g, c, JOINED, most, true);
    g.setLineDashes(4, 3);
    line(g, c, BROKEN, most, false);
    g.setLineDashes();
    if (chosen > 0) {
      g.setStroke(CHOSEN);
      g.setLineWidth(2);
      double x = Math.round(place(chosen, c));
      g.strokeLine(x, 2, x, foot);
    }
  }

  private void line(GraphicsContext g, WeldCurve c, Color colour, double most, boolean joined) {
    g.setStroke(colour);
    g.setLineWidth(1.6);
    g.beginPath();
    for (int x = 0; x <= WIDTH; x += 2) {
      double d = distance(x, c);
      int n = joined ? c.points() - c.left(d) : c.broken(d);
      double y = HEIGHT - 2 - (HEIGHT - 8) * Math.log1p(n) / most;
      if (x == 0) {
        g.moveTo(x, y);
      } else {
        g.lineTo(x, y);
      }
    }
    g.stroke();
  }
}
