package holotome.app.window;

import javafx.scene.Node;
import javafx.scene.paint.Color;

/** The colours of what is drawn on a slip of paper, on film and on slate. */
final class LegendInk {
  private static final Color INK = Color.web("#1D2B33");
  private static final Color SOFT = Color.web("#54626A");
  private static final Color LIGHT = Color.web("#E8E4DA");
  private static final Color SOFT_LIGHT = Color.web("#A9B4B6");

  private LegendInk() {}

  static Color of(Node node) {
    return isOnSlate(node) ? LIGHT : INK;
  }

  static Color soft(Node node) {
    return isOnSlate(node) ? SOFT_LIGHT : SOFT;
  }

  private static boolean isOnSlate(Node node) {
    for (Node n = node; n != null; n = n.getParent()) {
      if (n.getStyleClass().contains("slate")) {
        return true;
      }
    }
    return false;
  }
}
