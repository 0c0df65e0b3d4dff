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
  private Object stored;

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
    v.remove(CHARTS);
    double[] points = chosen();
    if (points.length > 0) {
      v.remove("picks");
      v.put(CHARTS, StepKind.plain(points));
      where.setText(AppWords.count("space-tool.charts", points.length / 3));
      return kind.create(v);
    }
    selected.put(v);
    boolean isStored = session.selected() == null && stored != null;
    if (isStored) {
      v.remove("picks");
      v.put(CHARTS, stored);
    }
    where.setText(
        isStored
            ? AppWords.of("space-tool.as-stored")
            : selected.words(AppWords.of("space-tool.everything")));
    return kind.create(v);
  }

  /** A point of each chart that is chosen, in working space. */
  private double[] chosen() {
    return session.charts().points(session.current());
  }

  @Override
  public void load(Step step) {
    super.load(step);
    selected.load(step);
    stored = kind.values(step).get(CHARTS);
  }

  @Override
  public void end(ViewPort view) {
    selected.clear();
    stored = null;
  }
}
