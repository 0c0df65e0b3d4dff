package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.select.Pick;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;
import javafx.scene.paint.Color;

/** Drags a rectangle over the view. */
public final class BoxTool extends SelectTool {
  private double[] from;
  private double[] to;

  public BoxTool(Session session) {
    super(session);
  }

  @Override
  public String id() {
    return "box";
  }

  @Override
  public String hint() {
    return joining(AppWords.of("box-tool.drag-a-rectangle-in-the"));
  }

  @Override
  protected String todo() {
    return AppWords.of("box-tool.drag-a-rectangle-to-select");
  }

  @Override
  public void end(ViewPort view) {
    super.end(view);
    from = null;
  }

  @Override
  public void drop(ViewPort view) {
    from = null;
    super.drop(view);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    from = new double[] {e.getX(), e.getY()};
    to = from;
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    if (from != null) {
      to = new double[] {e.getX(), e.getY()};
      view.repaint();
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (from == null) {
      return;
    }
    double[] a = from;
    double[] b = to;
    from = null;
    view.repaint();
    Pick.Join join = join(e);
    if (Math.abs(a[0] - b[0]) < 2 || Math.abs(a[1] - b[1]) < 2) {
      selectNothing(e, join);
    } else {
      double[] outline = {a[0], a[1], b[0], a[1], b[0], b[1], a[0], b[1]};
      selectWithin(view, outline, session.selected(), join);
    }
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (from == null) {
      return;
    }
    double x = Math.min(from[0], to[0]);
    double y = Math.min(from[1], to[1]);
    double w = Math.abs(from[0] - to[0]);
    double h = Math.abs(from[1] - to[1]);
    g.setFill(Color.web("#6C4AB6", 0.10));
    g.fillRect(x, y, w, h);
    g.setStroke(Color.web("#6C4AB6"));
    g.setLineWidth(1.4);
    g.strokeRect(x, y, w, h);
  }
}
