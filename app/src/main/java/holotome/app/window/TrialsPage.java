package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.model.TrialFigures;
import holotome.app.model.Trials;
import holotome.app.words.AppWords;
import holotome.core.log.Effect;
import holotome.core.log.History;
import holotome.core.log.Lines;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.util.List;
import javafx.geometry.HPos;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;

/** The Trials side by side: their names and figures, and what can be done with each. */
final class TrialsPage extends Page {
  private static final double NAME = 110;
  private static final String UNKNOWN = "…";

  private final Session session;
  private final Runnable compare;
  private final GridPane grid = new GridPane();
  private final Label hint = new Label();
  private List<Lines.Named> shown;
  private long known;

  /**
   * @param compare draws the line between the two that are compared
   */
  TrialsPage(Session session, Runnable compare, Runnable closed) {
    super("trials", AppWords.of("trials-page.title"), closed);
    this.session = session;
    this.compare = compare;
    setMaxHeight(Region.USE_PREF_SIZE);
    hint.setWrapText(true);
    hint.setMinHeight(Region.USE_PREF_SIZE);
    hint.getStyleClass().addAll("soft", "small");
    grid.setHgap(14);
    grid.setVgap(6);
    ColumnConstraints name = new ColumnConstraints();
    name.setHgrow(Priority.ALWAYS);
    ColumnConstraints right = new ColumnConstraints();
    right.setHalignment(HPos.RIGHT);
    grid.getColumnConstraints()
        .addAll(name, right, right, right, right, right, new ColumnConstraints());
    LinkButton begin = new LinkButton("trials-begin", AppWords.of("trials-page.begin"));
    begin.setOnAction(e -> session.trials().begin());
    offer(begin);
    hold(hint, grid);
  }

  @Override
  void fill() {
    shown = null;
    show();
  }

  /** Shows the Trials as they are now. */
  void update() {
    if (!isVisible()) {
      return;
    }
    if (!session.trials().all().equals(shown) || measured() != known) {
      show();
    }
  }

  private long measured() {
    Trials trials = session.trials();
    return trials.all().stream().filter(l -> trials.figures(l) != null).count();
  }

  private void show() {
    Trials trials = session.trials();
    shown = trials.all();
    known = measured();
    hint.setText(AppWords.of(trials.areSeveral() ? "trials-page.several" : "trials-page.alone"));
    grid.getChildren().clear();
    if (!trials.areSeveral()) {
      return;
    }
    head(1, "trials-page.entries");
    head(2, "trials-page.triangles");
    head(3, "trials-page.deviation");
    head(4, "trials-page.memory");
    head(5, "trials-page.took");
    trials.measure();
    int y = 1;
    for (Lines.Named l : shown) {
      row(y++, l, l.name().equals(trials.current()));
    }
  }

  private void head(int column, String key) {
    Label l = new Label(AppWords.of(key));
    l.getStyleClass().addAll("soft", "small");
    l.setMinWidth(Region.USE_PREF_SIZE);
    grid.add(l, column, 0);
  }

  private void row(int y, Lines.Named l, boolean isCurrent) {
    TextField name = new TextField(l.name());
    name.getStyleClass().add("name");
    name.setId("trial-name-" + y);
    name.setAccessibleText(AppWords.of("trials-page.name"));
    name.setPrefWidth(NAME);
    name.setMinWidth(NAME);
    name.setOnAction(e -> session.trials().rename(l.name(), name.getText()));
    name.focusedProperty()
        .addListener(
            (o, was, is) -> {
              if (!is) {
                session.trials().rename(l.name(), name.getText());
              }
            });
    History h = l.history();
    boolean isRun = l.ahead().isEmpty();
    double took = h.lines().stream().map(History.Line::effect).mapToDouble(Effect::seconds).sum();
    grid.add(name, 0, y);
    grid.add(figure(Language.format("%,d", l.entries().size())), 1, y);
    grid.add(figure(isRun ? Language.format("%,d", triangles(h)) : "–"), 2, y);
    TrialFigures f = session.trials().figures(l);
    Label off = figure(f == null ? UNKNOWN : Double.isNaN(f.rms()) ? "–" : deviation(f));
    off.setId("trial-deviation-" + y);
    if (f != null && !Double.isNaN(f.largest())) {
      off.setTooltip(
          new Tooltip(
              AppWords.of("trials-page.farthest", Length.format(f.largest(), f.trueSize()))));
    }
    grid.add(isRun ? off : figure("–"), 3, y);
    grid.add(figure(!isRun ? "–" : f == null ? UNKNOWN : memory(f.bytes())), 4, y);
    grid.add(figure(isRun ? Language.format("%.1f s", took) : "–"), 5, y);
    HBox what = new HBox(14);
    what.setAlignment(Pos.CENTER_LEFT);
    if (isCurrent) {
      Label now = new Label(AppWords.of("trials-page.current"));
      now.getStyleClass().add("small");
      now.setMinWidth(Region.USE_PREF_SIZE);
      what.getChildren().add(now);
    } else {
      what.getChildren().add(does("trial-take-" + y, "trials-page.take", l, this::take));
      if (isRun) {
        what.getChildren().add(does("trial-compare-" + y, "trials-page.compare", l, this::compare));
      }
    }
    what.getChildren()
        .add(does("trial-drop-" + y, "trials-page.drop", l, n -> session.trials().drop(n)));
    grid.add(what, 6, y);
  }

  private static String deviation(TrialFigures f) {
    return Length.format(f.rms(), f.trueSize());
  }

  private static String memory(long bytes) {
    return Language.format(bytes < 1e7 ? "%.2f MB" : "%.0f MB", bytes / 1e6);
  }

  private int triangles(History h) {
    return h.lines().isEmpty()
        ? session.scanFile().triangles()
        : h.lines().getLast().effect().triangles();
  }

  private void take(String name) {
    session.trials().take(name);
  }

  private void compare(String name) {
    session.trials().compare(name);
    close();
    compare.run();
  }

  private static Node does(
      String id, String key, Lines.Named l, java.util.function.Consumer<String> what) {
    LinkButton b = new LinkButton(id, AppWords.of(key));
    b.setAccessibleText(AppWords.of("trials-page.does", AppWords.of(key), l.name()));
    b.setOnAction(e -> what.accept(l.name()));
    return b;
  }

  private static Label figure(String text) {
    Label l = new Label(text);
    l.getStyleClass().add("figure");
    l.setMinWidth(Region.USE_PREF_SIZE);
    return l;
  }
}
