package holotome.app.tool;

import holotome.view.camera.Camera;
import java.util.Arrays;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;

/**
 * An outline being made over the view: corner by corner with clicks, or drawn in one go where that
 * is allowed. It is closed by a click on its first corner or a double click; its corners can then
 * be dragged. It belongs to the camera it was made with. A draft: each corner set, each drag and
 * the closing are steps that can be undone.
 */
final class OutlineEditor {
  private static final double REACH = 8;

  private final boolean freehand;
  private final Draft<Shape> draft;
  private int held = -1;
  private boolean moving;
  private double[] pointer;

  /**
   * @param corners x, y in pixels
   * @param drawn whether it was drawn in one go
   */
  private record Shape(double[] corners, boolean closed, boolean drawn, Camera camera) {
    static final Shape NONE = new Shape(new double[0], false, false, null);

    Line line() {
      Line l = new Line();
      for (int i = 0; i < corners.length; i += 2) {
        l.add(corners[i], corners[i + 1]);
      }
      return l;
    }

    int count() {
      return corners.length / 2;
    }

    Shape with(Line line, boolean nowClosed, boolean nowDrawn) {
      return new Shape(line.outline(), nowClosed, nowDrawn, camera);
    }

    @Override
    public boolean equals(Object o) {
      return o instanceof Shape s
          && s.closed == closed
          && s.drawn == drawn
          && s.camera == camera
          && Arrays.equals(s.corners, corners);
    }

    @Override
    public int hashCode() {
      return Arrays.hashCode(corners);
    }
  }

  /**
   * @param restored called when a step was undone or redone
   */
  OutlineEditor(boolean freehand, Runnable restored) {
    this.freehand = freehand;
    draft = new Draft<>(Shape.NONE, s -> restored.run());
  }

  Draft<?> draft() {
    return draft;
  }

  void clear() {
    draft.clear();
    held = -1;
    moving = false;
    pointer = null;
  }

  boolean isClosed() {
    return draft.now().closed;
  }

  boolean isEmpty() {
    return draft.now().count() == 0;
  }

  /** Whether the view has not turned since the outline was begun. */
  boolean fits(ViewPort view) {
    Camera c = draft.now().camera;
    return c != null && c.equals(view.camera());
  }

  double[] outline() {
    return draft.now().corners.clone();
  }

  void pressed(ViewPort view, MouseEvent e) {
    if (!isEmpty() && !fits(view)) {
      clear();
    }
    held = draft.now().line().near(e.getX(), e.getY(), REACH);
    moving = false;
    if (isClosed() && held < 0) {
      clear();
    }
    if (!isClosed() && held < 0) {
      Line line = draft.now().line();
      line.add(e.getX(), e.getY());
      draft.set(new Shape(line.outline(), false, false, view.camera()));
    }
    view.repaint();
  }

  void dragged(ViewPort view, MouseEvent e) {
    Shape now = draft.now();
    Line line = now.line();
    if (held >= 0 && (now.closed || held > 0)) {
      line.move(held, e.getX(), e.getY());
      Shape next = now.with(line, now.closed, now.drawn);
      if (moving) {
        draft.change(next);
      } else {
        draft.set(next);
      }
      moving = true;
    } else if (!now.closed && freehand && line.isAway(e.getX(), e.getY(), 3)) {
      line.add(e.getX(), e.getY());
      draft.change(now.with(line, false, true));
    } else if (!now.closed && !freehand && held < 0 && line.corners() > 0) {
      line.move(line.corners() - 1, e.getX(), e.getY());
      draft.change(now.with(line, false, false));
    }
    view.repaint();
  }

  /** Whether the outline is closed and new, or was changed. */
  boolean released(ViewPort view, MouseEvent e) {
    Shape now = draft.now();
    int corner = held;
    held = -1;
    if (now.closed) {
      return corner >= 0;
    }
    boolean onFirst = corner == 0 && now.count() >= 3;
    int last = now.count() - 1;
    // Two quick clicks in different places are two corners.
    boolean twice = e.getClickCount() >= 2 && last >= 2 && corner == last;
    boolean closes = (onFirst || twice || now.drawn) && now.count() >= 3;
    if (closes && now.drawn) {
      // Drawn in one go: one step from the first point to the closing.
      draft.change(now.with(now.line(), true, true));
    } else if (closes) {
      draft.set(now.with(now.line(), true, false));
    }
    view.repaint();
    return closes;
  }

  void moved(ViewPort view, MouseEvent e) {
    pointer = new double[] {e.getX(), e.getY()};
    if (!isClosed() && !isEmpty()) {
      view.repaint();
    }
  }

  /** Backspace takes the last corner back. */
  boolean key(ViewPort view, KeyEvent e) {
    if (e.getCode() != KeyCode.BACK_SPACE || isEmpty()) {
      return false;
    }
    Line line = draft.now().line();
    line.removeLast();
    draft.set(draft.now().with(line, false, draft.now().drawn));
    view.repaint();
    return true;
  }

  void draw(ViewPort view, GraphicsContext g) {
    if (!fits(view)) {
      return;
    }
    Shape now = draft.now();
    Line line = now.line();
    line.draw(g, now.closed);
    if (!now.drawn || !now.closed) {
      line.drawCorners(g);
    }
    if (!now.closed && pointer != null && now.count() > 0 && held < 0) {
      int last = now.count() - 1;
      g.setLineDashes(4, 4);
      g.strokeLine(line.x(last), line.y(last), pointer[0], pointer[1]);
      g.setLineDashes();
    }
  }
}
