package holotome.app.window;

import holotome.app.pane.SpacePane;
import holotome.core.log.History;
import javafx.event.EventHandler;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/**
 * The window's keys, as the {@link Actions} say them. A text field that has the focus owns its
 * letters, Enter, Esc and undo; Enter and Esc lead back to the view.
 */
final class Keys {
  private static final double NUDGE = Math.toRadians(5);

  private final Desk desk;
  private boolean holding;

  private final EventHandler<KeyEvent> pressed = this::pressed;
  private final EventHandler<KeyEvent> released = this::released;

  Keys(Desk desk) {
    this.desk = desk;
  }

  /**
   * On the scene, not on the desk: where what had the focus is gone from the window (a finding's
   * button, once it is mended) keys reach the scene alone.
   */
  void install() {
    desk.sceneProperty()
        .addListener(
            (o, before, now) -> {
              if (before != null) {
                before.removeEventFilter(KeyEvent.KEY_PRESSED, pressed);
                before.removeEventFilter(KeyEvent.KEY_RELEASED, released);
              }
              if (now != null) {
                now.addEventFilter(KeyEvent.KEY_PRESSED, pressed);
                now.addEventFilter(KeyEvent.KEY_RELEASED, released);
              }
            });
  }

  private void pressed(KeyEvent e) {
    KeyCombo key = KeyCombo.of(e);
    if (key == null || desk.overlayTakesKeys(key, e)) {
      return;
    }
    Node focus = desk.getScene() == null ? null : desk.getScene().getFocusOwner();
    boolean used = focus instanceof TextInputControl t ? typing(key, t) : act(key, e, focus);
    if (used) {
      e.consume();
    }
  }

  /** While typing: only what a field has no use for. */
  private boolean typing(KeyCombo key, TextInputControl field) {
    if (!key.control() && !key.alt()) {
      boolean enter = key.code() == KeyCode.ENTER;
      boolean leaves = enter && !takesEnter(field) || key.code() == KeyCode.ESCAPE;
      if (leaves) {
        desk.view().requestFocus();
      }
      return leaves;
    }
    if (key.control() && "ACVXYZ".contains(key.code().getName())) {
      return false;
    }
    return run(key);
  }

  private static boolean takesEnter(TextInputControl field) {
    return field instanceof TextField t && t.getOnAction() != null;
  }

  private boolean act(KeyCombo key, KeyEvent e, Node focus) {
    if (key.code() == KeyCode.ESCAPE && !key.control() && !key.alt()) {
      escape();
      return true;
    }
    if (key.code() == KeyCode.ENTER && !key.control() && !key.alt()) {
      if (focus == desk.tape() && focus.isFocusVisible() && desk.tape().reopenShown()) {
        return true;
      }
      if (focus instanceof Button && !"apply".equals(focus.getId()) && focus.isFocusVisible()) {
        return false;
      }
      if (desk.sheet().current() == null || !desk.sheet().current().enter(desk.view())) {
        desk.sheet().apply();
      }
      return true;
    }
    boolean held = key.control() || key.alt();
    if (!held && !desk.session().isOpen()) {
      return false;
    }
    if (!held
        && focus instanceof ChoiceBox<?>
        && (key.code().isArrowKey() || key.code() == KeyCode.SPACE)) {
      return false;
    }
    if (!held && desk.ownsArrows(focus) && key.code().isArrowKey()) {
      return false;
    }
    if (!held && desk.sheet().current() != null && desk.sheet().current().key(desk.view(), e)) {
      return true;
    }
    if (key.digit() >= 0) {
      desk.sheet().takeNumber(key.digit() == 0 ? 10 : key.digit());
      return true;
    }
    return run(key) || view(key, focus);
  }

  private boolean run(KeyCombo key) {
    Actions.Action a = desk.actions().by(key);
    if (a == null) {
      return false;
    }
    if (a.enabled().getAsBoolean()) {
      a.run().run();
    }
    return true;
  }

  private void escape() {
    if (desk.session().lookBack() >= 0) {
      desk.session().lookBackAt(-1);
    } else if (!desk.session().charts().drop()) {
      desk.sheet().drop();
    }
    desk.view().requestFocus();
  }

  /** What is held down or turns by steps: the view's alone. */
  private boolean view(KeyCombo key, Node focus) {
    SpacePane v = desk.view();
    boolean inView = focus == null || focus == v;
    if (!inView || key.control() || key.alt()) {
      return false;
    }
    switch (key.code()) {
      case SPACE -> peek(v);
      case LEFT, RIGHT, UP, DOWN -> {
        int dx = key.code() == KeyCode.RIGHT ? 1 : key.code() == KeyCode.LEFT ? -1 : 0;
        int dy = key.code() == KeyCode.UP ? 1 : key.code() == KeyCode.DOWN ? -1 : 0;
        if (key.shift()) {
          v.navigation().swing(dx, dy);
        } else {
          v.navigation().turnBy(dx * NUDGE, dy * NUDGE);
        }
      }
      default -> {
        return false;
      }
    }
    return true;
  }

  /** Holds the state before the last entry up for as long as the key is down. */
  private void peek(SpacePane v) {
    History of = desk.session().history();
    int last = of.size();
    if (last > 0) {
      holding = true;
      desk.session()
          .jobs()
          .fetch(
              () -> of.stateAfter(last - 1),
              state -> {
                if (holding) {
                  v.peek(state);
                }
              });
    }
  }

  private void released(KeyEvent e) {
    if (e.getCode() == KeyCode.SPACE) {
      holding = false;
      desk.view().peek(null);
    }
  }
}
