package holotome.app.window;

import holotome.app.model.ChartSheet;
import holotome.app.model.Finding;
import holotome.app.model.Finding.Severity;
import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.step.Step;
import holotome.core.unwrap.ChartFaults;
import holotome.core.unwrap.GiveSpace;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import holotome.core.unwrap.SparseHidden;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.Consumer;

/** What there is to say of the charts: whether there are any, and how they lie. */
final class UnwrapFindings {
  private final Session session;
  private final Consumer<Class<? extends Step>> take;

  UnwrapFindings(Session session, Consumer<Class<? extends Step>> take) {
    this.session = session;
    this.take = take;
  }

  /**
   * @param said what was said when the charts were made; empty where they came with the Cast
   */
  List<Finding> of(Workpiece w, String said) {
    if (w.cast() == null) {
      return List.of(
          Findings.leading(
              take,
              Severity.ERROR,
              AppWords.of("findings.no-cast"),
              AppWords.of("findings.only-the-cast-is-unwrapped"),
              null,
              AppWords.of("common.make-a-cast"),
              Decimate.class));
    }
    if (w.cast().uv() == null) {
      return List.of(
          Findings.leading(
              take,
              Severity.WARN,
              AppWords.of("findings.no-texture-coordinates"),
              AppWords.of("findings.the-cast-needs-charts-before"),
              null,
              AppWords.of("common.cut-charts"),
              MakeCharts.class));
    }
    List<Finding> out = new ArrayList<>();
    Step given = spaceNotGiven();
    if (given != null) {
      boolean isWhole = given instanceof GiveSpace g && g.charts() != null;
      out.add(
          Findings.leading(
              take,
              Severity.WARN,
              AppWords.of("findings.space-not-given"),
              AppWords.of(isWhole ? "findings.pack-for-space" : "findings.cut-for-space"),
              null,
              AppWords.of(isWhole ? "tools.pack-the-charts" : "common.cut-charts"),
              isWhole ? PackCharts.class : MakeCharts.class));
    }
    // Where the state looked at is another the charts of this one are not looked for.
    boolean isNow = session.lookBack() < 0;
    ChartSheet sheet = isNow ? session.charts().sheet(w.cast()) : null;
    if (sheet != null) {
      faults(w.cast(), sheet.faults(), out);
    }
    if (out.isEmpty()) {
      out.add(
          Finding.good(
              AppWords.of("findings.unwrapped"),
              said.isEmpty() ? AppWords.of("findings.it-came-with-charts") : said + "."));
    }
    return out;
  }

  private void faults(Mesh mesh, ChartFaults f, List<Finding> out) {
    add(mesh, "over", f.over(), out, 100 * f.overShare());
    add(mesh, "flipped", f.flipped(), out);
    add(mesh, "outside", f.outside(), out);
    if (f.over().isEmpty()) {
      add(mesh, "near", f.near(), out);
    }
  }

  private void add(Mesh mesh, String kind, BitSet charts, List<Finding> out, Object... figures) {
    if (!charts.isEmpty()) {
      out.add(
          Findings.leading(
              take,
              Severity.WARN,
              AppWords.count("chart-faults." + kind, charts.cardinality()),
              AppWords.of("chart-faults." + kind + "-text", figures),
              () -> session.charts().choose(mesh, charts),
              AppWords.of("tools.pack-the-charts"),
              PackCharts.class));
    }
  }

  /** The last step that asks for more or less space and was not followed by charts; or null. */
  private Step spaceNotGiven() {
    Step asked = null;
    for (History.Line l : session.history().lines()) {
      Step s = l.entry().step();
      if (l.entry().on() && (s instanceof GiveSpace || s instanceof SparseHidden)) {
        // One that was given to a part needs cutting, whatever charts came later.
        boolean isPart = asked != null && !(asked instanceof GiveSpace g && g.charts() != null);
        asked = isPart ? asked : s;
      } else if (l.entry().on() && Findings.unwraps(s)) {
        asked = null;
      }
    }
    return asked;
  }
}
