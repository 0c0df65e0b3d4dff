package holotome.app.tool;

import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/**
 * What is drawn from a press to the release: pixels, and the points of the surface that they turn
 * out to be, later. Where the surface jumps away under the pointer another line begins.
 */
final class TouchStroke {
  /** Pixels between points at least, and of an outline. */
  private static final double STEP = 2;

  private static final double OUTLINE_STEP = 6;

  /** Between points the brush goes on so much of its radius at least. */
  private static final double OF_RADIUS = 0.25;

  /** So much farther on the surface than on the screen is a jump, besides both radii. */
  private static final double JUMP = 4;

  /** Pixels before a press is a drag. */
  private static final double STILL = 4;

  private final TouchPane pane;
  private final double radius;
  private final boolean isArea;
  private final Consumer<double[]> begun;
  private final Consumer<double[]> went;
  private final Line line = new Line();
  private final List<List<double[]>> lines = new ArrayList<>();
  private int asked;
  private int answered;
  private double[] last;
  private double lastX;
  private double lastY;
  private Runnable done;

  /**
   * @param begun told of every point that a line begins with
   * @param went told of every other
   */
  TouchStroke(
      TouchPane pane,
      double radius,
      boolean isArea,
      Consumer<double[]> begun,
      Consumer<double[]> went) {
    this.pane = pane;
    this.radius = radius;
    this.isArea = isArea;
    this.begun = begun;
    this.went = went;
  }

  boolean isOn(TouchPane other) {
    return pane.isFlat() == other.isFlat();
  }

  boolean isFlat() {
    return pane.isFlat();
  }

  boolean isArea() {
    return isArea;
  }

  Line line() {
    return line;
  }

  /** Goes on to a pixel, if that is far enough. */
  void to(double x, double y) {
    double step = isArea ? OUTLINE_STEP : Math.max(STEP, OF_RADIUS * pane.pixels(radius));
    if (line.isAway(x, y, step)) {
      ask(x, y);
    }
  }

  private void ask(double x, double y) {
    line.add(x, y);
    asked++;
    pane.pick(
        x,
        y,
        (p, uv) -> {
          answered++;
          if (p != null) {
            point(p, x, y);
          }
          finish();
        });
  }

  private void point(double[] p, double x, double y) {
    boolean jumps = last == null || !isArea && isJump(p, x, y);
    if (jumps) {
      lines.add(new ArrayList<>());
    }
    lines.getLast().add(p);
    last = p;
    lastX = x;
    lastY = y;
    if (isArea) {
      return;
    }
    if (jumps) {
      begun.accept(p);
    } else {
      went.accept(p);
    }
  }

  private boolean isJump(double[] p, double x, double y) {
    double far = pane.pixels(Vec.distance(p, last));
    return far > JUMP * Math.hypot(x - lastX, y - lastY) + 2 * pane.pixels(radius);
  }

  /** Ends at a pixel; what is to follow is run once all points are known. */
  void end(double x, double y, Runnable then) {
    if (line.isAway(x, y, 1)) {
      ask(x, y);
    }
    done = then;
    finish();
  }

  private void finish() {
    if (done != null && answered == asked) {
      Runnable then = done;
      done = null;
      then.run();
    }
  }

  /** The first point of all; null until it is known. */
  double[] first() {
    return lines.isEmpty() ? null : lines.getFirst().getFirst();
  }

  /** The points of each line. */
  List<double[][]> lines() {
    return lines.stream().map(l -> l.toArray(double[][]::new)).toList();
  }

  /** All points. */
  double[][] outline() {
    return lines.stream().flatMap(List::stream).toArray(double[][]::new);
  }

  /** The first point and the last; null where there are none. */
  double[][] ends() {
    return last == null ? null : new double[][] {first(), last};
  }

  /** Whether it led away from where it began. */
  boolean isFar() {
    int n = line.corners();
    return n > 1 && Math.hypot(line.x(n - 1) - line.x(0), line.y(n - 1) - line.y(0)) > STILL;
  }
}
