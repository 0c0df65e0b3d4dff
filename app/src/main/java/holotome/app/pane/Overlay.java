package holotome.app.pane;

import holotome.app.tool.Marks;
import holotome.core.geometry.Vec;
import holotome.core.unit.Length;
import holotome.core.unit.RoundLength;
import holotome.view.camera.Camera;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/** What is always drawn over the view: axes and scale bar. */
final class Overlay {
  private static final Color INK = Color.web("#1D2B33");
  private static final Color PAPER = Color.web("#F6F4EF");
  private static final Color[] AXES = {
    Color.web("#A63D2F"), Color.web("#2F7D3B"), Color.web("#2F5FA6")
  };

  void axes(GraphicsContext g, Camera camera, double width, double height) {
    double x = width - 58;
    double y = height - 58;
    double length = 32;
    double[][] axis = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
    g.setFont(Font.font("IBM Plex Mono", 12));
    g.setTextAlign(TextAlignment.CENTER);
    g.setTextBaseline(VPos.CENTER);
    g.setLineWidth(2);
    for (int i = 0; i < 3; i++) {
      double dx = Vec.dot(axis[i], camera.right());
      double dy = -Vec.dot(axis[i], camera.up());
      g.setStroke(PAPER);
      g.setLineWidth(4);
      g.strokeLine(x, y, x + length * dx, y + length * dy);
      g.setStroke(AXES[i]);
      g.setLineWidth(2);
      g.strokeLine(x, y, x + length * dx, y + length * dy);
      if (Math.hypot(dx, dy) > 0.15) {
        Marks.text(g, "XYZ".substring(i, i + 1), x + (length + 10) * dx, y + (length + 10) * dy);
        g.setLineWidth(2);
      }
    }
  }

  void scaleBar(GraphicsContext g, Camera camera, double height, boolean trueSize) {
    double unit = camera.unitsPerPixel((int) height);
    double length = RoundLength.below(190 * unit);
    bar(g, height - 24, length / unit, Length.formatRound(length, trueSize));
  }

  /** A bar of five parts in the lower left, and what it stands for. */
  static void bar(GraphicsContext g, double y, double px, String text) {
    double x = 18;
    g.setFont(Font.font("IBM Plex Mono", 12));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(VPos.BOTTOM);
    Marks.text(g, text, x, y - 4);
    for (int i = 0; i < 5; i++) {
      g.setFill(i % 2 == 0 ? INK : PAPER);
      g.fillRect(x + px * i / 5, y, px / 5, 6);
    }
    g.setStroke(PAPER);
    g.setLineWidth(1);
    g.strokeRect(x - 1.5, y - 1.5, px + 3, 9);
    g.setStroke(INK);
    g.strokeRect(x - 0.5, y - 0.5, px + 1, 7);
  }
}
