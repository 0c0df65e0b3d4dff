package holotome.app.window;

import holotome.app.pane.ShownDeviation;
import holotome.app.words.AppWords;
import holotome.core.spatial.Deviation;
import holotome.core.spatial.Spread;
import holotome.core.unit.Length;
import holotome.view.scene.Readings;
import javafx.geometry.VPos;
import javafx.scene.AccessibleRole;
import javafx.scene.Cursor;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * The scale of colours from inside to outside with the spread of the surface standing on it. Taken
 * hold of at any place it is stretched: that reading stays under the pointer.
 */
final class DeviationScale extends StackPane {
  private static final double WIDTH = 360;
  private static final double HEAP = 40;
  private static final double STRIP = 10;
  private static final double HEIGHT = HEAP + STRIP + 20;

  /** So many bars to a step of colour. */
  private static final int FINE = 5;

  /** What is held nearer to nought than this share of the width does not stretch it. */
  private static final double NEAREST = 0.06;

  private static final double KEY = 1.25;

  private final ShownDeviation deviation;
  private final Canvas canvas = new Canvas(WIDTH, HEIGHT);
  private double held = Double.NaN;

  DeviationScale(ShownDeviation deviation) {
    this.deviation = deviation;
    setId("deviation-scale");
    getStyleClass().add("scale");
    setMinSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
    setFocusTraversable(true);
    setAccessibleRole(AccessibleRole.SLIDER);
    setCursor(Cursor.H_RESIZE);
    getChildren().add(canvas);
    addEventHandler(MouseEvent.MOUSE_PRESSED, this::pressed);
    addEventHandler(MouseEvent.MOUSE_DRAGGED, this::dragged);
    addEventHandler(ScrollEvent.SCROLL, this::scrolled);
    addEventHandler(KeyEvent.KEY_PRESSED, this::key);
  }

  /** The place along the scale, -1 to 1. */
  private static double along(double x) {
    return 2 * x / WIDTH - 1;
  }

  private void pressed(MouseEvent e) {
    requestFocus();
    e.consume();
    if (e.getClickCount() == 2) {
      deviation.usualRange();
      return;
    }
    double at = along(e.getX());
    held = Math.abs(at) < NEAREST ? Double.NaN : at * deviation.range();
  }

  private void dragged(MouseEvent e) {
    e.consume();
    double at = along(e.getX());
    if (!Double.isNaN(held) && at * held > 0 && Math.abs(at) >= NEAREST) {
      deviation.setRange(held / at);
    }
  }

  private void scrolled(ScrollEvent e) {
    e.consume();
    if (e.getDeltaY() != 0) {
      deviation.setRange(deviation.range() * Math.pow(KEY, -Math.signum(e.getDeltaY())));
    }
  }

  private void key(KeyEvent e) {
    int by = e.getCode() == KeyCode.LEFT ? -1 : e.getCode() == KeyCode.RIGHT ? 1 : 0;
    if (by != 0) {
      e.consume();
      deviation.setRange(deviation.range() * Math.pow(KEY, by));
    }
  }

  /**
   * Draws the scale for what was measured; null leaves it bare.
   *
   * @param scale from base units to those of the work
   */
  void show(Deviation d, double scale, boolean trueSize) {
    GraphicsContext g = canvas.getGraphicsContext2D();
    g.clearRect(0, 0, WIDTH, HEIGHT);
    if (d == null) {
      return;
    }
    double range = deviation.range();
    String end = Length.format(scale * range, trueSize);
    setAccessibleText(AppWords.of("deviation.scale-reaches", end));
    Readings colours = deviation.scale();
    heap(g, d.forth().spread(), range, colours);
    strip(g, range, colours);
    double within = deviation.tolerance();
    if (within > 0 && within <= range) {
      mark(g, -within / range);
      mark(g, within / range);
    }
    g.setFont(Font.font("IBM Plex Mono", 11));
    g.setTextBaseline(VPos.BOTTOM);
    g.setFill(LegendInk.of(this));
    text(g, TextAlignment.LEFT, "−" + end, 0);
    text(g, TextAlignment.CENTER, "0", WIDTH / 2);
    text(g, TextAlignment.RIGHT, "+" + end, WIDTH);
    g.setFill(LegendInk.soft(this));
    g.setFont(Font.font("IBM Plex Sans", 11));
    text(g, TextAlignment.CENTER, AppWords.of("deviation.inside"), WIDTH * 0.31);
    text(g, TextAlignment.CENTER, AppWords.of("deviation.outside"), WIDTH * 0.69);
  }

  private static void text(GraphicsContext g, TextAlignment how, String words, double x) {
    g.setTextAlign(how);
    g.fillText(words, x, HEIGHT);
  }

  /** The spread, each bar as high as the root of its share, so that little is seen beside much. */
  private void heap(GraphicsContext g, Spread spread, double range, Readings colours) {
    int n = 2 * Readings.STEPS * FINE;
    double[] share = new double[n];
    double high = 0;
    for (int i = 0; i < n; i++) {
      double low = range * (2.0 * i / n - 1);
      // What lies beyond is counted to the ends.
      double from = i == 0 ? -Double.MAX_VALUE : low;
      double to = i == n - 1 ? Double.MAX_VALUE : low + 2 * range / n;
      share[i] = spread.share(from, to);
      high = Math.max(high, share[i]);
    }
    for (int i = 0; i < n && high > 0; i++) {
      double h = (HEAP - 3) * Math.sqrt(share[i] / high);
      g.setFill(colour(colours, range * (2 * (i + 0.5) / n - 1)));
      g.fillRect(WIDTH * i / n, HEAP - h, WIDTH / n - 0.5, h);
      g.setFill(LegendInk.of(this));
      g.fillRect(WIDTH * i / n, HEAP - h - 0.8, WIDTH / n - 0.5, 0.8);
    }
  }

  private void strip(GraphicsContext g, double range, Readings colours) {
    int n = 2 * Readings.STEPS * FINE;
    for (int i = 0; i < n; i++) {
      g.setFill(colour(colours, range * (2 * (i + 0.5) / n - 1)));
      g.fillRect(WIDTH * i / n, HEAP, WIDTH / n + 0.5, STRIP);
    }
    g.setStroke(LegendInk.of(this));
    g.setLineWidth(1);
    g.strokeRect(0.5, HEAP + 0.5, WIDTH - 1, STRIP - 1);
    g.strokeLine(WIDTH / 2, HEAP, WIDTH / 2, HEAP + STRIP + 3);
  }

  /** A tolerance: a line through heap and strip. */
  private void mark(GraphicsContext g, double at) {
    double x = Math.round(WIDTH * (at + 1) / 2) + 0.5;
    g.setStroke(LegendInk.of(this));
    g.setLineWidth(1);
    g.setLineDashes(3, 2);
    g.strokeLine(x, 2, x, HEAP + STRIP + 3);
    g.setLineDashes();
  }

  private static Color colour(Readings colours, double value) {
    int argb = colours.colour(value);
    return Color.rgb(argb >> 16 & 255, argb >> 8 & 255, argb & 255);
  }
}
