package holotome.app.tool;

import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/** The pixels around the pointer enlarged, with the very pixel that would be picked. */
final class Loupe {
  private static final int PIXELS = 21;
  private static final int ZOOM = 6;
  private static final Color INK = Color.web("#1D2B33");
  private static final Color PAPER = Color.web("#F6F4EF");

  private Loupe() {}

  static void draw(ViewPort view, GraphicsContext g, double[] pointer) {
    int px = (int) pointer[0];
    int py = (int) pointer[1];
    double side = PIXELS * ZOOM;
    double x0 = pointer[0] + 24 + side > view.width() ? pointer[0] - 24 - side : pointer[0] + 24;
    double y0 = pointer[1] - 24 - side < 0 ? pointer[1] + 24 : pointer[1] - 24 - side;
    for (int i = 0; i < PIXELS; i++) {
      for (int j = 0; j < PIXELS; j++) {
        int c = view.pixel(px + i - PIXELS / 2, py + j - PIXELS / 2);
        g.setFill(Color.rgb(c >> 16 & 255, c >> 8 & 255, c & 255));
        g.fillRect(x0 + i * ZOOM, y0 + j * ZOOM, ZOOM, ZOOM);
      }
    }
    g.setStroke(INK);
    g.setLineWidth(1);
    g.strokeRect(x0 - 0.5, y0 - 0.5, side + 1, side + 1);
    double c = PIXELS / 2 * ZOOM;
    g.setStroke(PAPER);
    g.strokeRect(x0 + c, y0 + c, ZOOM, ZOOM);
    g.setStroke(INK);
    g.strokeRect(x0 + c - 1, y0 + c - 1, ZOOM + 2, ZOOM + 2);
  }
}
