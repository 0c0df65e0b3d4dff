package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;

/**
 * How a plane is put in its place on the view: dragged by its handles, nudged by keys, or set by
 * three picked points or a picked face.
 */
final class PlanePicker {
  /** What a click beside the handles does. */
  enum Way {
    NOTHING,
    POINTS,
    FACE
  }

  private final Session session;
  private final PlaneHandle plane = new PlaneHandle();

  /** The points picked so far. */
  private final Draft<List<double[]>> draft = new Draft<>(List.of(), this::restored);

  private final Runnable moving;
  private final Runnable moved;
  private Way way = Way.NOTHING;
  private boolean dragging;

  /**
   * @param moving called while the plane is dragged
   * @param moved called when it came to stand elsewhere
   */
  PlanePicker(Session session, Runnable moving, Runnable moved) {
    this.session = session;
    this.moving = moving;
    this.moved = moved;
  }

  PlaneHandle plane() {
    return plane;
  }

  /** Chooses what a click does; what was clicked for another way is dropped. */
  void setWay(Way next) {
    way = next;
    draft.clear();
  }

  Draft<?> draft() {
    return way == Way.POINTS ? draft : null;
  }

  private void restored(List<double[]> points) {
    plane.remove();
    if (points.size() == 3) {
      throughPoints(points);
    }
    moved.run();
  }

  Box box() {
    return session.current().frame().workBounds(session.current().current());
  }

  double size() {
    return box().diagonal();
  }

  /** What is to be clicked; null once the plane stands. */
  String missing() {
    if (plane.isPlaced()) {
      return null;
    }
    return switch (way) {
      case POINTS ->
          draft.now().isEmpty()
              ? AppWords.of("plane-picker.click-three-points-on-the")
              : AppWords.count("plane-picker.click-more-points-on-the", 3 - draft.now().size());
      case FACE -> AppWords.of("plane-picker.click-on-a-flat-place");
      case NOTHING -> AppWords.of("plane-picker.open-a-scan-to-place");
    };
  }

  void end() {
    draft.clear();
    plane.remove();
  }

  /** Drops what was clicked; whether the plane went with it. */
  boolean drop() {
    draft.clear();
    if (way == Way.NOTHING) {
      return false;
    }
    plane.remove();
    return true;
  }

  void pressed(ViewPort view, MouseEvent e, double[] keep) {
    dragging = false;
    if (plane.isPlaced()) {
      plane.pressed(view, e.getX(), e.getY(), keep, box().centre(), size());
      dragging = plane.isHeld();
    }
    if (!dragging && way != Way.NOTHING) {
      view.pickTriangle(e.getX(), e.getY(), (t, p) -> picked(view.mesh(), t, p));
    }
  }

  private void picked(Mesh mesh, int triangle, double[] p) {
    if (p == null) {
      return;
    }
    if (way == Way.FACE) {
      plane.place(p, session.current().frame().toWork().direction(Measures.cross(mesh, triangle)));
    } else {
      List<double[]> points = new ArrayList<>(draft.now());
      if (points.size() == 3) {
        points.clear();
        plane.remove();
      }
      points.add(p);
      if (points.size() < 3 || throughPoints(points)) {
        draft.set(List.copyOf(points));
      }
    }
    moved.run();
  }

  /**
   * Places the plane through three points, its front the side with more of the scan; whether they
   * are not in a line.
   */
  private boolean throughPoints(List<double[]> points) {
    double[] a = points.get(0);
    double[] n = Vec.cross(Vec.sub(points.get(1), a), Vec.sub(points.get(2), a));
    if (!(Vec.length(n) > 1e-9 * size() * size())) {
      session.fail(Failure.cannot(AppWords.of("plane-picker.the-three-points-lie-in")));
      return false;
    }
    double[] towards = Vec.sub(box().centre(), a);
    plane.place(a, Vec.dot(n, towards) < 0 ? Vec.mul(n, -1) : n);
    return true;
  }

  void dragged(ViewPort view, MouseEvent e) {
    if (dragging && plane.dragged(view, e.getX(), e.getY(), size())) {
      moving.run();
      view.repaint();
    }
  }

  void released() {
    if (dragging) {
      dragging = false;
      plane.released();
      moved.run();
    }
  }

  /** Up and down nudge the plane. */
  boolean key(ViewPort view, KeyEvent e, double nudge) {
    if (!plane.isPlaced()
        || e.isShiftDown()
        || e.getCode() != KeyCode.UP && e.getCode() != KeyCode.DOWN) {
      return false;
    }
    plane.setOffset(plane.offset() + (e.getCode() == KeyCode.UP ? nudge : -nudge));
    view.repaint();
    moved.run();
    return true;
  }

  void draw(ViewPort view, GraphicsContext g, double[] keep) {
    if (plane.isPlaced()) {
      plane.draw(view, g, keep, box().centre(), size());
    }
    for (double[] p : draft.now()) {
      Marks.ring(g, view.project(p));
    }
  }
}
