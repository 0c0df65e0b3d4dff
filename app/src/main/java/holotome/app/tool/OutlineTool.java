package holotome.app.tool;

import holotome.app.model.Selected;
import holotome.app.model.Session;
import holotome.core.log.History;
import holotome.core.select.Pick;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;

/** Selects within an outline set corner by corner, which can be moved afterwards. */
public final class OutlineTool extends SelectTool {
  private final OutlineEditor editor = new OutlineEditor(false);
  private Selected before;
  private History drawnOn;
  private Pick.Join join = Pick.Join.REPLACE;

  public OutlineTool(Session session) {
    super(session);
  }

  @Override
  public String title() {
    return "Outline";
  }

  @Override
  public String hint() {
    return "Click corner by corner, and the first again (or twice) to close; drag corners to change"
        + " it, Backspace takes one back."
        + JOINS;
  }

  @Override
  protected List<Node> ownFields() {
    if (session.history() != drawnOn) {
      // Applied, undone or another scan: the outline has done its work.
      editor.clear();
    }
    drawnOn = session.history();
    return List.of();
  }

  @Override
  protected String todo() {
    return editor.isEmpty() ? "Click the corners of an outline" : "Click the first corner to close";
  }

  @Override
  public void end(ViewPort view) {
    super.end(view);
    editor.clear();
  }

  @Override
  public void drop(ViewPort view) {
    editor.clear();
    super.drop(view);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    editor.pressed(view, e);
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    editor.dragged(view, e);
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    boolean was = editor.isClosed();
    if (editor.released(view, e)) {
      if (!was) {
        before = session.selected();
        join = join(e);
      }
      selectWithin(view, editor.outline(), before, join);
    } else {
      edited();
    }
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    editor.moved(view, e);
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    return editor.key(view, e) || super.key(view, e);
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    editor.draw(view, g);
  }
}
