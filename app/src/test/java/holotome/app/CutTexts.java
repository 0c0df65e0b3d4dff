package holotome.app;

import java.util.Set;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Labeled;
import javafx.scene.control.SplitPane;
import javafx.scene.text.Text;

/** Finds labels and buttons whose text has no room: the last letters have given way to dots. */
final class CutTexts {
  private CutTexts() {}

  private static boolean isCut(String text) {
    return text.endsWith("…") || text.endsWith("...");
  }

  static void collect(String where, Node n, Set<String> out) {
    if (!n.isVisible()) {
      return;
    }
    if (n instanceof Labeled l && l.getText() != null && !isCut(l.getText())) {
      for (Node c : l.getChildrenUnmodifiable()) {
        if (c instanceof Text t && t.isVisible() && isCut(t.getText())) {
          out.add(where + ": " + l.getText() + " -> " + t.getText());
        }
      }
    }
    if (n instanceof Parent p) {
      p.getChildrenUnmodifiable().forEach(c -> collect(where, c, out));
    }
    if (n instanceof SplitPane s) {
      s.getItems().forEach(i -> collect(where, i, out));
    }
  }
}
