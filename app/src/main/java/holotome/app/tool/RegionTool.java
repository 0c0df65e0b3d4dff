package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Function;
import javafx.scene.Node;
import javafx.scene.control.Label;

/** A tool that works where something is selected; its step has the picks. */
class RegionTool extends StepTool {
  /** On larger meshes it is not tried out on every edit. */
  private static final int QUICK = 1_500_000;

  private final StepKind kind;
  private final String everywhere;
  private final Label where = new Label();
  private final SelectedPart selected;

  /** A tool of Mend, tried out on every edit. */
  RegionTool(
      Session session,
      Class<? extends Step> type,
      BiFunction<Step, History, String> verb,
      Function<Workpiece, List<Row>> estimate,
      String everywhere) {
    this(session, type, Stage.MEND, true, verb, estimate, everywhere);
  }

  /**
   * @param everywhere what is said where nothing is selected and the step is then made everywhere;
   *     null where there must be a selection
   */
  RegionTool(
      Session session,
      Class<? extends Step> type,
      Stage stage,
      boolean isTried,
      BiFunction<Step, History, String> verb,
      Function<Workpiece, List<Row>> estimate,
      String everywhere) {
    super(session, type, stage, isTried, Map.of(), verb, estimate);
    triedUpTo(QUICK);
    kind = StepKind.of(type);
    selected = new SelectedPart(session, kind);
    this.everywhere = everywhere;
    where.setWrapText(true);
    where.getStyleClass().addAll("soft", "small");
    where.setId(id() + "-where");
  }

  /** Whether it works on what is selected, now or when it was stored. */
  final boolean isSomeWhere() {
    return selected.isSome();
  }

  @Override
  public String missing() {
    return everywhere == null && session.current() != null && !isSomeWhere()
        ? AppWords.of("region-tool.select-first")
        : null;
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide("picks");
    return form;
  }

  @Override
  public Node details() {
    return where;
  }

  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    selected.put(v);
    where.setText(selected.words(everywhere == null ? "" : everywhere));
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    selected.load(step);
  }

  @Override
  public void end(ViewPort view) {
    selected.clear();
  }
}
