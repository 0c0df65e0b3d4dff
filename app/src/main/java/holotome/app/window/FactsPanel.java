package holotome.app.window;

import holotome.app.model.Jobs;
import holotome.app.model.Session;
import holotome.app.model.Settings;
import holotome.app.words.AppWords;
import holotome.core.geometry.Box;
import holotome.core.part.Workpiece;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** The lower right corner: size, triangles, memory, and the running work with its cancel. */
final class FactsPanel extends VBox {
  private final Session session;
  private final Jobs jobs;
  private final Label size = figure();
  private final Label triangles = figure();
  private final Label memory = figure();
  private final Label state = new Label();
  private final Label saved = figure();
  private Length.Unit unit;
  private final ProgressBar bar = new ProgressBar(0);
  private final Button cancel = new Button(AppWords.of("facts-panel.cancel"));
  private final Timeline tick = new Timeline();
  private final HBox idle;
  private final HBox busy;

  FactsPanel(Session session) {
    this.session = session;
    this.jobs = session.jobs();
    setId("facts");
    getStyleClass().add("facts");
    setPrefWidth(292);
    setMinWidth(292);
    setMaxWidth(292);
    state.getStyleClass().addAll("soft", "small");
    saved.getStyleClass().add("soft");
    cancel.getStyleClass().setAll("link");
    state.setId("running");
    cancel.setId("cancel");
    cancel.setOnAction(e -> jobs.cancel());
    // However long what is running is called.
    cancel.setMinWidth(Region.USE_PREF_SIZE);
    HBox.setHgrow(bar, Priority.ALWAYS);
    bar.setMaxWidth(Double.MAX_VALUE);
    size.setId("fact-size");
    size.setOnMouseClicked(e -> nextUnit());
    size.setTooltip(new Tooltip(AppWords.of("facts-panel.click-for-another-unit")));
    triangles.setId("fact-triangles");
    idle = line(new Label(AppWords.of("facts-panel.nothing-running")), saved);
    idle.getChildren().getFirst().getStyleClass().addAll("soft", "small");
    busy = new HBox(8, state, bar, cancel);
    busy.setAlignment(Pos.CENTER_LEFT);
    getChildren()
        .addAll(
            line(new Label(AppWords.of("common.size")), size),
            line(new Label(AppWords.of("facts-panel.triangles")), triangles),
            line(new Label(AppWords.of("common.memory")), memory),
            idle);
    tick.getKeyFrames().add(new KeyFrame(Duration.millis(200), e -> tick()));
    tick.setCycleCount(Timeline.INDEFINITE);
    tick.play();
  }

  private static Label figure() {
    Label l = new Label("–");
    l.getStyleClass().add("figure");
    return l;
  }

  private static HBox line(Label name, Label figure) {
    name.getStyleClass().add("small");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    figure.setMinWidth(Region.USE_PREF_SIZE);
    HBox h = new HBox(8, name, gap, figure);
    h.setAlignment(Pos.CENTER_LEFT);
    h.setMinHeight(20);
    return h;
  }

  void shutDown() {
    tick.stop();
  }

  void update() {
    Workpiece w = session.shown();
    if (w != null) {
      Box b = w.frame().workBounds(w.current());
      boolean s = w.frame().trueSize();
      size.setText(sizeText(b, s));
      triangles.setText(
          w.cast() == null
              ? Language.format("%,d", w.scan().triangleCount())
              : AppWords.of("facts-panel.of", w.cast().triangleCount(), w.scan().triangleCount()));
      saved.setText(session.keeping().savedAt());
    } else {
      size.setText("–");
      triangles.setText("–");
      saved.setText("");
    }
    tick();
  }

  /** Shows the size in a unit from now on; null for what reads best. */
  void setUnit(Length.Unit next) {
    unit = next;
    update();
  }

  /** What stands here, as text. */
  String text() {
    return AppWords.of("facts.size")
        + "\t"
        + size.getText()
        + "\n"
        + AppWords.of("facts.triangles")
        + "\t"
        + triangles.getText()
        + "\n";
  }

  /** Shows the size in the next unit: as it reads best, then mm, cm, m, in, ft. */
  void nextUnit() {
    Length.Unit[] all = Settings.UNITS;
    int at = unit == null ? -1 : java.util.Arrays.asList(all).indexOf(unit);
    unit = at + 1 < all.length ? all[at + 1] : null;
    update();
  }

  private String sizeText(Box b, boolean trueSize) {
    if (!trueSize) {
      return units(b.width()) + " × " + units(b.depth()) + " × " + Length.format(b.height(), false);
    }
    if (unit == null) {
      return Length.format(b.width(), true)
          + " × "
          + Length.format(b.depth(), true)
          + " × "
          + Length.format(b.height(), true);
    }
    double k = 1 / unit.metres();
    String digits = unit == Length.Unit.MM ? "%,.1f" : unit == Length.Unit.M ? "%,.4f" : "%,.2f";
    return Language.format(
        digits + " × " + digits + " × " + digits + " %s",
        b.width() * k,
        b.depth() * k,
        b.height() * k,
        unit.symbol());
  }

  private static String units(double v) {
    return Length.figure(v);
  }

  private void tick() {
    Runtime r = Runtime.getRuntime();
    memory.setText(
        AppWords.of(
            "facts-panel.mb-of-gb", (r.totalMemory() - r.freeMemory()) >> 20, r.maxMemory() / 1e9));
    Work work = jobs.shown();
    boolean showBusy = work != null;
    if (showBusy != getChildren().contains(busy)) {
      getChildren().set(3, showBusy ? busy : idle);
    }
    if (work != null) {
      double left = work.secondsLeft();
      boolean told = !Double.isNaN(left) && work.secondsSoFar() > 1;
      String text =
          told
              ? AppWords.of("facts-panel.s-left", jobs.shownTitle(), Math.max(1, left))
              : jobs.shownTitle();
      state.setText(work.isCancelled() ? AppWords.of("facts-panel.cancelling") : text);
      bar.setProgress(work.fraction());
    }
  }
}
