package holotome.app.window;

import holotome.app.model.Settings;
import holotome.app.words.AppWords;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** All actions with their keys; a click on a key waits for another one. */
final class KeysPage extends Page {
  private final Actions actions;
  private final Settings settings;
  private final VBox list = new VBox(1);
  private final Label said = new Label();
  private Actions.Action waiting;

  KeysPage(Actions actions, Settings settings, Runnable closed) {
    super("keys", AppWords.of("keys-page.all-keys"), closed);
    this.actions = actions;
    this.settings = settings;
    said.setWrapText(true);
    said.setId("keys-said");
    said.getStyleClass().addAll("soft", "small");
    said.setMinHeight(Region.USE_PREF_SIZE);
    ScrollPane scroll = new ScrollPane(list);
    scroll.setFitToWidth(true);
    scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    LinkButton usual = new LinkButton("keys-usual", AppWords.of("keys-page.the-usual-keys-again"));
    usual.setOnAction(
        e -> {
          actions.choose(java.util.Map.of());
          keep(AppWords.of("keys-page.all-keys-are-the-usual"));
        });
    offer(usual);
    hold(said, scroll);
  }

  @Override
  void open() {
    waiting = null;
    said.setText(AppWords.of("keys-page.click-on-a-key-to"));
    super.open();
  }

  @Override
  void fill() {
    list.getChildren().clear();
    for (Actions.Action a : actions.all()) {
      if (actions.keyText(a).isEmpty()
          && a.usual() == null
          && !settings.keys().containsKey(a.id())) {
        continue;
      }
      Label words = new Label(a.words());
      Region gap = new Region();
      HBox.setHgrow(gap, Priority.ALWAYS);
      boolean fixed = a.usual() == null;
      Button key =
          new Button(
              actions.keyText(a).isEmpty() ? AppWords.of("keys-page.none") : actions.keyText(a));
      key.setId("key-" + a.id().replace('.', '-'));
      key.getStyleClass().setAll("key-button");
      key.setDisable(fixed);
      key.setAccessibleText(AppWords.of("keys-page.key-for", a.words()));
      key.setOnAction(
          e -> {
            waiting = a;
            key.setText(AppWords.of("keys-page.press-a-key"));
            said.setText(AppWords.of("keys-page.press-the-new-key-for", a.words()));
          });
      HBox row = new HBox(8, words, gap, key);
      row.setAlignment(Pos.CENTER_LEFT);
      list.getChildren().add(row);
    }
  }

  private void keep(String what) {
    settings.setKeys(actions.chosen());
    settings.keep();
    said.setText(what);
    fill();
  }

  /** Takes every key while the page is up. */
  boolean takes(KeyCombo key, KeyEvent e) {
    if (waiting == null) {
      if (key.code() == KeyCode.ESCAPE) {
        close();
        e.consume();
      }
      return true;
    }
    Actions.Action a = waiting;
    waiting = null;
    e.consume();
    boolean reserved = key.code() == KeyCode.ENTER || key.digit() >= 0;
    if (key.code() == KeyCode.ESCAPE) {
      said.setText(AppWords.of("keys-page.left-as-it-was"));
      fill();
    } else if (reserved) {
      said.setText(AppWords.of("keys-page.has-a-fixed-use-take", key.words()));
      fill();
    } else {
      Actions.Action before = actions.choose(a, key);
      keep(
          before == null
              ? AppWords.of("keys-page.is-now", a.words(), key.words())
              : AppWords.of("keys-page.is-now-has-no-key", a.words(), key.words(), before.words()));
    }
    return true;
  }
}
