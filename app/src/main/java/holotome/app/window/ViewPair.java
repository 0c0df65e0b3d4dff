package holotome.app.window;

import holotome.app.model.Session;
import holotome.core.log.History;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;

/** The view, and beside it on request a second one with a linked camera. */
final class ViewPair extends HBox {
  /** What the second pane shows. */
  enum Second {
    NONE("One pane", 0),
    BEFORE("Beside it: before the last step", 0),
    SIDE("Beside it: from the right", Math.PI / 2),
    BEHIND("Beside it: from behind", Math.PI);

    private final String words;
    private final double yaw;

    Second(String words, double yaw) {
      this.words = words;
      this.yaw = yaw;
    }

    String words() {
      return words;
    }
  }

  private final Session session;
  private final ViewPane main;
  private ViewPane other;
  private Second second = Second.NONE;
  private History before;

  ViewPair(Session session, ViewPane main) {
    super(1);
    this.session = session;
    this.main = main;
    getChildren().add(main);
    HBox.setHgrow(main, Priority.ALWAYS);
  }

  Second second() {
    return second;
  }

  void next() {
    show(Second.values()[(second.ordinal() + 1) % Second.values().length]);
  }

  void show(Second what) {
    if (other != null) {
      getChildren().remove(other);
      main.unlink();
      other.shutDown();
      other = null;
    }
    second = what;
    before = null;
    if (what != Second.NONE) {
      other = main.companion(what.yaw);
      HBox.setHgrow(other, Priority.ALWAYS);
      // Both as wide, whatever either would like to be.
      main.setPrefWidth(1);
      other.setPrefWidth(1);
      getChildren().add(other);
    }
    session.changed();
  }

  /** Brings the second pane in line with the session. */
  void update() {
    if (other == null) {
      return;
    }
    History now = session.history();
    if (second == Second.BEFORE && now != null && now != before) {
      before = now;
      int last = Math.max(0, now.size() - 1);
      session
          .jobs()
          .fetch(
              () -> now.stateAfter(last),
              state -> {
                if (other != null && session.history() == now) {
                  other.peek(state);
                }
              });
    }
    other.refresh();
  }

  void shutDown() {
    if (other != null) {
      other.shutDown();
    }
  }
}
