package holotome.app.tool;

import holotome.app.model.Session;
import holotome.core.select.Pick;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/** Draws a loop around triangles: what is visible in it, or all that lies behind it. */
public final class LassoTool extends SelectTool {
  private final Line line = new Line();
  private boolean drawing;

  public LassoTool(Session session) {
    super(session);
  }

  @Override
  public String title() {
    return "Lasso";
  }

  @Override
  public String hint() {
    return "Draw a loop in the view; V switches between what is visible and all the way through."
        + JOINS;
  }

  @Override
  protected String todo() {
    return "Draw a loop to select";
  }

  @Override
  public void end(ViewPort view) {
    super.end(view);
    line.clear();
  }

  @Override
  public void drop(ViewPort view) {
    line.clear();
    drawing = false;
    super.drop(view);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    line.clear();
    drawing = true;
    line.add(e.getX(), e.getY());
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    if (drawing && line.isAway(e.getX(), e.getY(), 2)) {
      line.add(e.getX(), e.getY());
      view.repaint();
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (!drawing) {
      return;
    }
    drawing = false;
    Pick.Join join = join(e);
    double[] outline = line.outline();
    line.clear();
    view.repaint();
    if (outline.length < 6) {
      selectNothing(e, join);
    } else {
      selectWithin(view, outline, session.selected(), join);
    }
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    line.draw(g, true);
  }
}
