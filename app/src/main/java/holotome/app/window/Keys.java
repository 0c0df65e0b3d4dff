package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.core.log.History;
import javafx.event.EventHandler;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/** The window's keys. Letters and digits belong to a text field while one has the focus. */
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
    if (desk.finder().isVisible()) {
      return;
    }
    boolean used = e.isControlDown() ? withControl(e) : e.isAltDown() ? withAlt(e) : plain(e);
    if (used) {
      e.consume();
    }
  }

  private boolean withControl(KeyEvent e) {
    Session s = desk.session();
    switch (e.getCode()) {
      case SPACE -> desk.finder().open();
      case O -> desk.open();
      case S -> desk.save();
      case Z -> {
        if (e.isShiftDown()) {
          s.redo();
        } else {
          s.undo();
        }
      }
      default -> {
        return false;
      }
    }
    return true;
  }

  private boolean withAlt(KeyEvent e) {
    int n = digit(e.getCode());
    if (n < 1 || n > Stage.values().length) {
      return false;
    }
    desk.session().setStage(Stage.values()[n - 1]);
    return true;
  }

  private boolean plain(KeyEvent e) {
    Node focus = desk.getScene() == null ? null : desk.getScene().getFocusOwner();
    boolean typing = focus instanceof TextInputControl;
    switch (e.getCode()) {
      case ESCAPE -> {
        if (desk.session().lookBack() >= 0) {
          desk.session().lookBackAt(-1);
        } else {
          desk.sheet().drop();
        }
        desk.view().requestFocus();
        return true;
      }
      case ENTER -> {
        if (focus instanceof Button && !"apply".equals(focus.getId()) && focus.isFocusVisible()) {
          return false;
        }
        desk.sheet().apply();
        return true;
      }
      default -> {}
    }
    if (typing || !desk.session().isOpen()) {
      return false;
    }
    if (focus instanceof ChoiceBox<?>
        && (e.getCode().isArrowKey() || e.getCode() == KeyCode.SPACE)) {
      return false;
    }
    if (desk.sheet().current() != null && desk.sheet().current().key(desk.view(), e)) {
      return true;
    }
    return view(e, focus);
  }

  private boolean view(KeyEvent e, Node focus) {
    ViewPane v = desk.view();
    boolean inView = focus == null || focus == v;
    int n = digit(e.getCode());
    if (n >= 0) {
      desk.sheet().takeNumber(n == 0 ? 10 : n);
      return true;
    }
    switch (e.getCode()) {
      case V -> v.setThrough(!v.isThrough());
      case L -> v.nextLook();
      case O -> v.switchProjection();
      case C -> v.switchClipping();
      case M -> v.switchSized();
      case P -> desk.panes().next();
      case B -> {
        v.settings().nextBackground();
        desk.session().changed();
      }
      case HOME -> v.showAll();
      case END -> v.showSelection();
      case SPACE -> {
        if (!inView) {
          return false;
        }
        int last = desk.session().history().size();
        if (last > 0) {
          History of = desk.session().history();
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
      case LEFT, RIGHT, UP, DOWN -> {
        if (!inView) {
          return false;
        }
        int dx = e.getCode() == KeyCode.RIGHT ? 1 : e.getCode() == KeyCode.LEFT ? -1 : 0;
        int dy = e.getCode() == KeyCode.UP ? 1 : e.getCode() == KeyCode.DOWN ? -1 : 0;
        if (e.isShiftDown()) {
          v.swing(dx, dy);
        } else {
          v.turnBy(dx * NUDGE, dy * NUDGE);
        }
      }
      default -> {
        return false;
      }
    }
    return true;
  }

  private void released(KeyEvent e) {
    if (e.getCode() == KeyCode.SPACE) {
      holding = false;
      desk.view().peek(null);
    }
  }

  /** The digit of a key of the main row; -1 for other keys. */
  private static int digit(KeyCode c) {
    int n = c.ordinal() - KeyCode.DIGIT0.ordinal();
    return n >= 0 && n <= 9 ? n : -1;
  }
}
