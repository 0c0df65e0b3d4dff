package holotome.app.tool;

import holotome.app.model.Selected;
import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.select.Pick;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;

/**
 * Selects within a loop on the view: drawn in one go, or set corner by corner, which can be moved
 * afterwards. What is visible in it, or all that lies behind it.
 */
public final class LassoTool extends SelectTool {
  private final Line line = new Line();
  private final OutlineEditor editor = new OutlineEditor(false, this::edited);
  private boolean byCorners;
  private boolean drawing;
  private Selected before;
  private History drawnOn;
  private Pick.Join join = Pick.Join.REPLACE;

  public LassoTool(Session session) {
    super(session);
  }

  @Override
  public String id() {
    return "lasso";
  }

  @Override
  public String hint() {
    String how =
        byCorners
            ? AppWords.of("lasso-tool.click-corner-by-corner-and")
            : AppWords.of("lasso-tool.draw-a-loop-in-the");
    return joining(how);
  }

  @Override
  protected List<Node> ownFields() {
    if (session.history() != drawnOn) {
      // Applied, undone or another scan: the outline has done its work.
      editor.clear();
    }
    drawnOn = session.history();
    ChoiceBox<String> how = new ChoiceBox<>();
    how.setId("field-lasso");
    how.getItems()
        .setAll(AppWords.of("lasso-tool.drawn-freely"), AppWords.of("lasso-tool.corner-by-corner"));
    how.getSelectionModel().select(byCorners ? 1 : 0);
    how.setOnAction(
        e -> {
          byCorners = how.getSelectionModel().getSelectedIndex() == 1;
          line.clear();
          editor.clear();
          edited();
        });
    return List.of(Fields.row(AppWords.of("lasso-tool.the-loop"), how));
  }

  @Override
  protected String todo() {
    return !byCorners
        ? AppWords.of("lasso-tool.draw-a-loop-to-select")
        : editor.isEmpty()
            ? AppWords.of("lasso-tool.click-the-corners-of-an")
            : AppWords.of("common.click-the-first-corner-to");
  }

  @Override
  public void end(ViewPort view) {
    super.end(view);
    line.clear();
    editor.clear();
  }

  /** Once the outline is closed the work's own undo takes the selection back. */
  @Override
  public Draft<?> draft() {
    return byCorners && !editor.isClosed() ? editor.draft() : null;
  }

  @Override
  public void drop(ViewPort view) {
    line.clear();
    editor.clear();
    drawing = false;
    super.drop(view);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    if (byCorners) {
      editor.pressed(view, e);
      return;
    }
    line.clear();
    drawing = true;
    line.add(e.getX(), e.getY());
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    if (byCorners) {
      editor.dragged(view, e);
    } else if (drawing && line.isAway(e.getX(), e.getY(), 2)) {
      line.add(e.getX(), e.getY());
      view.repaint();
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (byCorners) {
      cornerReleased(view, e);
    } else if (drawing) {
      drawing = false;
      Pick.Join how = join(e);
      double[] outline = line.outline();
      line.clear();
      view.repaint();
      if (outline.length < 6) {
        selectNothing(e, how);
      } else {
        selectWithin(view, outline, session.selected(), how);
      }
    }
  }

  private void cornerReleased(ViewPort view, MouseEvent e) {
    boolean was = editor.isClosed();
    if (!editor.released(view, e)) {
      edited();
      return;
    }
    if (!was) {
      before = session.selected();
      join = join(e);
    }
    selectWithin(view, editor.outline(), before, join);
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    if (byCorners) {
      editor.moved(view, e);
    }
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    return byCorners && editor.key(view, e) || super.key(view, e);
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (byCorners) {
      editor.draw(view, g);
    } else {
      line.draw(g, true);
    }
  }
}
