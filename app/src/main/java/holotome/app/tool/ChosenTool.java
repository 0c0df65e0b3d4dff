package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** Does something to the charts that are chosen, or to all where none is. */
class ChosenTool extends StepTool {
  private static final String CHARTS = "charts";

  private final StepKind kind;
  private final Label where = new Label();
  private final ChosenPart chosen;

  /**
   * @param verb key of what the button says
   */
  ChosenTool(Session session, Class<? extends Step> type, String verb) {
    super(
        session, type, Stage.UNWRAP, false, Map.of(), (s, t) -> AppWords.of(verb), w -> List.of());
    kind = StepKind.of(type);
    chosen = new ChosenPart(session, kind, CHARTS);
    where.setWrapText(true);
    where.getStyleClass().addAll("soft", "small");
    where.setId(kind.slug() + "-where");
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide(CHARTS);
    return form;
  }

  @Override
  public Node details() {
    return new VBox(6, where);
  }

  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    double[] now = chosen.now();
    chosen.put(v, now);
    where.setText(
        now.length > 0
            ? AppWords.count("chosen-tool.charts", now.length / 3)
            : AppWords.of(chosen.isStored() ? "chosen-tool.as-stored" : "chosen-tool.all"));
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    chosen.load(step);
  }

  @Override
  public void end(ViewPort view) {
    chosen.clear();
  }
}
