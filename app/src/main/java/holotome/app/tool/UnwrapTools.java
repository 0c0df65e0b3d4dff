package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unwrap.ArrangeCharts;
import holotome.core.unwrap.EditSeams;
import holotome.core.unwrap.GiveSpace;
import holotome.core.unwrap.KeepCharts;
import holotome.core.unwrap.LayOver;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import holotome.core.unwrap.ProjectCharts;
import holotome.core.unwrap.ScanFit;
import holotome.core.unwrap.SparseHidden;
import holotome.core.unwrap.StraightenCharts;
import holotome.core.words.Language;
import java.lang.ref.WeakReference;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Label;

/** The tools of the Unwrap stage: charts, and how they lie in the texture. */
final class UnwrapTools {
  /** What charts fill of a texture, as a rule. */
  static final double USUAL_FILL = 0.7;

  private final Session session;
  private final Map<Class<? extends Step>, Tool> all = new LinkedHashMap<>();

  UnwrapTools(Session session) {
    this.session = session;
    Label fits = fits(MakeCharts.class);
    StepTool[] cut = new StepTool[1];
    cut[0] =
        new StepTool(
            session,
            MakeCharts.class,
            Stage.UNWRAP,
            false,
            Map.of(),
            (s, t) -> AppWords.of("tools.cut-and-pack-the-charts"),
            w -> density(w, Tools.stepOf(cut[0]), fits)) {
          @Override
          public Node details() {
            return fits;
          }
        };
    all.put(MakeCharts.class, needingCast(cut[0]));
    Label packed = fits(PackCharts.class);
    StepTool[] pack = new StepTool[1];
    pack[0] = new PackTool(session, w -> density(w, Tools.stepOf(pack[0]), packed), packed);
    all.put(PackCharts.class, needingCharts(pack[0]));
    all.put(ArrangeCharts.class, new ArrangeTool(session));
    all.put(SparseHidden.class, needingCast(new HiddenTool(session)));
    all.put(GiveSpace.class, needingCast(new SpaceTool(session)));
    all.put(LayOver.class, needingCharts(new OverTool(session)));
    all.put(EditSeams.class, new SeamsTool(session));
    all.put(ProjectCharts.class, needingCast(new ProjectTool(session)));
    ChosenTool straighten =
        new ChosenTool(session, StraightenCharts.class, "straighten-tool.straighten");
    all.put(StraightenCharts.class, needingCharts(straighten));
    all.put(KeepCharts.class, needingCharts(keep()));
  }

  private StepTool keep() {
    return new StepTool(
        session,
        KeepCharts.class,
        Stage.UNWRAP,
        false,
        Map.of(),
        (s, t) ->
            AppWords.of(
                "keep-tool."
                    + (s instanceof KeepCharts k ? k.how() : KeepCharts.How.SECOND)
                        .name()
                        .toLowerCase(Locale.ROOT)),
        w -> List.of());
  }

  private static StepTool needingCharts(StepTool tool) {
    return tool.needs(
        w ->
            w.cast() == null
                ? AppWords.of("tools.there-is-no-cast-to")
                : w.cast().uv() == null ? AppWords.of("common.the-cast-has-no-charts") : null,
        w ->
            w.cast() == null
                ? new Tool.Way(AppWords.of("common.make-a-cast"), Decimate.class)
                : new Tool.Way(AppWords.of("common.cut-charts"), MakeCharts.class));
  }

  private static StepTool needingCast(StepTool tool) {
    return tool.needs(
        w -> w.cast() == null ? AppWords.of("tools.there-is-no-cast-to") : null,
        w -> new Tool.Way(AppWords.of("common.make-a-cast"), Decimate.class));
  }

  /** The tools in their order, by the steps they make. */
  Map<Class<? extends Step>, Tool> all() {
    return all;
  }

  private static Label fits(Class<? extends Step> type) {
    Label fits = new Label();
    fits.setWrapText(true);
    fits.getStyleClass().addAll("soft", "small");
    fits.setId(StepKind.of(type).slug() + "-fit");
    return fits;
  }

  /** The sizes of picture that the scan's detail is held against, beside the one chosen. */
  private static final int[] SIZES = {2048, 4096, 8192, 16384};

  private WeakReference<Mesh> measured = new WeakReference<>(null);
  private double area;
  private WeakReference<Mesh> measuredScan = new WeakReference<>(null);
  private ScanFit fit;

  private List<Tool.Row> density(Workpiece w, Step step, Label fits) {
    if (w.cast() == null || step == null) {
      fits.setText("");
      return List.of();
    }
    if (measured.get() != w.cast()) {
      measured = new WeakReference<>(w.cast());
      area = Measures.area(w.cast());
    }
    if (measuredScan.get() != w.scan()) {
      measuredScan = new WeakReference<>(w.scan());
      fit = ScanFit.of(w.scan());
    }
    double scale = w.frame().toWork().scale();
    // Texels to a unit of base length in a picture of one, and to a metre as asked or foreseen.
    int squares = step instanceof PackCharts p ? p.squares() : 1;
    double one = Math.sqrt(USUAL_FILL * squares / area);
    double perMetre =
        step instanceof PackCharts p && p.density() != null
            ? p.density()
            : one * (step instanceof PackCharts p ? p.size() : ((MakeCharts) step).size()) / scale;
    String[] percent = new String[SIZES.length];
    for (int i = 0; i < SIZES.length; i++) {
      percent[i] = fitting(one * SIZES[i]);
    }
    fits.setText(
        squares > 1
            ? AppWords.of(
                "tools.fit-squares", squares, percent[0], percent[1], percent[2], percent[3])
            : AppWords.of("tools.fit", (Object[]) percent));
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

  /** How fine texels are beside the scan's detail, in percent. */
  private String fitting(double texels) {
    double percent = 100 * fit.share(texels);
    return Language.format("%,.0f", percent < 10 ? percent : Math.rint(percent / 5) * 5);
  }
}
