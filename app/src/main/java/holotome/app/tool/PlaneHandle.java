package holotome.app.tool;

import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/**
 * A plane in the view: a sheet with an arrow to what is kept, a handle to shift it and two to tilt
 * it.
 */
final class PlaneHandle {
  /** What is being dragged. */
  private enum Held {
    NOTHING,
    SHIFT,
    TILT_U,
    TILT_W
  }

  /** Half the sheet's side, and the arrow's length, as shares of the work's diagonal. */
  private static final double ARM = 0.26;

  private static final double ARROW = 0.16;

  /** Where the plane goes through and its unit normal; null while it is not placed. */
  private double[] point;

  private double[] normal;

  /** The plane's own directions, kept while it is tilted so that the handles stay in hand. */
  private double[] u;

  private double[] w;
  private Held held = Held.NOTHING;
  private double[] start;
  private double[] startPoint;
  private double[] startNormal;
  private double[] startU;
  private double[] startW;

  boolean isPlaced() {
    return point != null;
  }

  double[] point() {
    return point;
  }

  double[] normal() {
    return normal;
  }

  void remove() {
    point = null;
    held = Held.NOTHING;
  }

  void place(double[] at, double[] direction) {
    point = at;
    normal = Vec.unit(direction);
    u = Vec.perpendicular(normal);
    w = Vec.cross(normal, u);
  }

  double offset() {
    return Vec.dot(point, normal);
  }

  void setOffset(double to) {
    point = Vec.add(point, Vec.mul(normal, to - offset()));
  }

  /** The sheet's middle: a centre put onto the plane. */
  private double[] middle(double[] centre) {
    return Vec.add(centre, Vec.mul(normal, offset() - Vec.dot(centre, normal)));
  }

  /**
   * @param keep the direction of what is kept
   * @param centre what the sheet is centred on
   * @param size the diagonal of the work
   */
  void pressed(ViewPort view, double x, double y, double[] keep, double[] centre, double size) {
    double[] c = middle(centre);
    held =
        Handles.hit(view.project(c), x, y)
                || Handles.hit(view.project(Vec.add(c, Vec.mul(keep, ARROW * size))), x, y)
            ? Held.SHIFT
            : Handles.hit(view.project(Vec.add(c, Vec.mul(u, ARM * size))), x, y)
                ? Held.TILT_U
                : Handles.hit(view.project(Vec.add(c, Vec.mul(w, ARM * size))), x, y)
                    ? Held.TILT_W
                    : Held.NOTHING;
    start = new double[] {x, y};
    startPoint = c;
    startNormal = normal;
    startU = u;
    startW = w;
  }

  boolean isHeld() {
    return held != Held.NOTHING;
  }

  /** Whether the plane was moved. */
  boolean dragged(ViewPort view, double x, double y, double size) {
    if (held == Held.NOTHING) {
      return false;
    }
    double[] arm =
        held == Held.SHIFT
            ? startPoint
            : Vec.add(startPoint, Vec.mul(held == Held.TILT_U ? startU : startW, ARM * size));
    double d = Handles.along(view, arm, startNormal, ARROW * size, x - start[0], y - start[1]);
    if (Double.isNaN(d)) {
      return false;
    }
    if (held == Held.SHIFT) {
      point = Vec.add(startPoint, Vec.mul(startNormal, d));
      return true;
    }
    double angle = Math.atan2(d, ARM * size);
    double[] axis = held == Held.TILT_U ? Vec.mul(startW, -1) : startU;
    Similarity turn = Similarity.turning(axis, angle);
    point = startPoint;
    normal = Vec.unit(turn.direction(startNormal));
    u = turn.direction(startU);
    w = turn.direction(startW);
    return true;
  }

  void released() {
    held = Held.NOTHING;
  }

  void draw(ViewPort view, GraphicsContext g, double[] keep, double[] centre, double size) {
    double[] c = middle(centre);
    double r = ARM * size;
    double[] xs = new double[4];
    double[] ys = new double[4];
    for (int i = 0; i < 4; i++) {
      double[] p =
          view.project(
              Vec.add(
                  c, Vec.add(Vec.mul(u, i == 0 || i == 3 ? -r : r), Vec.mul(w, i < 2 ? -r : r))));
      if (p == null) {
        return;
      }
      xs[i] = p[0];
      ys[i] = p[1];
    }
    g.setFill(Color.web("#6C4AB6", 0.13));
    g.fillPolygon(xs, ys, 4);
    g.setStroke(Handles.VIOLET);
    g.setLineWidth(1.2);
    g.strokePolygon(xs, ys, 4);
    double[] h = view.project(c);
    Handles.arrow(g, h, view.project(Vec.add(c, Vec.mul(keep, ARROW * size))));
    Handles.square(g, h);
    Handles.round(g, view.project(Vec.add(c, Vec.mul(u, r))));
    Handles.round(g, view.project(Vec.add(c, Vec.mul(w, r))));
  }
}
