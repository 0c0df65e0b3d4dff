package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SplitPane;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/**
 * Whoever does not see the window is told what each control is: it has a role and a name; and
 * whoever sees it can read all of it.
 */
class AccessibleTest extends WindowCase {

  @Override
  int triangles() {
    return 30_000;
  }

  private static void collect(Node n, List<Node> out) {
    if (!n.isVisible()) {
      return;
    }
    if (n.isFocusTraversable() && !(n instanceof ScrollPane) && !(n instanceof SplitPane)) {
      out.add(n);
    }
    if (n instanceof Parent p) {
      // What a control is made of is the control's own affair.
      boolean inner =
          n instanceof Control && !(n instanceof ScrollPane) && !(n instanceof SplitPane);
      for (Node c : inner ? List.<Node>of() : p.getChildrenUnmodifiable()) {
        collect(c, out);
      }
      if (n instanceof ScrollPane s && s.getContent() != null) {
        collect(s.getContent(), out);
      }
      if (n instanceof SplitPane s) {
        s.getItems().forEach(i -> collect(i, out));
      }
    }
  }

  private static String nameOf(Node n, List<Label> labels) {
    if (n.getAccessibleText() != null && !n.getAccessibleText().isBlank()) {
      return n.getAccessibleText();
    }
    if (n instanceof Labeled l && l.getText() != null && !l.getText().isBlank()) {
      return l.getText();
    }
    for (Label l : labels) {
      if (l.getLabelFor() == n) {
        return l.getText();
      }
    }
    return "";
  }

  private static void labels(Node n, List<Label> out) {
    if (n instanceof Label l) {
      out.add(l);
    }
    if (n instanceof Parent p) {
      p.getChildrenUnmodifiable().forEach(c -> labels(c, out));
    }
  }

  private void check(String where, TreeSet<String> nameless) {
    d.on(
        () -> {
          List<Node> all = new ArrayList<>();
          collect(d.scene().getRoot(), all);
          List<Label> labels = new ArrayList<>();
          labels(d.scene().getRoot(), labels);
          assertThat(all).as(where).hasSizeGreaterThan(10);
          CutTexts.collect(where, d.scene().getRoot(), nameless);
          for (Node n : all) {
            boolean role = n instanceof Control || n.getAccessibleRole() != AccessibleRole.PARENT;
            if (nameOf(n, labels).isBlank() || !role && !(n instanceof ButtonBase)) {
              nameless.add(where + ": " + n.getClass().getSimpleName() + " " + n.getId());
            }
          }
          return null;
        });
  }

  @Test
  void everyControlHasARoleAndANameAndNoTextIsCut() {
    TreeSet<String> nameless = new TreeSet<>();
    everyTool(at -> check(at, nameless));
    d.keys(KeyCode.CONTROL, KeyCode.COMMA);
    d.settle();
    check("settings", nameless);
    d.keys(KeyCode.ESCAPE);
    d.keys(KeyCode.F1);
    d.settle();
    check("keys", nameless);
    d.keys(KeyCode.ESCAPE);
    assertThat(nameless).isEmpty();
  }
}
