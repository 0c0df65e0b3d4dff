package holotome.app.tool;

import java.util.Arrays;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.shape.StrokeLineCap;
import javafx.scene.shape.StrokeLineJoin;

/** A line being drawn over the view: x, y of its corners in pixels. */
final class Line {
  private static final Color VIOLET = Color.web("#6C4AB6");

  private double[] xy = new double[256];
  private int length;

  void clear() {
    length = 0;
  }

  void add(double x, double y) {
    if (length + 2 > xy.length) {
      xy = Arrays.copyOf(xy, 2 * length);
    }
    xy[length++] = x;
    xy[length++] = y;
  }

  void removeLast() {
    length = Math.max(0, length - 2);
  }

  int corners() {
    return length / 2;
  }

  double x(int i) {
    return xy[2 * i];
  }

  double y(int i) {
    return xy[2 * i + 1];
  }

  void move(int i, double x, double y) {
    xy[2 * i] = x;
    xy[2 * i + 1] = y;
  }

  /** The corner within some pixels of a place; -1 for none. */
  int near(double x, double y, double reach) {
    for (int i = 0; i < corners(); i++) {
      if (Math.hypot(x(i) - x, y(i) - y) <= reach) {
        return i;
      }
    }
    return -1;
  }

  /** Whether a place is farther from the last corner than some pixels. */
  boolean isAway(double x, double y, double reach) {
    return length == 0 || Math.hypot(x - xy[length - 2], y - xy[length - 1]) >= reach;
  }

  double[] outline() {
    return Arrays.copyOf(xy, length);
  }

  void draw(GraphicsContext g, boolean closed) {
    if (length < 4) {
      return;
    }
    g.setLineWidth(1.4);
    g.setStroke(VIOLET);
    g.setFill(Color.web("#6C4AB6", 0.10));
    g.beginPath();
    g.moveTo(xy[0], xy[1]);
    for (int i = 2; i < length; i += 2) {
      g.lineTo(xy[i], xy[i + 1]);
    }
    if (closed) {
      g.closePath();
      g.fill();
    }
    g.stroke();
  }

  /** All within a radius of it, as a veil. */
  void drawWide(GraphicsContext g, double radius, Color veil) {
    if (length == 0) {
      return;
    }
    g.setStroke(veil);
    g.setLineWidth(2 * radius);
    g.setLineCap(StrokeLineCap.ROUND);
    g.setLineJoin(StrokeLineJoin.ROUND);
    g.beginPath();
    g.moveTo(xy[0], xy[1]);
    for (int i = 0; i < length; i += 2) {
      g.lineTo(xy[i], xy[i + 1]);
    }
    g.stroke();
    g.setLineCap(StrokeLineCap.SQUARE);
    g.setLineJoin(StrokeLineJoin.MITER);
  }

  void drawCorners(GraphicsContext g) {
    g.setLineWidth(1.4);
    g.setStroke(VIOLET);
    for (int i = 0; i < corners(); i++) {
      g.setFill(Color.web("#F6F4EF"));
      g.fillRect(x(i) - 3.5, y(i) - 3.5, 7, 7);
      g.strokeRect(x(i) - 3.5, y(i) - 3.5, 7, 7);
    }
  }
}
