package holotome.app.tool;

import holotome.view.camera.Camera;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;

/**
 * An outline being made over the view: corner by corner with clicks, or drawn in one go where that
 * is allowed. It is closed by a click on its first corner or a double click; its corners can then
 * be dragged. It belongs to the camera it was made with.
 */
final class OutlineEditor {
  private static final double REACH = 8;

  private final boolean freehand;
  private final Line line = new Line();
  private Camera camera;
  private boolean closed;
  private int held = -1;
  private boolean drawn;
  private double[] pointer;

  OutlineEditor(boolean freehand) {
    this.freehand = freehand;
  }

  void clear() {
    line.clear();
    closed = false;
    held = -1;
    drawn = false;
    pointer = null;
  }

  boolean isClosed() {
    return closed;
  }

  boolean isEmpty() {
    return line.corners() == 0;
  }

  /** Whether the view has not turned since the outline was begun. */
  boolean fits(ViewPort view) {
    return camera != null && camera.equals(view.camera());
  }

  double[] outline() {
    return line.outline();
  }

  void pressed(ViewPort view, MouseEvent e) {
    if (!isEmpty() && !fits(view)) {
      clear();
    }
    camera = view.camera();
    held = line.near(e.getX(), e.getY(), REACH);
    drawn = false;
    if (closed && held < 0) {
      clear();
      camera = view.camera();
    }
    if (!closed && held < 0) {
      line.add(e.getX(), e.getY());
    }
    view.repaint();
  }

  void dragged(ViewPort view, MouseEvent e) {
    if (held >= 0 && (closed || held > 0)) {
      line.move(held, e.getX(), e.getY());
    } else if (!closed && freehand && line.isAway(e.getX(), e.getY(), 3)) {
      line.add(e.getX(), e.getY());
      drawn = true;
    } else if (!closed && !freehand && held < 0) {
      line.move(line.corners() - 1, e.getX(), e.getY());
    }
    view.repaint();
  }

  /** Whether the outline is closed and new, or was changed. */
  boolean released(ViewPort view, MouseEvent e) {
    boolean was = closed;
    int corner = held;
    held = -1;
    if (was) {
      return corner >= 0;
    }
    boolean onFirst = corner == 0 && line.corners() >= 3;
    int last = line.corners() - 1;
    // Two quick clicks in different places are two corners.
    boolean twice = e.getClickCount() >= 2 && last >= 2 && corner == last;
    closed = (onFirst || twice || drawn) && line.corners() >= 3;
    view.repaint();
    return closed;
  }

  void moved(ViewPort view, MouseEvent e) {
    pointer = new double[] {e.getX(), e.getY()};
    if (!closed && !isEmpty()) {
      view.repaint();
    }
  }

  /** Backspace takes the last corner back. */
  boolean key(ViewPort view, KeyEvent e) {
    if (e.getCode() != KeyCode.BACK_SPACE || isEmpty()) {
      return false;
    }
    closed = false;
    line.removeLast();
    view.repaint();
    return true;
  }

  void draw(ViewPort view, GraphicsContext g) {
    if (!fits(view)) {
      return;
    }
    line.draw(g, closed);
    if (!drawn || !closed) {
      line.drawCorners(g);
    }
    if (!closed && pointer != null && line.corners() > 0 && held < 0) {
      int last = line.corners() - 1;
      g.setLineDashes(4, 4);
      g.strokeLine(line.x(last), line.y(last), pointer[0], pointer[1]);
      g.setLineDashes();
    }
  }
}
