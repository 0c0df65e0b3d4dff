package holotome.app.tool;

import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/** A tool that has something to do with the left button in the flat pane. */
public interface FlatTool {
  /** Whether it makes what was done with it last: a press meanwhile waits for that. */
  boolean isMaking();

  void flatPressed(FlatPort pane, MouseEvent e);

  void flatDragged(FlatPort pane, MouseEvent e);

  void flatReleased(FlatPort pane, MouseEvent e);

  /** Draws over the flat pane. */
  void drawFlat(FlatPort pane, GraphicsContext g);
}
