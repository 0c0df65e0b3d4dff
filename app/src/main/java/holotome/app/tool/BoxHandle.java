package holotome.app.tool;

import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.select.Region;
import javafx.scene.canvas.GraphicsContext;

/** A box in the view with handles: one on each face, one on each corner, one above to turn it. */
final class BoxHandle {
  private static final int TURN = 14;
  private static final double LEAST = 1e-4;

  private Region region;
  private int held = -1;
  private double[] start;
  private Region startRegion;

  boolean isPlaced() {
    return region != null;
  }

  Region region() {
    return region;
  }

  void place(Region r) {
    region = r;
  }

  void remove() {
    region = null;
    held = -1;
  }

  /** The angles about X, Y and Z that lead the box's third edge along a direction. */
  static double[] anglesTo(double[] up) {
    double[] r = Similarity.turningTo(Vec.of(0, 0, 1), Vec.unit(up)).rotation();
    return new double[] {
      Math.toDegrees(Math.atan2(r[7], r[8])),
      Math.toDegrees(Math.asin(Math.clamp(-r[6], -1.0, 1.0))),
      Math.toDegrees(Math.atan2(r[3], r[0]))
    };
  }

  private static double[] axis(Region r, int k) {
    double[] a = r.axes();
    return new double[] {a[3 * k], a[3 * k + 1], a[3 * k + 2]};
  }

  /** A place in the box, each coordinate from -1 to 1. */
  private static double[] at(Region r, double x, double y, double z) {
    double[] p = r.centre();
    double[] s = {x, y, z};
    for (int k = 0; k < 3; k++) {
      p = Vec.add(p, Vec.mul(axis(r, k), s[k] * r.size()[k] / 2));
    }
    return p;
  }

  /** Handles 0 to 5 are faces (low and high along each edge), 6 to 13 corners, 14 turns. */
  private static double[] place(Region r, int handle) {
    if (handle == TURN) {
      return at(r, 0, 0, 1.35);
    }
    if (handle < 6) {
      double s = handle % 2 == 0 ? -1 : 1;
      return at(r, handle / 2 == 0 ? s : 0, handle / 2 == 1 ? s : 0, handle / 2 == 2 ? s : 0);
    }
    int c = handle - 6;
    return at(r, sign(c, 0), sign(c, 1), sign(c, 2));
  }

  private static double sign(int corner, int k) {
    return (corner >> k & 1) == 0 ? -1 : 1;
  }

  boolean pressed(ViewPort view, double x, double y) {
    held = -1;
    for (int h = 0; h <= TURN && held < 0; h++) {
      if (Handles.hit(view.project(place(region, h)), x, y)) {
        held = h;
      }
    }
    start = new double[] {x, y};
    startRegion = region;
    return held >= 0;
  }

  void dragged(ViewPort view, double x, double y) {
    double dx = x - start[0];
    double dy = y - start[1];
    Region r = startRegion;
    if (held == TURN) {
      double[] turn = r.turn().clone();
      turn[2] += 0.5 * dx;
      region = new Region(r.centre(), r.size(), turn);
      return;
    }
    double[] grow = new double[3];
    double[] towards = new double[3];
    if (held < 6) {
      int k = held / 2;
      towards[k] = held % 2 == 0 ? -1 : 1;
      double[] direction = Vec.mul(axis(r, k), towards[k]);
      double d = Handles.along(view, place(r, held), direction, 0.3 * Vec.length(r.size()), dx, dy);
      grow[k] = Double.isNaN(d) ? 0 : d;
    } else {
      corner(view, r, dx, dy, grow, towards);
    }
    double[] centre = r.centre();
    double[] size = r.size().clone();
    double least = LEAST * Vec.length(r.size());
    for (int k = 0; k < 3; k++) {
      double g = Math.max(grow[k], least - size[k]);
      size[k] += g;
      centre = Vec.add(centre, Vec.mul(axis(r, k), towards[k] * g / 2));
    }
    region = new Region(centre, size, r.turn());
  }

  /**
   * A drag of a corner has two numbers, the box three edges: of all ways to follow the pointer the
   * one with the least change.
   */
  private void corner(
      ViewPort view, Region r, double dx, double dy, double[] grow, double[] towards) {
    double[] at = place(r, held);
    double[] p = view.project(at);
    double step = 0.1 * Vec.length(r.size());
    double[][] s = new double[3][];
    for (int k = 0; k < 3; k++) {
      towards[k] = sign(held - 6, k);
      double[] q = view.project(Vec.add(at, Vec.mul(axis(r, k), towards[k] * step)));
      if (p == null || q == null) {
        return;
      }
      s[k] = new double[] {(q[0] - p[0]) / step, (q[1] - p[1]) / step};
    }
    double xx = 0;
    double xy = 0;
    double yy = 0;
    for (double[] v : s) {
      xx += v[0] * v[0];
      xy += v[0] * v[1];
      yy += v[1] * v[1];
    }
    double det = xx * yy - xy * xy;
    if (!(Math.abs(det) > 1e-12 * (xx + yy) * (xx + yy))) {
      return;
    }
    double a = (dx * yy - dy * xy) / det;
    double b = (dy * xx - dx * xy) / det;
    for (int k = 0; k < 3; k++) {
      grow[k] = s[k][0] * a + s[k][1] * b;
    }
  }

  void draw(ViewPort view, GraphicsContext g) {
    double[][] p = new double[TURN + 1][];
    for (int h = 0; h <= TURN; h++) {
      p[h] = view.project(place(region, h));
      if (p[h] == null) {
        return;
      }
    }
    g.setStroke(Handles.VIOLET);
    g.setLineWidth(1.4);
    for (int c = 0; c < 8; c++) {
      for (int k = 0; k < 3; k++) {
        if ((c >> k & 1) == 0) {
          double[] a = p[6 + c];
          double[] b = p[6 + (c | 1 << k)];
          g.strokeLine(a[0], a[1], b[0], b[1]);
        }
      }
    }
    g.setLineDashes(4, 4);
    g.strokeLine(p[5][0], p[5][1], p[TURN][0], p[TURN][1]);
    g.setLineDashes();
    for (int h = 0; h < TURN; h++) {
      Handles.square(g, p[h]);
    }
    Handles.round(g, p[TURN]);
  }
}
