package holotome.app.tool;

import holotome.app.model.Figures;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.VBox;

/** Several kinds of step of one sort as one tool, with a choice between them. */
final class KindTool extends Tool {
  private final String id;
  private final Stage stage;
  private final Map<Class<? extends Step>, Tool> kinds = new LinkedHashMap<>();
  private final ChoiceBox<String> choice = new ChoiceBox<>();
  private final Label hint = new Label();
  private final VBox form = new VBox(6);
  private final VBox details = new VBox();
  private Tool now;
  private boolean writing;

  /** Where the tool is at hand; null while it is not. */
  private ViewPort view;

  /**
   * @param kinds in the order they are offered
   */
  KindTool(Session session, String id, Stage stage, Map<Class<? extends Step>, Tool> kinds) {
    super(session);
    this.id = id;
    this.stage = stage;
    this.kinds.putAll(kinds);
    now = kinds.values().iterator().next();
    choice.setId(id + "-kind");
    choice.setAccessibleText(AppWords.of("kind-tool.which"));
    choice.setMaxWidth(Double.MAX_VALUE);
    kinds.values().forEach(k -> choice.getItems().add(k.title()));
    choice.getSelectionModel().select(0);
    choice
        .getSelectionModel()
        .selectedIndexProperty()
        .addListener((o, was, is) -> chosen(is.intValue()));
    hint.setWrapText(true);
    hint.getStyleClass().addAll("soft", "small");
    kinds.values().forEach(k -> k.onEdited(this::edited));
  }

  private void chosen(int index) {
    if (writing || index < 0) {
      return;
    }
    turnTo(List.copyOf(kinds.values()).get(index));
    fill();
    edited();
    session.changed();
  }

  /** Turns to a kind without telling. */
  void choose(Class<? extends Step> type) {
    turnTo(kinds.get(type));
    writing = true;
    choice.getSelectionModel().select(List.copyOf(kinds.keySet()).indexOf(type));
    writing = false;
    fill();
  }

  private void turnTo(Tool next) {
    if (view != null && next != now) {
      now.end(view);
      next.begin(view);
    }
    now = next;
  }

  private void fill() {
    hint.setText(now.hint());
    form.getChildren().setAll(choice, hint, now.form());
    details.getChildren().setAll(now.details() == null ? List.of() : List.of(now.details()));
  }

  @Override
  public String id() {
    return id;
  }

  @Override
  public Stage stage() {
    return stage;
  }

  @Override
  public String hint() {
    return AppWords.of("kind-tool." + id);
  }

  @Override
  public Node form() {
    fill();
    return form;
  }

  @Override
  public boolean isQuick() {
    return now.isQuick();
  }

  @Override
  public Node details() {
    return details;
  }

  @Override
  public String missing() {
    return now.missing();
  }

  @Override
  public Way way() {
    return now.way();
  }

  @Override
  public void tried(History trial) {
    now.tried(trial);
  }

  @Override
  public Step step() {
    return now.step();
  }

  @Override
  public List<Row> estimate(Workpiece in) {
    return now.estimate(in);
  }

  @Override
  public void begin(ViewPort port) {
    view = port;
    now.begin(port);
  }

  @Override
  public void end(ViewPort port) {
    view = null;
    now.end(port);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    now.pressed(view, e);
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    now.dragged(view, e);
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    now.released(view, e);
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    now.moved(view, e);
  }

  @Override
  public boolean scrolled(ViewPort view, ScrollEvent e) {
    return now.scrolled(view, e);
  }

  @Override
  public boolean takesClicks() {
    return now.takesClicks();
  }

  @Override
  public boolean enter(ViewPort view) {
    return now.enter(view);
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    return now.key(view, e);
  }

  @Override
  public void drop(ViewPort view) {
    now.drop(view);
  }

  @Override
  public Draft<?> draft() {
    return now.draft();
  }

  @Override
  public BitSet marked() {
    return now.marked();
  }

  @Override
  public boolean areLinesSeenThrough() {
    return now.areLinesSeenThrough();
  }

  @Override
  public double[] surfaceLines() {
    return now.surfaceLines();
  }

  @Override
  public Workpiece shows() {
    return now.shows();
  }

  @Override
  public boolean makesSteps() {
    return now.makesSteps();
  }

  @Override
  public boolean isOnTriangles() {
    return now.isOnTriangles();
  }

  @Override
  public void measured() {
    now.measured();
  }

  @Override
  public String advice(Figures before, Figures after) {
    return now.advice(before, after);
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    now.draw(view, g);
  }

  @Override
  public void load(Step step) {
    choose(step.getClass());
    now.load(step);
    fill();
  }

  @Override
  public String verb(History trial) {
    return now.verb(trial);
  }
}
