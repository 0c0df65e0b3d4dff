package holotome.app.tool;

import holotome.core.reduce.DeviationCurve;
import holotome.core.reduce.DeviationCurve.Point;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import javafx.geometry.VPos;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * Draws how far a lighter mesh would lie off (a line; what 95 % stay under, dashed) over how many
 * triangles it has, both axes by ratios; the choice as a line with a dot.
 */
final class DeviationCanvas extends Canvas {
  static final double WIDTH = 262;
  static final double HEIGHT = 100;
  private static final double FOOT = 16;
  private static final double HEAD = 6;

  /** The fewest triangles on the axis. */
  private static final double FEWEST = 200;

  private static final Color LINE = Color.web("#8A6FD1");
  private static final Color CHOSEN = Color.web("#2E9C8A");
  private static final Color FRAME = Color.gray(0.55);
  private static final Color GRID = Color.gray(0.55, 0.35);

  private DeviationCurve curve;
  private double all;
  private double low;
  private double high;

  DeviationCanvas() {
    super(WIDTH, HEIGHT);
  }

  /** Says something in place of the curve. */
  void say(String words) {
    curve = null;
    GraphicsContext g = getGraphicsContext2D();
    g.clearRect(0, 0, WIDTH, HEIGHT);
    g.setFont(Font.font("IBM Plex Sans", 11));
    g.setFill(FRAME);
    g.setTextAlign(TextAlignment.CENTER);
    g.setTextBaseline(VPos.CENTER);
    g.fillText(words, WIDTH / 2, HEIGHT / 2);
  }

  /**
   * Shows another curve.
   *
   * @param triangles of the mesh it was foretold for
   */
  void setCurve(DeviationCurve c, int triangles) {
    curve = c;
    all = Math.max(2 * FEWEST, triangles);
    Point few = c.at(FEWEST);
    Point many = c.at(0.9 * all);
    high = few == null ? 1 : Math.max(few.p95(), Double.MIN_NORMAL);
    low = many == null ? high / 10 : Math.clamp(many.rms(), high * 1e-5, high / 10);
  }

  private double x(double triangles) {
    double s = Math.log(Math.max(triangles, FEWEST) / FEWEST) / Math.log(all / FEWEST);
    return WIDTH * Math.clamp(s, 0, 1);
  }

  private double y(double off) {
    double s = Math.log(Math.max(off, low) / low) / Math.log(high / low);
    return HEIGHT - FOOT - (HEIGHT - FOOT - HEAD) * Math.clamp(s, 0, 1);
  }

  /** The number of triangles at a place along the axis. */
  double triangles(double x) {
    return FEWEST * Math.pow(all / FEWEST, Math.clamp(x / WIDTH, 0, 1));
  }

  /** The deviation at a height, in the mesh's units. */
  double deviation(double y) {
    double s = (HEIGHT - FOOT - y) / (HEIGHT - FOOT - HEAD);
    return low * Math.pow(high / low, Math.clamp(s, 0, 1));
  }

  /**
   * Draws the curve.
   *
   * @param triangles chosen; 0 for none
   * @param tolerance chosen, in the mesh's units; 0 for none
   * @param scale from the mesh's units to those of the work
   */
  void draw(double triangles, double tolerance, double scale, boolean trueSize) {
    GraphicsContext g = getGraphicsContext2D();
    g.clearRect(0, 0, WIDTH, HEIGHT);
    if (curve == null || curve.at(FEWEST) == null) {
      return;
    }
    grid(g, scale, trueSize);
    line(g, false);
    g.setLineDashes(4, 3);
    line(g, true);
    g.setLineDashes();
    g.setStroke(CHOSEN);
    g.setFill(CHOSEN);
    g.setLineWidth(2);
    if (triangles > 0) {
      double x = Math.round(x(triangles));
      g.strokeLine(x, HEAD, x, HEIGHT - FOOT);
      g.fillOval(x - 4.5, y(curve.at(triangles).rms()) - 4.5, 9, 9);
    }
    if (tolerance > 0) {
      double y = Math.round(y(tolerance));
      g.strokeLine(0, y, WIDTH, y);
      g.fillOval(WIDTH / 2 - 4.5, y - 4.5, 9, 9);
    }
  }

  private void grid(GraphicsContext g, double scale, boolean trueSize) {
    double foot = HEIGHT - FOOT;
    g.setLineWidth(1);
    g.setFont(Font.font("IBM Plex Mono", 10));
    g.setFill(FRAME);
    g.setTextBaseline(VPos.BOTTOM);
    g.setTextAlign(TextAlignment.CENTER);
    for (double n = 1000; n < all; n *= 10) {
      double x = Math.round(x(n)) + 0.5;
      g.setStroke(GRID);
      g.strokeLine(x, HEAD, x, foot);
      if (x > 14 && x < WIDTH - 18) {
        g.fillText(shortly(n), x, HEIGHT);
      }
    }
    g.setTextAlign(TextAlignment.RIGHT);
    for (double d = power(low * scale); d < high * scale; d *= 10) {
      double y = Math.round(y(d / scale)) + 0.5;
      if (d > low * scale) {
        g.setStroke(GRID);
        g.strokeLine(0, y, WIDTH, y);
        g.fillText(Length.formatRound(d, trueSize), WIDTH, y - 1);
      }
    }
    g.setStroke(FRAME);
    g.strokeLine(0, foot + 0.5, WIDTH, foot + 0.5);
  }

  private static double power(double x) {
    return Math.pow(10, Math.floor(Math.log10(x)));
  }

  private static String shortly(double n) {
    return n >= 1e6 ? Language.format("%.0f M", n / 1e6) : Language.format("%.0f k", n / 1e3);
  }

  private void line(GraphicsContext g, boolean p95) {
    g.setStroke(LINE);
    g.setLineWidth(p95 ? 1 : 1.8);
    g.beginPath();
    for (int x = 0; x <= WIDTH; x += 2) {
      Point p = curve.at(triangles(x));
      double y = y(p95 ? p.p95() : p.rms());
      if (x == 0) {
        g.moveTo(x, y);
      } else {
        g.lineTo(x, y);
      }
    }
    g.stroke();
  }
}
