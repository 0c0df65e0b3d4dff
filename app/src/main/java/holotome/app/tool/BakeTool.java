package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.bake.BakeMaps;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.step.Step;
import holotome.core.unwrap.MakeCharts;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.VBox;

/**
 * Bakes the maps: at the size that the charts were last packed for, until another one is asked for.
 */
final class BakeTool extends StepTool {
  /** What is seldom asked for, out of sight until it is. */
  private static final List<String> MORE =
      List.of("filter", "padding", "whole", "along", "cage", "missed", "bits");

  private boolean isUnfolded;

  BakeTool(Session session) {
    super(
        session,
        BakeMaps.class,
        Stage.BAKE,
        false,
        Map.of(),
        (s, t) ->
            s instanceof BakeMaps b
                ? AppWords.of("tools.bake-maps-of-px", b.maps().size(), b.size())
                : AppWords.of("tools.bake-the-maps"),
        w -> List.of());
    following("size", () -> PackedSize.of(session.history()));
    needs(
        w ->
            w.cast() == null
                ? AppWords.of("tools.there-is-no-cast-to-2")
                : w.cast().uv() == null ? AppWords.of("common.the-cast-has-no-charts") : null,
        w ->
            w.cast() == null
                ? new Way(AppWords.of("common.make-a-cast"), Decimate.class)
                : new Way(AppWords.of("common.cut-charts"), MakeCharts.class));
  }

  @Override
  public Node form() {
    Node form = super.form();
    MORE.forEach(this::hide);
    Button more = new Button();
    more.getStyleClass().add("link");
    more.setId("bake-more");
    more.setOnAction(
        e -> {
          isUnfolded = !isUnfolded;
          fold(more);
        });
    fold(more);
    return new VBox(6, form, more);
  }

  private void fold(Button more) {
    MORE.forEach(isUnfolded ? this::reveal : this::hide);
    more.setText(AppWords.of(isUnfolded ? "bake-tool.less" : "bake-tool.more"));
  }

  @Override
  public void load(Step step) {
    // Whoever set what is seldom asked for is to see it again.
    BakeMaps b = (BakeMaps) step;
    BakeMaps usual = new BakeMaps(b.maps(), b.size(), b.samples(), b.padding());
    isUnfolded =
        b.whole() != usual.whole()
            || b.filter() != usual.filter()
            || b.along() != usual.along()
            || b.cage() != null
            || b.missed() != usual.missed()
            || b.bits() != usual.bits();
    super.load(step);
  }

  @Override
  public List<Row> estimate(Workpiece w) {
    if (w.cast() == null || !(Tools.stepOf(this) instanceof BakeMaps b)) {
      return List.of();
    }
    double rays = UnwrapTools.USUAL_FILL * b.size() * (double) b.size() * b.samples();
    return List.of(
        new Row("rays", "–", AppWords.of("tools.about-m", rays / 1e6)),
        new Row("memory", "–", AppWords.of("tools.about-mb", b.memory(w) >> 20)));
  }
}
