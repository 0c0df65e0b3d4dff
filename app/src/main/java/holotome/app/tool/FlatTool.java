package holotome.app.tool;

import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;

/** A tool that has something to do with the left button in the flat pane. */
public interface FlatTool {
  /** Whether it makes what was done with it last: a press meanwhile waits for that. */
  boolean isMaking();

  void flatPressed(FlatPort pane, MouseEvent e);

  void flatDragged(FlatPort pane, MouseEvent e);

  void flatReleased(FlatPort pane, MouseEvent e);

  /** The pointer went on with no button down. */
  default void flatMoved(FlatPort pane, MouseEvent e) {}

  /** Whether it made use of the wheel. */
  default boolean flatScrolled(FlatPort pane, ScrollEvent e) {
    return false;
  }

  /** Draws over the flat pane. */
  void drawFlat(FlatPort pane, GraphicsContext g);
}
