package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.pane.ShownDeviation;
import holotome.app.pane.SpacePane;
import holotome.app.words.AppWords;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.spatial.Deviation;
import holotome.core.spatial.DeviationField.Summary;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/**
 * What the colours of a deviation mean, how the surface is spread over them, and what it comes to:
 * on a slip of paper over the view while the deviation is shown.
 */
final class DeviationLegend extends VBox {
  /** The place where it is farthest off is come to within this share of the work. */
  private static final double CLOSE = 0.06;

  private final Session session;
  private final SpacePane view;
  private final ShownDeviation deviation;
  private final Label from = new Label(AppWords.of("deviation.how-far-from"));
  private final Button against = new LinkButton("deviation-against", "");
  private final DeviationScale scale;
  private final Label figures = new Label();
  private final Label most = new Label();
  private final Button worst = new LinkButton("deviation-worst", AppWords.of("deviation.show"));
  private final HBox largest = new HBox(8, most, worst);

  DeviationLegend(Session session, SpacePane view) {
    super(4);
    this.session = session;
    this.view = view;
    deviation = view.deviation();
    scale = new DeviationScale(deviation);
    setId("deviation-legend");
    getStyleClass().add("slip");
    setPadding(new Insets(8, 10, 8, 10));
    setMaxSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
    from.getStyleClass().add("small");
    figures.getStyleClass().addAll("figure", "small");
    most.getStyleClass().addAll("figure", "small");
    figures.setMinSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
    most.setMinWidth(Region.USE_PREF_SIZE);
    figures.setId("deviation-figures");
    most.setId("deviation-largest");
    against.setOnAction(e -> deviation.switchAgainst());
    worst.setOnAction(e -> showWorst());
    worst.setAccessibleText(AppWords.of("deviation.show-the-farthest"));
    largest.setAlignment(Pos.BASELINE_LEFT);
    HBox head = new HBox(6, from, against);
    head.setAlignment(Pos.BASELINE_LEFT);
    getChildren().addAll(head, scale, figures, largest);
  }

  /** Brings it in line with what is shown. */
  void update() {
    boolean shown = session.isOpen() && view.showsDeviation();
    setVisible(shown);
    setManaged(shown);
    if (!shown) {
      return;
    }
    boolean some = deviation.against() != null;
    from.setText(AppWords.of(some ? "deviation.how-far-from" : "deviation.nothing-to-compare"));
    against.setVisible(some);
    against.setManaged(some);
    if (some) {
      against.setText(
          deviation.isChoice()
              ? AppWords.of("deviation.or-another", deviation.words())
              : deviation.words());
    }
    against.setDisable(!deviation.isChoice());
    Deviation d = deviation.now();
    boolean measured = d != null;
    for (Region r : new Region[] {scale, largest}) {
      r.setVisible(measured);
      r.setManaged(measured);
    }
    figures.setVisible(some);
    figures.setManaged(some);
    Similarity toWork = session.shown().frame().toWork();
    boolean trueSize = session.shown().frame().trueSize();
    scale.show(d, toWork.scale(), trueSize);
    if (!measured) {
      figures.setText(
          deviation.failure() == null
              ? AppWords.of("deviation.measuring")
              : deviation.failure().getMessage());
      return;
    }
    Summary s = d.both();
    double k = toWork.scale();
    String text =
        AppWords.of(
            "deviation.figures",
            Length.format(k * s.rms(), trueSize),
            Length.format(k * s.mean(), trueSize),
            Length.format(k * s.p95(), trueSize));
    double within = deviation.tolerance();
    if (within > 0) {
      text +=
          "\n"
              + AppWords.of(
                  "deviation.within",
                  Length.format(k * within, trueSize),
                  Language.format("%.2f", 100 * d.forth().spread().share(-within, within)));
    }
    figures.setText(text);
    most.setText(AppWords.of("deviation.largest", Length.format(k * s.max(), trueSize)));
  }

  private void showWorst() {
    Deviation d = deviation.now();
    if (d == null) {
      return;
    }
    Similarity toWork = session.shown().frame().toWork();
    double[] p = toWork.apply(deviation.markWorst());
    double r =
        Math.max(
            CLOSE * toWork.scale() * d.mesh().bounds().diagonal(),
            2 * toWork.scale() * d.both().max());
    view.showBox(new Box(p[0] - r, p[1] - r, p[2] - r, p[0] + r, p[1] + r, p[2] + r));
  }
}
