package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unwrap.PackCharts;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** Packs the charts anew, around those that are chosen where these are to stay. */
final class PackTool extends StepTool {
  private static final String STAY = "stay";

  private final StepKind kind = StepKind.of(PackCharts.class);
  private final CheckBox stays = new CheckBox(AppWords.of("pack-tool.stays"));
  private final Label where = new Label();
  private final Node fits;
  private final ChosenPart chosen;

  /**
   * @param fits shown below the buttons
   */
  PackTool(Session session, Function<Workpiece, List<Row>> rows, Node fits) {
    super(
        session,
        PackCharts.class,
        Stage.UNWRAP,
        false,
        Map.of(),
        (s, t) -> AppWords.of("tools.pack-the-charts"),
        rows);
    this.fits = fits;
    chosen = new ChosenPart(session, kind, STAY);
    stays.setId("pack-stays");
    stays.setOnAction(e -> edited());
    where.setId("pack-where");
    where.setWrapText(true);
    where.getStyleClass().addAll("soft", "small");
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide(STAY);
    return new VBox(8, form, stays, where);
  }

  @Override
  public Node details() {
    return fits;
  }

  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    v.remove(STAY);
    double[] now = chosen.now();
    if (stays.isSelected()) {
      chosen.put(v, now);
    }
    where.setText(
        now.length > 0
            ? AppWords.count("pack-tool.chosen", now.length / 3)
            : AppWords.of(chosen.isStored() ? "space-tool.as-stored" : "pack-tool.none"));
    where.setVisible(stays.isSelected());
    where.setManaged(stays.isSelected());
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    chosen.load(step);
    stays.setSelected(chosen.isStored());
  }

  @Override
  public void end(ViewPort view) {
    chosen.clear();
  }
}
