package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.mend.TakeNoise;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Label;

/** Takes noise off: of what is selected where something is, else everywhere. */
final class NoiseTool extends StepTool {
  /** On larger meshes it is not tried out on every edit. */
  private static final int QUICK = 1_500_000;

  private final StepKind kind = StepKind.of(TakeNoise.class);
  private final Label where = new Label();
  private Object stored;

  NoiseTool(Session session) {
    super(
        session,
        TakeNoise.class,
        Stage.MEND,
        true,
        Map.of(),
        (s, t) -> AppWords.of("noise-tool.take-the-noise-off"),
        w ->
            List.of(
                new Row(
                    "memory",
                    "–",
                    AppWords.of(
                        "tools.about-mb",
                        new TakeNoise(
                                    TakeNoise.How.EDGES_KEPT,
                                    null,
                                    1,
                                    null,
                                    new holotome.core.unit.Length(0))
                                .memory(w)
                            >> 20))));
    where.setWrapText(true);
    where.getStyleClass().addAll("soft", "small");
    where.setId("noise-where");
  }

  @Override
  public boolean isQuick() {
    Workpiece w = session.current();
    return w == null || w.scan().triangleCount() <= QUICK;
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide("picks");
    if (session.selected() == null && stored == null) {
      hide("soft");
    }
    return form;
  }

  @Override
  public Node details() {
    return where;
  }

  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    v.remove("picks");
    if (session.selected() != null) {
      v.put("picks", StepKind.plain(session.selected().picks()));
      where.setText(AppWords.of("noise-tool.in-the-selection", session.selected().count()));
    } else if (stored != null) {
      v.put("picks", stored);
      where.setText(AppWords.of("noise-tool.as-stored"));
    } else {
      where.setText(AppWords.of("noise-tool.everywhere"));
    }
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    stored = kind.values(step).get("picks");
  }

  @Override
  public void end(ViewPort view) {
    stored = null;
  }
}
