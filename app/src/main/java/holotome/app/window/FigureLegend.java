package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.pane.ShownFigures;
import holotome.app.pane.SpacePane;
import holotome.app.words.AppWords;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Mesh;
import holotome.core.words.Language;
import holotome.view.scene.Look;
import holotome.view.scene.Readings;
import javafx.geometry.Insets;
import javafx.geometry.VPos;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Label;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * What the colours of stretch, texel density and importance mean: on a slip of paper over the view
 * while one of them is shown.
 */
final class FigureLegend extends VBox {
  private static final double WIDTH = 220;
  private static final double STRIP = 12;
  private static final double HEIGHT = STRIP + 18;

  private final Session session;
  private final SpacePane view;
  private final Label title = new Label();
  private final Canvas canvas = new Canvas(WIDTH, HEIGHT);

  FigureLegend(Session session, SpacePane view) {
    super(4);
    this.session = session;
    this.view = view;
    setId("figure-legend");
    getStyleClass().add("slip");
    setPadding(new Insets(8, 10, 8, 10));
    setMaxSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
    title.getStyleClass().add("small");
    title.setId("figure-legend-title");
    title.setWrapText(true);
    title.setMaxWidth(WIDTH);
    getChildren().addAll(title, canvas);
  }

  /** Brings it in line with what is shown. */
  void update() {
    Look look = session.isOpen() ? view.look() : null;
    boolean shown = look != null && look.hasReadings() && look != Look.DEVIATION;
    setVisible(shown);
    setManaged(shown);
    if (!shown) {
      return;
    }
    Mesh mesh = view.mesh();
    boolean isBare = look == Look.IMPORTANCE && Importance.of(mesh) == null;
    canvas.setVisible(!isBare);
    canvas.setManaged(!isBare);
    title.setText(AppWords.of(isBare ? "figures.all-alike" : "figures." + look.name()));
    draw(look);
  }

  private void draw(Look look) {
    GraphicsContext g = canvas.getGraphicsContext2D();
    g.clearRect(0, 0, WIDTH, HEIGHT);
    Readings colours = ShownFigures.scale(look);
    boolean isTwoSided = look != Look.STRETCH;
    double range = colours.range();
    int n = (isTwoSided ? 2 : 1) * Readings.STEPS;
    for (int i = 0; i < n; i++) {
      double share = (i + 0.5) / n;
      double value = isTwoSided ? range * (2 * share - 1) : range * share;
      int argb = colours.colour(value);
      g.setFill(Color.rgb(argb >> 16 & 255, argb >> 8 & 255, argb & 255));
      g.fillRect(WIDTH * i / n, 0, WIDTH / n + 0.5, STRIP);
    }
    Color ink = LegendInk.of(this);
    g.setStroke(ink);
    g.setLineWidth(1);
    g.strokeRect(0.5, 0.5, WIDTH - 1, STRIP - 1);
    g.setFont(Font.font("IBM Plex Mono", 11));
    g.setTextBaseline(VPos.BOTTOM);
    g.setFill(ink);
    text(g, TextAlignment.LEFT, times(isTwoSided ? -range : 0), 0);
    text(g, TextAlignment.CENTER, times(isTwoSided ? 0 : range / 2), WIDTH / 2);
    text(g, TextAlignment.RIGHT, times(range), WIDTH);
  }

  private static void text(GraphicsContext g, TextAlignment how, String words, double x) {
    g.setTextAlign(how);
    g.fillText(words, x, HEIGHT);
  }

  /** A power of two as a factor; below one as a fraction. */
  private static String times(double power) {
    double by = Math.pow(2, Math.abs(power));
    String figure = Language.format(by == Math.rint(by) ? "%.0f" : "%.1f", by);
    return power < 0 ? "1/" + figure + " ×" : figure + " ×";
  }
}
