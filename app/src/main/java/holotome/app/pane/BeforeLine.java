package holotome.app.pane;

import holotome.app.tool.Marks;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * The upright line between two states in one pane, with a word for each side at its head; dragged
 * by its grip.
 */
final class BeforeLine {
  private static final Color INK = Color.web("#1D2B33");
  private static final Color PAPER = Color.web("#F6F4EF");
  private static final double GRIP_WIDTH = 16;
  private static final double GRIP_HEIGHT = 40;

  /** How far from the line it can be taken hold of, in pixels. */
  private static final double REACH = 9;

  /** It stays this far, as a share of the width, from the rims. */
  private static final double RIM = 0.03;

  /** Where the words stand: below the chips along the top of the view... */
  private static final double HEAD = 58;

  /** ... and below a message under them. */
  private static final double UNDER_MESSAGE = 136;

  private double at = 0.5;
  private boolean held;

  /** Where the line is, as a share of the width. */
  double at() {
    return at;
  }

  /** Takes hold of the line where the pointer is on it; whether it is. */
  boolean pressed(double x, double y, double width) {
    held = Math.abs(x - at * width) <= REACH && y > HEAD - 20;
    return held;
  }

  /** Whether the drag was the line's. */
  boolean dragged(double x, double width) {
    if (held) {
      at = Math.clamp(x / Math.max(1, width), RIM, 1 - RIM);
    }
    return held;
  }

  /** Lets go of the line; whether it was held. */
  boolean released() {
    boolean was = held;
    held = false;
    return was;
  }

  /**
   * @param below whether a message stands under the chips
   */
  void draw(
      GraphicsContext g, double width, double height, String left, String right, boolean below) {
    double head = below ? UNDER_MESSAGE : HEAD;
    double x = Math.round(at * width);
    g.setStroke(PAPER);
    g.setLineWidth(4);
    g.strokeLine(x, head - 16, x, height);
    g.setStroke(INK);
    g.setLineWidth(1.6);
    g.strokeLine(x, head - 16, x, height);
    double y = height / 2;
    g.setFill(PAPER);
    g.fillRoundRect(x - GRIP_WIDTH / 2, y - GRIP_HEIGHT / 2, GRIP_WIDTH, GRIP_HEIGHT, 6, 6);
    g.strokeRoundRect(x - GRIP_WIDTH / 2, y - GRIP_HEIGHT / 2, GRIP_WIDTH, GRIP_HEIGHT, 6, 6);
    for (int i = -1; i <= 1; i++) {
      g.strokeLine(x - 3, y + 6 * i, x + 3, y + 6 * i);
    }
    g.setFont(Font.font("IBM Plex Sans", 13));
    g.setTextBaseline(VPos.CENTER);
    g.setTextAlign(TextAlignment.RIGHT);
    Marks.text(g, left, x - 12, head);
    g.setTextAlign(TextAlignment.LEFT);
    Marks.text(g, right, x + 12, head);
  }
}
