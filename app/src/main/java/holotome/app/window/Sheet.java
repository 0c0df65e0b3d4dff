package holotome.app.window;

import holotome.app.model.Figures;
import holotome.app.model.Insight;
import holotome.app.model.PartAtHand;
import holotome.app.model.ScanFile;
import holotome.app.model.Selected;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.pane.SpacePane;
import holotome.app.tool.Tool;
import holotome.app.tool.Tools;
import holotome.app.words.AppWords;
import holotome.core.log.Entry;
import holotome.core.log.History;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.topology.Counts;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import javafx.animation.PauseTransition;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/**
 * The right panel: the tools of the stage, the parameters of the one in hand, its figures before
 * and after, and the button that applies it.
 *
 * <p>Quick steps are tried out in the background on every edit, so that the figures are exact and
 * applying only takes the result over.
 */
final class Sheet extends VBox {
  private static final double ROOM_FOR_FIGURES = 600;

  private final Session session;
  private final Tools tools;
  private final SpacePane view;
  private final Tape tape;
  private final Map<Stage, Tool> inHand = new EnumMap<>(Stage.class);
  private final Label heading = new Label(AppWords.of("sheet.sheet"));
  private final GridPane toolGrid = new GridPane();
  private final Label hint = new Label();
  private final VBox form = new VBox();
  private final Label problem = new Label();
  private final Label advice = new Label();
  private final FiguresTable figures = new FiguresTable();
  private final KeyedButton apply = new KeyedButton("", KeyCombo.of("Enter").words(), "apply");
  private final KeyedButton drop =
      new KeyedButton(AppWords.of("sheet.drop"), KeyCombo.of("Esc").words(), "plain");
  private final VBox entryActions = new VBox(2);
  private final Button way = new Button();
  private final VBox pinned = new VBox(8);
  private final VBox scrolled;
  private final VBox details = new VBox();
  private final PauseTransition settle = new PauseTransition(Duration.millis(280));
  private Tool current;
  private int revising = -1;
  private History base;
  private Trial trial;
  private Stage builtFor;
  private ScanFile openedFor;

  /** A step tried out on the History it was tried on. */
  private record Trial(
      History on, int revising, Map<String, Object> values, History result, Figures after) {}

  /** What the tool in hand was last told of. */
  private Insight measuredFor;

  private Selected selected;
  private Object charts;

  /** Counts edits: what was tried for an earlier one is no longer wanted. */
  private int edit;

  /** An entry was just applied, or undone: nothing is pending until something is chosen. */
  private boolean resting;

  /** Whether the tool in hand had to be told something before there was a step. */
  private boolean guided;

  private Supplier<Next> next = () -> null;

  /** What may well come next, in the words of a button; for when an entry was applied. */
  record Next(String words, Runnable run) {}

  Sheet(Session session, Tools tools, SpacePane view, Tape tape) {
    this.session = session;
    this.tools = tools;
    this.view = view;
    this.tape = tape;
    setId("sheet");
    getStyleClass().addAll("panel", "panel-right");
    setPrefWidth(292);
    setMinWidth(292);
    setMaxWidth(292);
    heading.getStyleClass().add("heading");
    heading.setId("sheet-heading");
    hint.setWrapText(true);
    hint.getStyleClass().addAll("soft", "small");
    hint.setMinHeight(Region.USE_PREF_SIZE);
    problem.setWrapText(true);
    problem.getStyleClass().add("problem");
    problem.setId("problem");
    problem.setMinHeight(Region.USE_PREF_SIZE);
    advice.setWrapText(true);
    advice.getStyleClass().add("todo");
    advice.setId("advice");
    advice.setMinHeight(Region.USE_PREF_SIZE);
    toolGrid.setHgap(10);
    toolGrid.setVgap(2);
    ColumnConstraints half = new ColumnConstraints();
    half.setPercentWidth(50);
    toolGrid.getColumnConstraints().addAll(half, half);
    apply.setId("apply");
    apply.setOnAction(e -> apply());
    drop.setId("drop");
    drop.setOnAction(e -> drop());
    way.setId("way");
    way.getStyleClass().setAll("link");
    VBox top = new VBox(10, heading, toolGrid);
    top.setPadding(new Insets(12, 14, 8, 14));
    scrolled = new VBox(10, hint, form, details);
    scrolled.setPadding(new Insets(2, 14, 6, 14));
    pinned.setPadding(new Insets(6, 14, 2, 14));
    pinned.setMinHeight(Region.USE_PREF_SIZE);
    VBox buttons = new VBox(4, entryActions, apply, drop);
    buttons.setPadding(new Insets(4, 14, 8, 14));
    buttons.setMinHeight(Region.USE_PREF_SIZE);
    top.setMinHeight(Region.USE_PREF_SIZE);
    ScrollPane scroll = new ScrollPane(scrolled);
    scroll.setFitToWidth(true);
    scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
    scroll.setFocusTraversable(false);
    scroll.setMinHeight(0);
    VBox.setVgrow(scroll, Priority.ALWAYS);
    // The tools and the foot stay where they are; what does not fit scrolls between them.
    getChildren().addAll(top, scroll, pinned, buttons);
    heightProperty().addListener((o, was, is) -> pin());
    pin();
    settle.setOnFinished(e -> tryOut());
    for (Tool t : tools.all()) {
      t.onEdited(
          () -> {
            resting = false;
            edited();
          });
    }
  }

  /** Figures stand above the foot, whole; on a low window they scroll with the rest. */
  private void pin() {
    boolean room = getHeight() >= ROOM_FOR_FIGURES;
    List<Node> foot = room ? List.of(problem, way, advice, figures) : List.of(problem, way);
    List<Node> middle =
        room ? List.of(hint, form, details) : List.of(hint, form, advice, figures, details);
    if (!pinned.getChildren().equals(foot)) {
      pinned.getChildren().clear();
      scrolled.getChildren().setAll(middle);
      pinned.getChildren().setAll(foot);
    }
  }

  /** Says where to learn what may come next. */
  void onNext(Supplier<Next> supplier) {
    next = supplier;
  }

  void shutDown() {
    settle.stop();
  }

  Step step() {
    return stepOrProblem();
  }

  Tool current() {
    return current;
  }

  /** Takes up the tool with this number on the Sheet, counted from 1; the tenth has the key 0. */
  void takeNumber(int number) {
    List<Tool> list = tools.of(session.stage());
    if (number >= 1 && number <= list.size()) {
      take(list.get(number - 1));
    }
  }

  void take(Tool tool) {
    inHand.put(tool.stage(), tool);
    if (session.stage() != tool.stage()) {
      session.setStage(tool.stage());
    } else {
      if (session.reopened() >= 0) {
        session.reopen(-1);
      }
      build(tool, -1, false);
    }
  }

  /** Brings the Sheet in line with the session. */
  void update() {
    Stage stage = session.stage();
    int reopened = session.reopened();
    boolean other = session.history() != base;
    boolean changedHere = other && base != null && session.history() != null && builtFor == stage;
    if (reopened >= 0 && (revising != reopened || other)) {
      Entry e = session.history().lines().get(reopened).entry();
      Tool t = tools.making(e.step().getClass());
      t.load(e.step());
      base = session.history();
      build(t, reopened, false);
    } else if (reopened < 0 && (builtFor != stage || revising >= 0 || other)) {
      boolean opened = session.history() != null && session.scanFile() != openedFor;
      openedFor = session.scanFile();
      base = session.history();
      List<Tool> list = tools.of(stage);
      Tool t = inHand.get(stage);
      build(t != null ? t : list.getFirst(), -1, changedHere && !opened);
    }
    if (current != null && session.selected() != selected) {
      selected = session.selected();
      resting &= selected == null;
      edited();
    } else if (current != null && session.charts().chosen() != charts && !resting) {
      edited();
    }
    charts = session.charts().chosen();
    if (current != null && session.insight() != measuredFor) {
      measuredFor = session.insight();
      current.measured();
    }
    fillFigures();
    buttons();
  }

  private void build(Tool tool, int index, boolean rests) {
    resting = rests;
    builtFor = session.stage();
    revising = index;
    trial = null;
    if (current != tool) {
      current = tool;
      view.setTool(tool);
    }
    if (index < 0) {
      inHand.put(tool.stage(), tool);
    }
    heading.setText(
        index < 0
            ? AppWords.of("sheet.sheet")
            : AppWords.of("sheet.entry", index + 1, tool.title()));
    buildTools();
    hint.setText(tool.hint());
    guided = false;
    form.getChildren().setAll(tool.form());
    entryActions.getChildren().clear();
    if (index >= 0) {
      Entry e = session.history().lines().get(index).entry();
      Button onOff =
          new KeyedButton(
              e.on()
                  ? AppWords.of("sheet.switch-the-entry-off")
                  : AppWords.of("sheet.switch-the-entry-on"),
              "",
              "plain");
      onOff.setId("entry-on-off");
      onOff.setOnAction(
          x ->
              session.change(
                  e.on() ? AppWords.of("sheet.switching-off") : AppWords.of("sheet.switching-on"),
                  (h, run) -> h.setOn(index, !e.on(), run)));
      Button remove = new KeyedButton(AppWords.of("sheet.take-the-entry-out"), "", "plain");
      remove.setId("entry-remove");
      remove.setOnAction(
          x ->
              session.change(
                  AppWords.of("sheet.taking-an-entry-out"), (h, run) -> h.remove(index, run)));
      entryActions.getChildren().setAll(FindingsPanel.rule(), onOff, remove);
    }
    details.getChildren().clear();
    if (tool.details() != null) {
      details.getChildren().add(tool.details());
    }
    edited();
  }

  private void buildTools() {
    toolGrid.getChildren().clear();
    List<Tool> list = tools.of(session.stage());
    int rows = (list.size() + 1) / 2;
    for (int i = 0; i < list.size(); i++) {
      Tool t = list.get(i);
      Label n = new Label(i < 9 ? String.valueOf(i + 1) : i == 9 ? "0" : "");
      n.getStyleClass().add("number");
      n.setMinWidth(14);
      Label name = new Label(t.title());
      name.getStyleClass().add("name");
      Button b = new Button();
      b.setGraphic(new HBox(4, n, name));
      b.getStyleClass().setAll("tool");
      b.setId("tool-" + t.id());
      b.setAccessibleText(t.title());
      b.setTooltip(new Tooltip(AppWords.of("common.keyed", t.hint(), (i + 1) % 10)));
      b.setMaxWidth(Double.MAX_VALUE);
      if (t == current) {
        b.getStyleClass().add("current");
      }
      b.setOnAction(e -> take(t));
      toolGrid.add(b, i / rows, i % rows);
    }
  }

  /** The parameters changed: what was tried is no longer it. */
  private void edited() {
    trial = null;
    edit++;
    Step step = resting ? null : stepOrProblem();
    if (resting) {
      problem(null);
    }
    view.repaint();
    fillFigures();
    buttons();
    tape.setPending(step == null || revising >= 0 ? null : current.title(), -1);
    settle.stop();
    if (step != null && current.isQuick()) {
      settle.playFromStart();
    } else {
      session.measureIfIdle();
    }
    if (current.shows() != null || view.mesh() != null) {
      view.refresh();
    }
  }

  private Step stepOrProblem() {
    if (!session.isOpen()) {
      problem(null);
      return null;
    }
    String missing = current.missing();
    if (missing != null) {
      problem(missing);
      problem.getStyleClass().setAll("label", "todo");
      leadTo(current.way());
      return null;
    }
    if (!current.makesSteps()) {
      problem(null);
      return null;
    }
    try {
      Step s = current.step();
      problem(null);
      return s;
    } catch (Failure f) {
      problem(f.getMessage());
      return null;
    }
  }

  private void leadTo(Tool.Way to) {
    way.setVisible(to != null);
    way.setManaged(to != null);
    if (to != null) {
      way.setText(to.words());
      way.setOnAction(e -> take(tools.making(to.tool())));
    }
  }

  private void problem(String text) {
    leadTo(null);
    problem.getStyleClass().setAll("label", "problem");
    problem.setText(text == null ? "" : text);
    problem.setVisible(text != null);
    problem.setManaged(text != null);
  }

  private void tryOut() {
    Step step = resting ? null : stepOrProblem();
    if (step == null || session.jobs().isBusy() || session.lookBack() >= 0) {
      return;
    }
    if (session.insight() == null && session.jobs().isQuietRunning()) {
      // The findings are being measured; they come first, the figures right after.
      settle.playFromStart();
      return;
    }
    History on = session.history();
    int index = revising;
    int tried = edit;
    Map<String, Object> values = StepKind.of(step).values(step);
    Insight known = session.insight();
    Entry entry = session.partAtHand().entry(step);
    Part<Mesh> part = session.partAtHand().part();
    session
        .jobs()
        .quietly(
            work -> {
              History h =
                  session.trial(entry, index, on, work.part(0.7, AppWords.of("sheet.trying")));
              // What only places the work leaves the mesh as it was measured.
              Workpiece w = PartAtHand.alone(h.current(), part);
              Figures after =
                  known != null && known.mesh() == w.scan()
                      ? Figures.of(w, known)
                      : Figures.of(w, counted(h), work.part(0.3, AppWords.of("common.measuring")));
              return new Trial(on, index, values, h, after);
            },
            t -> {
              if (session.history() == t.on && edit == tried) {
                trial = t;
                tape.setPending(t.revising >= 0 ? null : current.title(), t.after.triangles());
                fillFigures();
                buttons();
                current.tried(t.result);
                session.measureIfIdle();
              }
            },
            f -> {
              if (f.kind() != Failure.Kind.CANCELLED && edit == tried) {
                problem(f.getMessage());
                buttons();
              }
              session.measureIfIdle();
            });
  }

  /** What the last entry counted of the Scan; null where it did not. */
  private static Counts counted(History h) {
    return h.lines().isEmpty() ? null : h.lines().getLast().effect().counts();
  }

  private void buttons() {
    if (current == null) {
      return;
    }
    Next following = resting ? next.get() : null;
    boolean ready =
        session.isOpen()
            && !session.jobs().isBusy()
            && session.lookBack() < 0
            && !problem.isVisible()
            && (!resting || following != null);
    boolean shown = current.makesSteps() || resting && following != null;
    apply.setDisable(!ready || !shown);
    apply.setVisible(shown);
    apply.setManaged(shown);
    String verb =
        following != null
            ? following.words
            : revising >= 0
                ? AppWords.of("sheet.run-again-from-here")
                : current.verb(trial == null ? null : trial.result);
    apply.setWords(verb);
    apply.setAccessibleText(verb);
    drop.setVisible(session.isOpen());
  }

  /**
   * Applies the step in hand, taking over what was tried if it is still the same; after an entry,
   * goes on to what comes next.
   */
  void apply() {
    if (session.jobs().isBusy()) {
      session.say(AppWords.of("sheet.is-still-running-press-enter", session.jobs().title()));
      return;
    }
    if (resting) {
      Next following = next.get();
      if (following != null && !apply.isDisabled()) {
        following.run.run();
      }
      return;
    }
    Step step = stepOrProblem();
    if (step == null || apply.isDisabled()) {
      return;
    }
    Trial t = trial;
    if (t != null
        && t.on == session.history()
        && t.revising == revising
        && t.values.equals(StepKind.of(step).values(step))
        && !writesAfter(t.revising)) {
      session.jobs().stopQuiet();
      session.accept(t.result);
      return;
    }
    int index = revising;
    if (index >= 0) {
      session.change(current.title(), (h, run) -> h.revise(index, step, run));
    } else {
      session.apply(step);
    }
  }

  /** Whether an entry after a revised one writes files: that is not done while trying. */
  private boolean writesAfter(int index) {
    return index >= 0
        && session.history().entries().subList(index, session.history().size()).stream()
            .anyMatch(e -> e.on() && e.step().writesFiles());
  }

  /** Lets go of what the tool began; of a reopened entry, closes it. */
  void drop() {
    if (session.reopened() >= 0) {
      session.reopen(-1);
      return;
    }
    current.drop(view);
    view.showLoops(List.of());
    view.showFault(null, 0);
    session.select(null);
    edited();
  }

  private void fillFigures() {
    advise();
    boolean incomplete = isIncomplete();
    guided |= incomplete;
    // Once what it asked for is done its room is the parameters'; the tool's tooltip says it still.
    boolean said = !guided || incomplete || resting;
    hint.setVisible(said);
    hint.setManaged(said);
    boolean none = !session.isOpen() || !current.makesSteps() || resting || incomplete;
    figures.show(none ? List.of() : rows());
  }

  private List<Tool.Row> rows() {
    return current.isQuick() ? compared() : current.estimate(session.current());
  }

  /** Whether something is to be done before there is a step; the room is the form's until then. */
  private boolean isIncomplete() {
    return session.lookBack() < 0 && current.missing() != null;
  }

  /** The figures as they stand, as text: name, before, after. */
  String figuresText() {
    StringBuilder out = new StringBuilder();
    boolean none = current == null || !session.isOpen() || resting;
    for (Tool.Row r : none ? List.<Tool.Row>of() : rows()) {
      out.append(r.name()).append('\t').append(r.before()).append('\t').append(r.after());
      out.append('\n');
    }
    return out.toString();
  }

  private void advise() {
    if (resting) {
      List<History.Line> lines = session.history().lines();
      say(
          lines.isEmpty()
              ? AppWords.of("sheet.back-to-the-scan-as")
              : AppWords.of(
                  "sheet.done-choose-a-tool-or",
                  StepKind.of(lines.getLast().entry().step()).title()));
      return;
    }
    boolean isCompared = session.isOpen() && trial != null && session.insight() != null;
    String text =
        isCompared
            ? current.advice(Figures.of(session.current(), session.insight()), trial.after)
            : null;
    say(text);
  }

  private void say(String text) {
    advice.setText(text == null ? "" : text);
    advice.setVisible(text != null);
    advice.setManaged(text != null);
  }

  private List<Tool.Row> compared() {
    boolean isTried = trial != null;
    return ComparedFigures.rows(
        session, isTried ? trial.result : null, isTried ? trial.after : null);
  }
}
