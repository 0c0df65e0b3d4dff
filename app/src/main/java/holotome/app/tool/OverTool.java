package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unwrap.LayOver;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/**
 * Lays the charts that are chosen over one that was chosen before to lead; without one it takes
 * them off what they lie over.
 */
final class OverTool extends StepTool {
  private static final String CHARTS = "charts";
  private static final String ONTO = "onto";

  private final StepKind kind = StepKind.of(LayOver.class);
  private final Label where = new Label();
  private final Button leads = new Button();
  private final VBox details = new VBox(6, leads, where);

  /** A point of the chart that leads, in working space; null for none. */
  private double[] leader;

  private final ChosenPart chosen;

  OverTool(Session session) {
    super(
        session,
        LayOver.class,
        Stage.UNWRAP,
        false,
        Map.of(),
        (s, t) ->
            AppWords.of(
                s instanceof LayOver o && o.onto() == null
                    ? "over-tool.take-off"
                    : "over-tool.lay-over"),
        w -> List.of());
    chosen = new ChosenPart(session, kind, CHARTS);
    where.setWrapText(true);
    where.getStyleClass().addAll("soft", "small");
    where.setId("unwrap-over-where");
    leads.setId("unwrap-over-leads");
    leads.getStyleClass().setAll("small-button");
    leads.setOnAction(e -> chooseLeader());
  }

  /** The chart that is chosen leads from now on; where none is, none does. */
  private void chooseLeader() {
    double[] now = chosen.now();
    leader = now.length == 3 ? now : null;
    session.charts().drop();
    edited();
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide(CHARTS);
    hide(ONTO);
    return form;
  }

  @Override
  public Node details() {
    return details;
  }

  /** What is to be chosen yet. */
  @Override
  public String missing() {
    String first = super.missing();
    if (first != null || chosen.isStored() || chosen.now().length > 0) {
      return first;
    }
    showLeader(0);
    return AppWords.of(leader == null ? "over-tool.choose-leader" : "over-tool.choose-others");
  }

  @Override
  public Way way() {
    return super.missing() == null ? null : super.way();
  }

  private void showLeader(int count) {
    where.setText("");
    leads.setText(AppWords.of(count == 1 ? "over-tool.leads" : "over-tool.none-leads"));
    leads.setDisable(count != 1 && leader == null);
  }

  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    double[] now = chosen.now();
    showLeader(now.length / 3);
    chosen.put(v, now);
    v.remove(ONTO);
    if (leader != null) {
      v.put(ONTO, StepKind.plain(leader));
    }
    where.setText(words(now.length / 3));
    return kind.create(v);
  }

  private String words(int count) {
    return count == 0
        ? AppWords.of("over-tool.as-stored")
        : leader == null
            ? AppWords.of("over-tool.choose-leader-or-off")
            : AppWords.count("over-tool.charts", count);
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (leader != null) {
      Marks.ring(g, view.project(leader));
    }
  }

  @Override
  public void load(Step step) {
    super.load(step);
    chosen.load(step);
    leader = ((LayOver) step).onto();
  }

  @Override
  public void end(ViewPort view) {
    leader = null;
    chosen.clear();
  }
}
