package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.bake.BakeMaps;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.unwrap.MakeCharts;
import java.util.List;
import java.util.Map;

/**
 * Bakes the maps: at the size that the charts were last packed for, until another one is asked for.
 */
final class BakeTool extends StepTool {
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
