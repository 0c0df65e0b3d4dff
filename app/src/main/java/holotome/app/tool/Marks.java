package holotome.app.tool;

import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.shape.StrokeLineJoin;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/** Marks that tools draw over the view. */
public final class Marks {
  static final Color VERDIGRIS = Color.web("#1F7A6D");
  private static final Color PAPER = Color.web("#F6F4EF");
  private static final Color INK = Color.web("#1D2B33");

  private Marks() {}

  /** A ring around a picked place in pixels, to be seen on any ground; nothing for null. */
  static void ring(GraphicsContext g, double[] p) {
    if (p == null) {
      return;
    }
    g.setStroke(PAPER);
    g.setLineWidth(4);
    g.strokeOval(p[0] - 5, p[1] - 5, 10, 10);
    g.setStroke(VERDIGRIS);
    g.setLineWidth(2);
    g.strokeOval(p[0] - 5, p[1] - 5, 10, 10);
  }

  /** A line through places of working space, to be seen on any ground; breaks behind the eye. */
  static void line(ViewPort view, GraphicsContext g, double[] xyz, Color colour) {
    for (int pass = 0; pass < 2; pass++) {
      g.setStroke(pass == 0 ? PAPER : colour);
      g.setLineWidth(pass == 0 ? 3.6 : 1.6);
      double[] last = null;
      for (int i = 0; i < xyz.length; i += 3) {
        double[] p = view.project(new double[] {xyz[i], xyz[i + 1], xyz[i + 2]});
        if (p != null && last != null) {
          g.strokeLine(last[0], last[1], p[0], p[1]);
        }
        last = p;
      }
    }
  }

  /** A dot at what the pointer is over, in pixels; nothing for null. */
  static void dot(GraphicsContext g, double[] p) {
    if (p != null) {
      g.setFill(PAPER);
      g.fillOval(p[0] - 4.5, p[1] - 4.5, 9, 9);
      g.setFill(VERDIGRIS);
      g.fillOval(p[0] - 3, p[1] - 3, 6, 6);
    }
  }

  /** A line that stands out among {@link #line}s: what is chosen. */
  static void thick(ViewPort view, GraphicsContext g, double[] xyz) {
    g.save();
    for (int pass = 0; pass < 2; pass++) {
      g.setStroke(pass == 0 ? PAPER : VERDIGRIS);
      g.setLineWidth(pass == 0 ? 6.5 : 3.5);
      for (int i = 3; i < xyz.length; i += 3) {
        double[] a = view.project(new double[] {xyz[i - 3], xyz[i - 2], xyz[i - 1]});
        double[] b = view.project(new double[] {xyz[i], xyz[i + 1], xyz[i + 2]});
        if (a != null && b != null) {
          g.strokeLine(a[0], a[1], b[0], b[1]);
        }
      }
    }
    g.restore();
  }

  /** The same between two places in pixels. */
  static void thick(GraphicsContext g, double[] a, double[] b) {
    for (int pass = 0; pass < 2; pass++) {
      g.setStroke(pass == 0 ? PAPER : VERDIGRIS);
      g.setLineWidth(pass == 0 ? 6.5 : 3.5);
      g.strokeLine(a[0], a[1], b[0], b[1]);
    }
  }

  /** Text to be seen on any ground, as the graphics' font and alignment say. */
  public static void text(GraphicsContext g, String text, double x, double y) {
    g.setLineJoin(StrokeLineJoin.ROUND);
    g.setStroke(PAPER);
    g.setLineWidth(3);
    g.strokeText(text, x, y);
    g.setFill(INK);
    g.fillText(text, x, y);
    g.setLineJoin(StrokeLineJoin.MITER);
  }

  /** A figure on a slip of paper about a place in pixels; nothing for null. */
  static void slip(GraphicsContext g, double[] at, String text) {
    if (at == null) {
      return;
    }
    g.setFont(Font.font("IBM Plex Mono", 12));
    double w = 7.3 * text.length() + 10;
    g.setFill(PAPER);
    g.fillRoundRect(at[0] - w / 2, at[1] - 9, w, 18, 4, 4);
    g.setFill(INK);
    g.setTextAlign(TextAlignment.CENTER);
    g.setTextBaseline(VPos.CENTER);
    g.fillText(text, at[0], at[1]);
  }
}
