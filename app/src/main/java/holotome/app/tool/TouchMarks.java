package holotome.app.tool;

import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/**
 * What is drawn over a pane while maps are touched up: the brush, what it copies, what was drawn.
 */
final class TouchMarks {
  private static final Color INK = Color.web("#1D2B33");
  private static final Color PAPER = Color.web("#F6F4EF");
  private static final Color VEIL = Color.web("#1F7A6D", 0.28);

  private boolean isFlat;
  private double x = Double.NaN;
  private double y;

  /** The pointer is here. */
  void at(boolean inFlat, double toX, double toY) {
    isFlat = inFlat;
    x = toX;
    y = toY;
  }

  /** The pointer is nowhere. */
  void away() {
    x = Double.NaN;
  }

  /**
   * @param source what is copied, in pixels; null for none
   * @param piece the outline that is dragged, in working space; null for none
   */
  void draw(
      GraphicsContext g,
      TouchPane pane,
      double radius,
      TouchForm form,
      double[] source,
      double[] piece,
      TouchStroke stroke) {
    double r = pane.pixels(radius);
    boolean isHere = stroke != null && stroke.isFlat() == pane.isFlat();
    if (isHere && stroke.isArea() && piece == null) {
      stroke.line().draw(g, true);
    } else if (isHere && !stroke.isArea() && !form.how().isLive()) {
      stroke.line().drawWide(g, r, VEIL);
    }
    if (piece != null) {
      piece(g, pane, piece, isHere ? stroke.line() : null);
    }
    if (source != null && !form.isArea()) {
      ring(g, source[0], source[1], r, true);
      Marks.ring(g, source);
    }
    if (!form.isArea() && pane.isFlat() == isFlat && !Double.isNaN(x)) {
      ring(g, x, y, r, false);
      if (form.soft() > 0 && form.soft() < 100) {
        ring(g, x, y, r * (1 - form.soft() / 100), true);
      }
    }
  }

  /** The brush alone, and where it went. */
  void brush(GraphicsContext g, TouchPane pane, double radius, TouchStroke stroke) {
    double r = pane.pixels(radius);
    if (stroke != null) {
      stroke.line().drawWide(g, r, VEIL);
    }
    if (!Double.isNaN(x)) {
      ring(g, x, y, r, false);
    }
  }

  /** A circle that is seen on light and on dark. */
  private static void ring(GraphicsContext g, double x, double y, double r, boolean isFaint) {
    g.setGlobalAlpha(isFaint ? 0.55 : 1);
    g.setLineWidth(3);
    g.setStroke(PAPER);
    g.strokeOval(x - r, y - r, 2 * r, 2 * r);
    g.setLineWidth(1.2);
    g.setStroke(INK);
    g.strokeOval(x - r, y - r, 2 * r, 2 * r);
    g.setGlobalAlpha(1);
  }

  /** The outline of a piece, where it is and where the pointer drags it. */
  private static void piece(GraphicsContext g, TouchPane pane, double[] piece, Line drag) {
    Line still = new Line();
    Line moved = new Line();
    double dx = drag == null ? 0 : drag.x(drag.corners() - 1) - drag.x(0);
    double dy = drag == null ? 0 : drag.y(drag.corners() - 1) - drag.y(0);
    for (int i = 0; i < piece.length; i += 3) {
      double[] p = pane.project(new double[] {piece[i], piece[i + 1], piece[i + 2]});
      if (p != null) {
        still.add(p[0], p[1]);
        moved.add(p[0] + dx, p[1] + dy);
      }
    }
    still.draw(g, true);
    if (drag != null) {
      moved.draw(g, true);
    }
  }
}
