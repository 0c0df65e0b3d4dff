package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.select.Pick;
import holotome.core.select.Reshape;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** Changes of the selection, and the selections kept under names. */
final class SelectionButtons {
  private final Session session;
  private final VBox box = new VBox(6);
  private final VBox names = new VBox(2);

  SelectionButtons(Session session) {
    this.session = session;
    FlowPane flow = new FlowPane(6, 6);
    flow.getChildren()
        .addAll(
            button("G", Reshape.How.GROW),
            button("Shift G", Reshape.How.SHRINK),
            button("S", Reshape.How.SMOOTH),
            button("I", Reshape.How.INVERT),
            button("F", Reshape.How.FILL),
            button("W", Reshape.How.ISLANDS));
    TextField name = new TextField();
    name.setId("selection-name");
    name.getStyleClass().add("name");
    name.setPromptText(AppWords.of("selection-buttons.name-to-keep-it-under"));
    name.setAccessibleText(AppWords.of("selection-buttons.name-to-keep-the-selection"));
    HBox.setHgrow(name, Priority.ALWAYS);
    Button store = new Button(AppWords.of("common.keep"));
    store.setId("selection-store");
    store.getStyleClass().setAll("small-button");
    Runnable keep =
        () -> {
          session.selecting().store(name.getText());
          fillNames();
        };
    store.setOnAction(e -> keep.run());
    name.setOnAction(e -> keep.run());
    HBox row = new HBox(6, name, store);
    row.setAlignment(Pos.CENTER_LEFT);
    box.getChildren().addAll(flow, row, names);
    fillNames();
  }

  VBox box() {
    return box;
  }

  private Button button(String key, Reshape.How how) {
    String words = AppWords.of("selection-buttons.how." + how);
    String what = AppWords.of("selection-buttons.what." + how);
    Button b = new Button(words);
    b.setId("selection-" + how.name().toLowerCase(java.util.Locale.ROOT));
    b.getStyleClass().setAll("small-button");
    b.setTooltip(
        new Tooltip(AppWords.of("selection-buttons.tip", words, what, AppWords.keys(key))));
    b.setOnAction(e -> session.selecting().reshape(how, 1));
    return b;
  }

  private void fillNames() {
    names.getChildren().clear();
    for (String name : session.selecting().names()) {
      Label label = new Label(name);
      label.setMaxWidth(Double.MAX_VALUE);
      HBox.setHgrow(label, Priority.ALWAYS);
      HBox row =
          new HBox(
              10,
              label,
              link(
                  AppWords.of("selection-buttons.select"),
                  () -> session.selecting().recall(name, Pick.Join.REPLACE)),
              link(
                  AppWords.of("selection-buttons.add"),
                  () -> session.selecting().recall(name, Pick.Join.ADD)),
              link(
                  AppWords.of("selection-buttons.forget"),
                  () -> {
                    session.selecting().forget(name);
                    fillNames();
                  }));
      row.setAlignment(Pos.CENTER_LEFT);
      names.getChildren().add(row);
    }
  }

  private static Button link(String words, Runnable run) {
    Button b = new Button(words);
    b.getStyleClass().setAll("link");
    b.setOnAction(e -> run.run());
    return b;
  }
}
