package holotome.app.tool;

import holotome.core.unwrap.ChartEdit;
import holotome.core.words.Language;
import java.util.Arrays;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/** What the left button holds in the flat pane, from the press on, and what comes of it. */
final class ArrangeDrag {
  private static final Color PAPER = Color.web("#F6F4EF");

  /** Charts with longer outlines are drawn as their box while they are moved. */
  private static final int MANY = 20_000;

  /** A turn comes to rest at multiples of so many degrees when it is so near to one. */
  private static final double REST = 15;

  private static final double NEAR = 3;
  private static final double LEAST = 0.01;

  /** Pixels before a press is a drag. */
  private static final double STILL = 3;

  private enum Mode {
    PENDING,
    REST,
    MOVE,
    SCALE,
    TURN,
    POINTS,
    FRAME
  }

  private final double x;
  private final double y;
  private final double[] start;
  private Mode mode = Mode.PENDING;
  private ChartFrame frame;
  private boolean isAdding;
  private boolean isFree;

  /** Where the pointer went: u, v in turn. */
  private double[] path;

  private int length;
  private double[] at;
  private double[] of;
  private double[] now;
  private CatchLines lines;
  private double near;
  private boolean isReleased;
  private boolean isFar;
  private double[] move = {0, 0};
  private double turn;
  private double times = 1;

  /**
   * @param start u, v
   */
  ArrangeDrag(double x, double y, double[] start) {
    this.x = x;
    this.y = y;
    this.start = start;
    now = start;
    path = start.clone();
    length = 2;
  }

  double x() {
    return x;
  }

  double y() {
    return y;
  }

  void hold(ChartFrame box, ChartFrame.Grip grip) {
    frame = box;
    mode = grip == ChartFrame.Grip.RING ? Mode.TURN : Mode.SCALE;
  }

  void move(ChartFrame box) {
    frame = box;
    mode = Mode.MOVE;
  }

  /**
   * @param places texture points, u v each
   * @param ofChart a point of their chart on the surface
   */
  void points(double[] places, double[] ofChart) {
    at = places;
    of = ofChart;
    mode = Mode.POINTS;
  }

  /**
   * Draws a frame that charts are chosen by.
   *
   * @param free whether it is the line that the pointer draws
   */
  void frame(boolean adds, boolean free) {
    isAdding = adds;
    isFree = free;
    mode = Mode.FRAME;
  }

  /** Nothing is held: what was pressed on was let go of by that. */
  void rest() {
    mode = Mode.REST;
  }

  /** Whether it is not known yet what was pressed on. */
  boolean isPending() {
    return mode == Mode.PENDING;
  }

  /** The button was let go. */
  void release(double endX, double endY) {
    isReleased = true;
    isFar = Math.hypot(endX - x, endY - y) > STILL;
  }

  boolean isReleased() {
    return isReleased;
  }

  /** Whether the pointer went farther than a click does. */
  boolean isFar() {
    return isFar;
  }

  boolean isFraming() {
    return mode == Mode.FRAME;
  }

  boolean isAdding() {
    return isAdding;
  }

  boolean isHolding() {
    return mode != Mode.PENDING && mode != Mode.REST && mode != Mode.FRAME;
  }

  boolean isOfPoints() {
    return mode == Mode.POINTS;
  }

  double[] of() {
    return of;
  }

  /** The frame drawn, a closed line: u, v in turn. */
  double[] framed() {
    double[] a = start;
    double[] b = now;
    return isFree
        ? Arrays.copyOf(path, length)
        : new double[] {a[0], a[1], b[0], a[1], b[0], b[1], a[0], b[1]};
  }

  /**
   * The pointer went on.
   *
   * @param to u, v
   * @param catching lines that a box is caught by, null for none
   * @param fromNear how near that is, in the texture
   */
  void to(double[] to, CatchLines catching, double fromNear) {
    now = to;
    path = length == path.length ? Arrays.copyOf(path, 2 * length) : path;
    path[length++] = to[0];
    path[length++] = to[1];
    lines = catching;
    near = fromNear;
    again();
  }

  /** The same place, once it is known what is held. */
  void again() {
    double[] to = now;
    if (mode == Mode.MOVE || mode == Mode.POINTS) {
      move = new double[] {to[0] - start[0], to[1] - start[1]};
      if (mode == Mode.MOVE && lines != null) {
        snap();
      }
    } else if (mode == Mode.TURN) {
      double[] m = frame.middle();
      double degrees =
          Math.toDegrees(
              Math.atan2(to[1] - m[1], to[0] - m[0])
                  - Math.atan2(start[1] - m[1], start[0] - m[0]));
      degrees -= 360 * Math.rint(degrees / 360);
      double rest = REST * Math.rint(degrees / REST);
      turn = lines != null && Math.abs(degrees - rest) < NEAR ? rest : degrees;
    } else if (mode == Mode.SCALE) {
      double[] m = frame.middle();
      double was = Math.hypot(start[0] - m[0], start[1] - m[1]);
      times = was > 0 ? Math.max(LEAST, Math.hypot(to[0] - m[0], to[1] - m[1]) / was) : 1;
    }
  }

  private void snap() {
    double[] low = {frame.low()[0] + move[0], frame.low()[1] + move[1]};
    double[] high = {frame.high()[0] + move[0], frame.high()[1] + move[1]};
    for (int k = 0; k < 2; k++) {
      move[k] += frame.snap(k, move[k], lines.of(k, low, high), near);
    }
  }

  /**
   * What comes of it.
   *
   * @param charts points of the charts that it is done to
   */
  ChartEdit edit(double[] charts) {
    return new ChartEdit(
        charts, at, mode == Mode.MOVE || mode == Mode.POINTS ? move : null, turn, times);
  }

  /** A point as it comes to lie. */
  private double[] placed(double u, double v) {
    double[] m = frame.middle();
    double c = times * Math.cos(Math.toRadians(turn));
    double s = times * Math.sin(Math.toRadians(turn));
    double du = u - m[0];
    double dv = v - m[1];
    return new double[] {m[0] + c * du - s * dv + move[0], m[1] + s * du + c * dv + move[1]};
  }

  /**
   * @param outlines of the charts that are chosen, (u, v, 0) each end
   */
  void draw(FlatPort pane, GraphicsContext g, double[] outlines) {
    if (mode == Mode.FRAME) {
      polygon(pane, g, framed());
    } else if (mode == Mode.POINTS) {
      for (int i = 0; i < at.length; i += 2) {
        Marks.dot(g, pane.project(at[i] + move[0], at[i + 1] + move[1]));
      }
    } else if (isHolding()) {
      if (outlines.length / 6 > MANY) {
        box(pane, g);
      } else {
        edges(pane, g, outlines);
      }
      Marks.slip(g, pane.project(now[0], now[1]), figure());
    }
  }

  private String figure() {
    return switch (mode) {
      case TURN -> Language.format("%.1f°", turn);
      case SCALE -> Language.figure(times) + " ×";
      default -> Language.format("%.3f  %.3f", move[0], move[1]);
    };
  }

  private void edges(FlatPort pane, GraphicsContext g, double[] outlines) {
    for (int pass = 0; pass < 2; pass++) {
      g.setStroke(pass == 0 ? PAPER : Marks.VERDIGRIS);
      g.setLineWidth(pass == 0 ? 3.6 : 1.6);
      for (int i = 0; i < outlines.length; i += 6) {
        double[] a = placed(outlines[i], outlines[i + 1]);
        double[] b = placed(outlines[i + 3], outlines[i + 4]);
        double[] p = pane.project(a[0], a[1]);
        double[] q = pane.project(b[0], b[1]);
        g.strokeLine(p[0], p[1], q[0], q[1]);
      }
    }
  }

  private void box(FlatPort pane, GraphicsContext g) {
    double[] a = placed(frame.low()[0], frame.low()[1]);
    double[] b = placed(frame.high()[0], frame.low()[1]);
    double[] c = placed(frame.high()[0], frame.high()[1]);
    double[] d = placed(frame.low()[0], frame.high()[1]);
    polygon(pane, g, a[0], a[1], b[0], b[1], c[0], c[1], d[0], d[1]);
  }

  /** The box around what is chosen, with its handles. */
  static void handles(FlatPort pane, GraphicsContext g, ChartFrame f) {
    polygon(
        pane,
        g,
        f.low()[0],
        f.low()[1],
        f.high()[0],
        f.low()[1],
        f.high()[0],
        f.high()[1],
        f.low()[0],
        f.high()[1]);
    double[] h = f.handles(pane);
    for (int i = 0; i < 8; i += 2) {
      g.setFill(PAPER);
      g.fillRect(h[i] - 4, h[i + 1] - 4, 8, 8);
      g.setStroke(Marks.VERDIGRIS);
      g.setLineWidth(1.6);
      g.strokeRect(h[i] - 4, h[i + 1] - 4, 8, 8);
    }
    Marks.ring(g, new double[] {h[8], h[9]});
  }

  /** A closed line through points of the texture. */
  private static void polygon(FlatPort pane, GraphicsContext g, double... uv) {
    double[] xs = new double[uv.length / 2];
    double[] ys = new double[xs.length];
    for (int i = 0; i < xs.length; i++) {
      double[] p = pane.project(uv[2 * i], uv[2 * i + 1]);
      xs[i] = p[0];
      ys[i] = p[1];
    }
    g.setStroke(PAPER);
    g.setLineWidth(3);
    g.strokePolygon(xs, ys, xs.length);
    g.setStroke(Marks.VERDIGRIS);
    g.setLineWidth(1.2);
    g.strokePolygon(xs, ys, xs.length);
  }
}
