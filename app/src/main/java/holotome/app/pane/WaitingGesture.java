package holotome.app.pane;

import java.util.function.Consumer;
import javafx.scene.input.MouseEvent;

/**
 * A press, and what followed it, made while a pane could not answer: done as soon as it can. Of
 * several the last one counts.
 */
final class WaitingGesture {
  private MouseEvent pressed;
  private MouseEvent dragged;
  private MouseEvent released;

  boolean isBegun() {
    return pressed != null;
  }

  void press(MouseEvent e) {
    pressed = e;
    dragged = null;
    released = null;
  }

  void drag(MouseEvent e) {
    dragged = e;
  }

  void release(MouseEvent e) {
    released = e;
  }

  /** Lets go of it. */
  void drop() {
    pressed = null;
  }

  /** Does it, as far as it has come. */
  void play(Consumer<MouseEvent> press, Consumer<MouseEvent> drag, Consumer<MouseEvent> release) {
    MouseEvent first = pressed;
    pressed = null;
    press.accept(first);
    if (dragged != null) {
      drag.accept(dragged);
    }
    if (released != null) {
      release.accept(released);
    }
  }
}
