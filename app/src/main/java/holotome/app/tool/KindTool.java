package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/** Several kinds of step of one sort as one tool, with a choice between them. */
final class KindTool extends Tool {
  private final String id;
  private final Stage stage;
  private final Map<Class<? extends Step>, StepTool> kinds = new LinkedHashMap<>();
  private final ChoiceBox<String> choice = new ChoiceBox<>();
  private final Label hint = new Label();
  private final VBox form = new VBox(6);
  private final VBox details = new VBox();
  private StepTool now;
  private boolean writing;

  /**
   * @param kinds in the order they are offered
   */
  KindTool(Session session, String id, Stage stage, Map<Class<? extends Step>, StepTool> kinds) {
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
    now = List.copyOf(kinds.values()).get(index);
    fill();
    edited();
  }

  /** Turns to a kind without telling. */
  void choose(Class<? extends Step> type) {
    now = kinds.get(type);
    writing = true;
    choice.getSelectionModel().select(List.copyOf(kinds.keySet()).indexOf(type));
    writing = false;
    fill();
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
  public void begin(ViewPort view) {
    kinds.values().forEach(k -> k.begin(view));
  }

  @Override
  public void end(ViewPort view) {
    kinds.values().forEach(k -> k.end(view));
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
