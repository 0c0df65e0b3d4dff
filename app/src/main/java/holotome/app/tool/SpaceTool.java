package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unwrap.GiveSpace;
import holotome.core.words.Language;
import holotome.view.scene.Look;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Label;

/** Gives the charts that are chosen, or what is selected, more or less of the texture. */
final class SpaceTool extends StepTool {
  private static final String CHARTS = "charts";

  private final StepKind kind = StepKind.of(GiveSpace.class);
  private final SelectedPart selected;
  private final Label where = new Label();
  private final ChosenPart chosen;

  SpaceTool(Session session) {
    super(
        session,
        GiveSpace.class,
        Stage.UNWRAP,
        false,
        Map.of(),
        (s, t) ->
            s instanceof GiveSpace g
                ? AppWords.of("space-tool.give", Language.figure(g.times()))
                : AppWords.of("space-tool.give-plain"),
        w -> List.of());
    selected = new SelectedPart(session, kind);
    chosen = new ChosenPart(session, kind, CHARTS);
    where.setWrapText(true);
    where.getStyleClass().addAll("soft", "small");
    where.setId("unwrap-space-where");
  }

  @Override
  public Look look() {
    return Look.IMPORTANCE;
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide("picks");
    hide(CHARTS);
    return form;
  }

  @Override
  public Node details() {
    return where;
  }

  /** Where it goes: charts that are chosen before what is selected, and both before what was. */
  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    double[] now = chosen.now();
    v.remove(CHARTS);
    selected.put(v);
    boolean isStored = now.length == 0 && session.selected() == null && chosen.isStored();
    if (now.length > 0 || isStored) {
      v.remove("picks");
      chosen.put(v, now);
    }
    where.setText(
        now.length > 0
            ? AppWords.count("space-tool.charts", now.length / 3)
            : isStored
                ? AppWords.of("space-tool.as-stored")
                : selected.words(AppWords.of("space-tool.everything")));
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    selected.load(step);
    chosen.load(step);
  }

  @Override
  public void end(ViewPort view) {
    selected.clear();
    chosen.clear();
  }
}
