package holotome.app.window;

import holotome.app.model.Finding;
import holotome.app.words.AppWords;
import java.util.List;
import java.util.Locale;
import javafx.geometry.Insets;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The left panel: the findings of the stage. */
final class FindingsPanel extends VBox {
  private final Label heading = new Label();
  private final VBox list = new VBox();
  private List<String> shown = List.of();

  FindingsPanel() {
    setId("findings");
    getStyleClass().addAll("panel", "panel-left");
    setPadding(new Insets(12, 14, 8, 14));
    setPrefWidth(236);
    setMinWidth(236);
    setMaxWidth(236);
    heading.getStyleClass().add("heading");
    ScrollPane scroll = new ScrollPane(list);
    scroll.setFitToWidth(true);
    scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
    scroll.setFocusTraversable(false);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    Region rule = rule();
    VBox.setMargin(rule, new Insets(7, 0, 0, 0));
    getChildren().addAll(heading, rule, scroll);
    setAccessibleRole(AccessibleRole.LIST_VIEW);
    setAccessibleText(AppWords.of("findings-panel.findings"));
    addEventHandler(KeyEvent.KEY_PRESSED, this::key);
  }

  /** Whether a node is one of the panel's: arrow keys then lead from link to link. */
  boolean holds(Node node) {
    for (Node n = node; n != null; n = n.getParent()) {
      if (n == this) {
        return true;
      }
    }
    return false;
  }

  private void key(KeyEvent e) {
    int by = e.getCode() == KeyCode.DOWN ? 1 : e.getCode() == KeyCode.UP ? -1 : 0;
    List<Node> links = List.copyOf(list.lookupAll(".link"));
    int at = getScene() == null ? -1 : links.indexOf(getScene().getFocusOwner());
    if (by != 0 && at >= 0 && at + by >= 0 && at + by < links.size()) {
      links.get(at + by).requestFocus();
      e.consume();
    }
  }

  static Region rule() {
    Region r = new Region();
    r.getStyleClass().add("rule");
    return r;
  }

  void show(String stage, List<Finding> findings, boolean busy) {
    heading.setText(AppWords.of("findings-panel.findings-in", stage));
    List<String> now =
        findings.stream()
            .map(f -> f.severity() + f.title() + f.text() + f.actionName() + busy)
            .toList();
    if (now.equals(shown)) {
      return;
    }
    shown = now;
    list.getChildren().clear();
    for (Finding f : findings) {
      list.getChildren().addAll(card(f, busy), rule());
    }
  }

  private static HBox card(Finding f, boolean busy) {
    Region mark = new Region();
    mark.getStyleClass().add("mark");
    Label title = new Label(f.title());
    title.getStyleClass().add("heading");
    title.setWrapText(true);
    Label word = new Label(f.severity().word());
    word.getStyleClass().add("word");
    word.setMinWidth(Region.USE_PREF_SIZE);
    Label text = new Label(f.text());
    text.setWrapText(true);
    text.getStyleClass().add("soft");
    text.setMinHeight(Region.USE_PREF_SIZE);
    title.setMinHeight(Region.USE_PREF_SIZE);
    HBox.setHgrow(title, Priority.ALWAYS);
    title.setMaxWidth(Double.MAX_VALUE);
    HBox top = new HBox(8, title, word);
    top.setAlignment(javafx.geometry.Pos.BASELINE_LEFT);
    VBox body = new VBox(2, top, text);
    HBox.setHgrow(body, Priority.ALWAYS);
    HBox links = new HBox(14);
    if (f.show() != null) {
      links.getChildren().add(link(AppWords.of("findings-panel.show"), f.show(), false, f.title()));
    }
    if (f.places() != null) {
      links
          .getChildren()
          .addAll(
              arrow("\u2039", f.places().back(), AppWords.of("findings-panel.before", f.title())),
              arrow("\u203a", f.places().on(), AppWords.of("findings-panel.next", f.title())));
    }
    if (f.actionName() != null) {
      links.getChildren().add(link(f.actionName(), f.action(), busy, f.title()));
    }
    links.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
    if (!links.getChildren().isEmpty()) {
      body.getChildren().add(links);
    }
    HBox card = new HBox(9, mark, body);
    card.getStyleClass().addAll("finding", f.severity().name().toLowerCase(Locale.ROOT));
    return card;
  }

  private static Button arrow(String sign, Runnable run, String words) {
    Button b = link(sign, run, false, words);
    b.setAccessibleText(words);
    return b;
  }

  private static Button link(String text, Runnable run, boolean disabled, String about) {
    Button b = new Button(text);
    b.setAccessibleText(text + ": " + about);
    b.getStyleClass().setAll("link");
    b.setMinWidth(Region.USE_PREF_SIZE);
    b.setOnAction(e -> run.run());
    b.setDisable(disabled);
    return b;
  }
}
