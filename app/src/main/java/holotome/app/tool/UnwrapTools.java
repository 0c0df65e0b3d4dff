package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.mesh.Measures;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.step.Step;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import holotome.core.words.Language;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Function;

/** The tools of the Unwrap stage: charts, and how they lie in the texture. */
final class UnwrapTools {
  /** What charts fill of a texture, as a rule. */
  static final double USUAL_FILL = 0.7;

  private final Session session;
  private final Map<Class<? extends Step>, Tool> all = new LinkedHashMap<>();

  UnwrapTools(Session session) {
    this.session = session;
    add(MakeCharts.class, "tools.cut-and-pack-the-charts")
        .needs(
            w -> w.cast() == null ? AppWords.of("tools.there-is-no-cast-to") : null,
            w -> new Tool.Way(AppWords.of("common.make-a-cast"), Decimate.class));
    add(PackCharts.class, "tools.pack-the-charts")
        .needs(
            w ->
                w.cast() == null
                    ? AppWords.of("tools.there-is-no-cast-to")
                    : w.cast().uv() == null ? AppWords.of("common.the-cast-has-no-charts") : null,
            w ->
                w.cast() == null
                    ? new Tool.Way(AppWords.of("common.make-a-cast"), Decimate.class)
                    : new Tool.Way(AppWords.of("common.cut-charts"), MakeCharts.class));
  }

  /** The tools in their order, by the steps they make. */
  Map<Class<? extends Step>, Tool> all() {
    return all;
  }

  private StepTool add(Class<? extends Step> type, String verb) {
    StepTool[] self = new StepTool[1];
    Function<Workpiece, List<Tool.Row>> rows = w -> density(w, Tools.stepOf(self[0]));
    BiFunction<Step, History, String> says = (s, t) -> AppWords.of(verb);
    self[0] = new StepTool(session, type, Stage.UNWRAP, false, Map.of(), says, rows);
    all.put(type, self[0]);
    return self[0];
  }

  private static List<Tool.Row> density(Workpiece w, Step step) {
    if (w.cast() == null || step == null) {
      return List.of();
    }
    int size = step instanceof PackCharts p ? p.size() : ((MakeCharts) step).size();
    double area = Measures.area(w.cast()) * Math.pow(w.frame().toWork().scale(), 2);
    double perMetre = Math.sqrt(USUAL_FILL * size * (double) size / area);
    return List.of(
        new Tool.Row(
            "triangles",
            Language.format("%,d", w.cast().triangleCount()),
            AppWords.of("tools.the-same")),
        new Tool.Row(
            "texel-density",
            "–",
            w.frame().trueSize()
                ? AppWords.of("tools.about-px-m", perMetre)
                : AppWords.of("tools.about-px-unit", perMetre)));
  }
}
