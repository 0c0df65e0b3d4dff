package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.intake.OpenCast;
import holotome.core.log.History;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.proxy.EditProxy;
import holotome.core.proxy.FromPlanes;
import holotome.core.proxy.MakeBlock;
import holotome.core.proxy.SettleProxy;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.GiveImportance;
import holotome.core.reduce.MakeFacets;
import holotome.core.reduce.MakeLevels;
import holotome.core.reduce.MakeQuads;
import holotome.core.reduce.Remesh;
import holotome.core.reduce.Resurface;
import holotome.core.step.Step;
import holotome.core.swatch.LaySwatch;
import holotome.core.swatch.SettleSwatch;
import holotome.core.words.Language;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Function;

/** The tools of the Reduce stage: what becomes lighter, and how light. */
final class ReduceTools {
  private final Session session;
  private final Map<Class<? extends Step>, Tool> all = new LinkedHashMap<>();

  ReduceTools(Session session) {
    this.session = session;
    all.put(
        Decimate.class,
        new DecimateTool(
            session,
            (s, t) -> s instanceof Decimate d ? reducing(d) : AppWords.of("tools.make-the-cast")));
    add(
        Remesh.class,
        Map.of("triangles", 20000),
        (s, t) -> AppWords.of("tools.make-even-triangles"),
        (w, s) -> after(w.scan(), s instanceof Remesh r ? triangles(w, r) : null));
    all.put(MakeQuads.class, new QuadTool(session));
    add(
        MakeFacets.class,
        Map.of(),
        (s, t) ->
            s instanceof MakeFacets f
                ? AppWords.of("tools.make-facets", f.triangles())
                : AppWords.of("tools.make-the-cast"),
        (w, s) -> after(w.scan(), s instanceof MakeFacets f ? (long) f.triangles() : null));
    add(
        MakeLevels.class,
        Map.of("percent", 50.0),
        (s, t) -> AppWords.of("tools.make-the-levels"),
        (w, s) -> after(w.current(), s instanceof MakeLevels l ? lightest(w, l) : null));
    add(
        Resurface.class,
        Map.of(),
        (s, t) -> AppWords.of("tools.make-a-new-surface"),
        (w, s) -> after(w.scan(), s instanceof Resurface r ? r.expected(w) : null));
    all.put(OpenCast.class, new OutsideCastTool(session));
    all.put(GiveImportance.class, new ImportanceTool(session));
    Map<Class<? extends Step>, Tool> swatch = new LinkedHashMap<>();
    swatch.put(LaySwatch.class, new SwatchTool(session));
    swatch.put(SettleSwatch.class, settle());
    addKinds("swatch", swatch);
    Map<Class<? extends Step>, Tool> proxy = new LinkedHashMap<>();
    proxy.put(FromPlanes.class, new PlanesTool(session));
    proxy.put(MakeBlock.class, new BlockTool(session));
    proxy.put(EditProxy.class, new ProxyEditTool(session));
    proxy.put(SettleProxy.class, new SettleTool(session));
    addKinds("proxy", proxy);
  }

  private void addKinds(String id, Map<Class<? extends Step>, Tool> kinds) {
    KindTool tool = new KindTool(session, id, Stage.REDUCE, kinds);
    kinds.keySet().forEach(type -> all.put(type, tool));
  }

  private StepTool settle() {
    return new StepTool(
            session,
            SettleSwatch.class,
            Stage.REDUCE,
            false,
            Map.of(),
            (s, t) -> AppWords.of("swatch-tool.settle"),
            w -> List.of())
        .needs(
            w -> w.cast() == null ? AppWords.of("swatch-tool.nothing-laid") : null,
            w -> new Tool.Way(AppWords.of("swatch-tool.lay"), LaySwatch.class));
  }

  /** The tools in their order, by the steps they make. */
  Map<Class<? extends Step>, Tool> all() {
    return all;
  }

  private void add(
      Class<? extends Step> type,
      Map<String, Object> presets,
      BiFunction<Step, History, String> verb,
      BiFunction<Workpiece, Step, List<Tool.Row>> rows) {
    StepTool[] self = new StepTool[1];
    Function<Workpiece, List<Tool.Row>> estimate = w -> rows.apply(w, Tools.stepOf(self[0]));
    self[0] = new StepTool(session, type, Stage.REDUCE, false, presets, verb, estimate);
    all.put(type, self[0]);
  }

  private static String reducing(Decimate d) {
    return d.triangles() != null
        ? AppWords.of("tools.reduce-to-triangles", d.triangles())
        : d.percent() != null
            ? AppWords.of("tools.reduce-to", d.percent())
            : AppWords.of("tools.reduce-within", d.tolerance());
  }

  private static Long triangles(Workpiece w, Remesh r) {
    if (r.edge() == null) {
      return r.triangles() == null ? null : Long.valueOf(r.triangles());
    }
    double edge = w.frame().toBaseLength(r.edge().metres());
    return Math.round(Measures.area(w.scan()) / (edge * edge) * 4 / Math.sqrt(3));
  }

  private static Long lightest(Workpiece w, MakeLevels l) {
    if (l.triangles() != null) {
      return (long) l.triangles()[l.triangles().length - 1];
    }
    return l.percent() == null
        ? null
        : Long.valueOf(
            Math.round(w.current().triangleCount() * Math.pow(l.percent() / 100, l.count())));
  }

  private static List<Tool.Row> after(Mesh mesh, Long triangles) {
    return List.of(
        new Tool.Row(
            "triangles",
            Language.format("%,d", mesh.triangleCount()),
            triangles == null
                ? AppWords.of("tools.by-tolerance")
                : Language.format("%,d", triangles)));
  }
}
