package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.bake.BakeMaps;
import holotome.core.datum.Scale;
import holotome.core.log.Entry;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.step.Step;
import holotome.core.trim.CutGround;
import holotome.core.trim.KeepIslands;
import holotome.core.unwrap.MakeCharts;
import holotome.view.camera.Camera;
import java.util.List;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/**
 * The first steps, over the demo scan: five things to do, each told when the one before is done.
 * Closed at any time, and called again.
 */
final class Guide extends VBox {
  private final Desk desk;
  private final Label heading = new Label();
  private final Label text = new Label();
  private final Button there = new LinkButton("guide-there", AppWords.of("guide.take-me-there"));
  private final Button skip = new LinkButton("guide-skip", AppWords.of("guide.skip-this"));
  private final List<Task> tasks;
  private Camera from;
  private int at;

  /**
   * @param words what to do and how
   * @param tool that does it; null where none does
   * @param done whether it is
   */
  private record Task(Supplier<String> words, Class<? extends Step> tool, BooleanSupplier done) {}

  Guide(Desk desk) {
    super(8);
    this.desk = desk;
    setId("guide");
    getStyleClass().add("guide");
    setMaxSize(340, Region.USE_PREF_SIZE);
    heading.getStyleClass().add("heading");
    heading.setId("guide-heading");
    text.setWrapText(true);
    text.setId("guide-text");
    text.setMinHeight(Region.USE_PREF_SIZE);
    there.setOnAction(e -> goThere());
    skip.setOnAction(e -> show(at + 1));
    Button close = new LinkButton("guide-close", AppWords.of("guide.close"));
    close.setOnAction(e -> close());
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox row = new HBox(14, there, skip, gap, close);
    row.setAlignment(Pos.CENTER_LEFT);
    getChildren().addAll(heading, text, row);
    StackPane.setAlignment(this, Pos.BOTTOM_LEFT);
    StackPane.setMargin(this, new Insets(0, 0, 62, 14));
    setVisible(false);
    tasks =
        List.of(
            new Task(
                () -> AppWords.of("guide.this-is-a-scan-as"),
                null,
                () -> from != null && desk.view().camera().yaw() != from.yaw()),
            new Task(
                () -> AppWords.of("guide.keep-the-largest-piece-and", way("tool.trim.islands")),
                KeepIslands.class,
                () -> has(KeepIslands.class)),
            new Task(
                () -> AppWords.of("guide.give-it-its-true-size", way("tool.datum.scale")),
                Scale.class,
                () -> desk.session().current().frame().trueSize()),
            new Task(
                () -> AppWords.of("guide.cut-the-ground-away-then", way("tool.trim.ground")),
                CutGround.class,
                () -> has(CutGround.class)),
            new Task(
                () -> AppWords.of("guide.make-it-light-lay-its"),
                Decimate.class,
                () -> desk.session().current().maps() != null));
  }

  /** The way to a tool: its stage and name, and its keys. */
  private String way(String action) {
    String words = desk.actions().named(action).words().replace(": ", ", ");
    String k = desk.actions().keyText(action);
    return k.isEmpty() ? words : AppWords.of("common.keyed", words, k);
  }

  private boolean has(Class<? extends Step> type) {
    for (Entry e : desk.session().history().entries()) {
      if (type.isInstance(e.step())) {
        return true;
      }
    }
    return false;
  }

  /** Begins with the first step that is not done. */
  void begin() {
    from = null;
    setVisible(true);
    show(0);
  }

  void close() {
    setVisible(false);
    desk.view().requestFocus();
  }

  private void goThere() {
    if (at < tasks.size() && tasks.get(at).tool() != null) {
      desk.take(nextTool());
      desk.view().requestFocus();
    }
  }

  /** The last step leads through three stages: to the first that is not done. */
  private Class<? extends Step> nextTool() {
    Workpiece w = desk.session().current();
    if (at < tasks.size() - 1 || w.cast() == null) {
      return tasks.get(at).tool();
    }
    return w.cast().uv() == null ? MakeCharts.class : BakeMaps.class;
  }

  private void show(int next) {
    at = next;
    boolean over = at >= tasks.size();
    there.setVisible(!over && tasks.get(at).tool() != null);
    there.setManaged(there.isVisible());
    skip.setVisible(!over);
    heading.setText(
        over
            ? AppWords.of("guide.first-steps-done")
            : AppWords.of("guide.first-steps-of", at + 1, tasks.size()));
    text.setText(
        over
            ? AppWords.of(
                "guide.the-way-from-a-raw",
                desk.actions().keyText("find"),
                desk.actions().keyText("keys"))
            : tasks.get(at).words().get());
    update();
  }

  /** Goes on where what is asked for was done. */
  void update() {
    Session s = desk.session();
    if (!isVisible() || !s.isOpen() || s.jobs().isBusy()) {
      return;
    }
    if (from == null) {
      from = desk.view().camera();
    }
    if (at < tasks.size() && tasks.get(at).done().getAsBoolean()) {
      show(at + 1);
    }
  }
}
