package holotome.app.tool;

import holotome.app.words.AppWords;
import holotome.core.section.Curve;
import holotome.core.section.Section;
import holotome.core.unit.Length;
import java.util.List;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/** Sections laid flat, with their width and height as dimensions. */
final class FlatDrawing {
  private static final double WIDTH = 250;
  private static final double HEIGHT = 200;
  private static final double MARGIN = 30;
  private static final Color INK = Color.web("#1D2B33");
  private static final Color PAPER = Color.web("#FBFAF6");
  private static final Color SOFT = Color.web("#5B6A70");

  private FlatDrawing() {}

  private static void clear(GraphicsContext g) {
    g.setFill(PAPER);
    g.fillRect(0, 0, WIDTH, HEIGHT);
    g.setStroke(Color.web("#C9C4B8"));
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, WIDTH - 1, HEIGHT - 1);
  }

  /** Draws into a pane of its own, in the lower left of a view so high. */
  static void draw(GraphicsContext g, double viewHeight, List<Section> sections, boolean trueSize) {
    g.save();
    g.translate(14, viewHeight - HEIGHT - 58);
    draw(g, sections, trueSize);
    g.restore();
  }

  private static void draw(GraphicsContext g, List<Section> sections, boolean trueSize) {
    clear(g);
    double[] b = {1e300, 1e300, -1e300, -1e300};
    for (Section s : sections) {
      double[] c = s.bounds();
      if (c != null) {
        b[0] = Math.min(b[0], c[0]);
        b[1] = Math.min(b[1], c[1]);
        b[2] = Math.max(b[2], c[2]);
        b[3] = Math.max(b[3], c[3]);
      }
    }
    if (b[2] < b[0]) {
      g.setFill(SOFT);
      g.setTextAlign(TextAlignment.CENTER);
      g.setTextBaseline(VPos.CENTER);
      g.setFont(Font.font("IBM Plex Sans", 12));
      g.fillText(AppWords.of("flat-drawing.the-plane-meets-nothing"), WIDTH / 2, HEIGHT / 2);
      return;
    }
    double w = b[2] - b[0];
    double h = b[3] - b[1];
    double k =
        Math.min(
            (WIDTH - 2 * MARGIN) / Math.max(w, 1e-12), (HEIGHT - 2 * MARGIN) / Math.max(h, 1e-12));
    double x0 = (WIDTH - k * w) / 2 + 8;
    double y0 = (HEIGHT + k * h) / 2 - 8;
    for (Section s : sections) {
      g.setStroke(INK);
      g.setLineWidth(1.2);
      for (Curve c : s.curves()) {
        // A hair of the pane's pixels is all that can be seen of points so close.
        int step = Math.max(1, c.size() / 4000);
        g.beginPath();
        for (int i = 0; i < c.size(); i += step) {
          double x = x0 + k * (c.xy()[2 * i] - b[0]);
          double y = y0 - k * (c.xy()[2 * i + 1] - b[1]);
          if (i == 0) {
            g.moveTo(x, y);
          } else {
            g.lineTo(x, y);
          }
        }
        if (c.closed()) {
          g.closePath();
        }
        g.stroke();
      }
    }
    dimensions(g, x0, y0, k * w, k * h, Length.format(w, trueSize), Length.format(h, trueSize));
  }

  private static void dimensions(
      GraphicsContext g, double x0, double y0, double w, double h, String width, String height) {
    g.setStroke(SOFT);
    g.setFill(INK);
    g.setLineWidth(1);
    g.setFont(Font.font("IBM Plex Mono", 11));
    g.setTextAlign(TextAlignment.CENTER);
    g.setTextBaseline(VPos.CENTER);
    double y = y0 + 12;
    g.strokeLine(x0, y, x0 + w, y);
    g.strokeLine(x0, y - 4, x0, y + 4);
    g.strokeLine(x0 + w, y - 4, x0 + w, y + 4);
    g.fillText(width, x0 + w / 2, y + 10);
    double x = x0 - 12;
    g.strokeLine(x, y0, x, y0 - h);
    g.strokeLine(x - 4, y0, x + 4, y0);
    g.strokeLine(x - 4, y0 - h, x + 4, y0 - h);
    g.save();
    g.translate(x - 9, y0 - h / 2);
    g.rotate(-90);
    g.fillText(height, 0, 0);
    g.restore();
  }
}
