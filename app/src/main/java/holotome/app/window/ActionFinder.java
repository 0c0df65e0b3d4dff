package holotome.app.window;

import holotome.app.words.AppWords;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Finds an action by typing part of its name; Enter does it, Esc leaves. */
final class ActionFinder extends VBox {
  private final Actions actions;
  private final TextField field = new TextField();
  private final ListView<Actions.Action> list = new ListView<>();
  private final Runnable closed;

  ActionFinder(Actions actions, Runnable closed) {
    super(8);
    this.actions = actions;
    this.closed = closed;
    setId("finder");
    getStyleClass().add("finder");
    field.getStyleClass().add("text");
    field.setId("finder-field");
    field.setPromptText(AppWords.of("action-finder.what-do-you-want-to"));
    field.textProperty().addListener((o, a, b) -> fill());
    list.setFocusTraversable(false);
    list.setCellFactory(v -> new Row(actions));
    list.setOnMouseClicked(e -> run());
    VBox.setVgrow(list, Priority.ALWAYS);
    getChildren().addAll(field, list);
    addEventFilter(KeyEvent.KEY_PRESSED, this::key);
    setVisible(false);
  }

  void open() {
    field.clear();
    fill();
    setVisible(true);
    field.requestFocus();
  }

  void close() {
    setVisible(false);
    closed.run();
  }

  private void fill() {
    list.getItems().setAll(actions.matching(field.getText()));
    list.getSelectionModel().selectFirst();
  }

  private void key(KeyEvent e) {
    int at = list.getSelectionModel().getSelectedIndex();
    if (e.getCode() == KeyCode.ESCAPE) {
      close();
    } else if (e.getCode() == KeyCode.ENTER) {
      run();
    } else if (e.getCode() == KeyCode.DOWN || e.getCode() == KeyCode.UP) {
      int next =
          Math.clamp(
              at + (e.getCode() == KeyCode.DOWN ? 1 : -1),
              0,
              Math.max(0, list.getItems().size() - 1));
      list.getSelectionModel().select(next);
      list.scrollTo(next);
    } else {
      return;
    }
    e.consume();
  }

  private void run() {
    Actions.Action a = list.getSelectionModel().getSelectedItem();
    close();
    if (a != null) {
      a.run().run();
    }
  }

  private static final class Row extends ListCell<Actions.Action> {
    private final Actions actions;

    Row(Actions actions) {
      this.actions = actions;
    }

    @Override
    protected void updateItem(Actions.Action a, boolean empty) {
      super.updateItem(a, empty);
      setText(null);
      if (empty || a == null) {
        setGraphic(null);
        return;
      }
      Label key = new Label(actions.keyText(a));
      key.getStyleClass().addAll("figure", "soft");
      Region gap = new Region();
      HBox.setHgrow(gap, Priority.ALWAYS);
      setGraphic(new HBox(8, new Label(a.words()), gap, key));
    }
  }
}
