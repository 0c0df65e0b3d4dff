package holotome.app.window;

import javafx.scene.control.Button;
import javafx.scene.layout.Region;

/** A button that looks like a link and is never cut. */
final class LinkButton extends Button {
  /**
   * @param id of the node
   */
  LinkButton(String id, String words) {
    super(words);
    setId(id);
    getStyleClass().setAll("link");
    setMinWidth(Region.USE_PREF_SIZE);
  }
}
