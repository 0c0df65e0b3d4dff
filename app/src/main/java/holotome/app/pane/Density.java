package holotome.app.pane;

import javafx.beans.value.ChangeListener;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.stage.Window;

/**
 * How many of the screen's pixels there are to one of the window's: pictures are drawn in those.
 */
final class Density {
  private Density() {}

  static double of(Node n) {
    Window w = n.getScene() == null ? null : n.getScene().getWindow();
    return w == null ? 1 : w.getRenderScaleX();
  }

  /** Calls when the density of the window that a node is in changes, as on another screen. */
  static void watch(Node n, Runnable changed) {
    ChangeListener<Number> scaled = (o, a, b) -> changed.run();
    ChangeListener<Window> moved =
        (o, before, now) -> {
          if (before != null) {
            before.renderScaleXProperty().removeListener(scaled);
          }
          if (now != null) {
            now.renderScaleXProperty().addListener(scaled);
          }
        };
    ChangeListener<Scene> shown =
        (o, before, now) -> {
          if (before != null) {
            before.windowProperty().removeListener(moved);
            moved.changed(null, before.getWindow(), null);
          }
          if (now != null) {
            now.windowProperty().addListener(moved);
            moved.changed(null, null, now.getWindow());
          }
        };
    n.sceneProperty().addListener(shown);
  }
}
