package holotome.app.window;

import holotome.app.model.Figures;
import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.tool.Tool;
import holotome.core.log.History;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.topology.Counts;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/** What a step changes, in figures: a row each, as it is and as it would be. */
final class ComparedFigures {
  private static final String UNKNOWN = "…";

  private ComparedFigures() {}

  /**
   * The rows of what is tried out; in Reduce of the mesh that there is and the Cast to be.
   *
   * @param result null while it is not known, as {@code after} of its Scan
   */
  static List<Tool.Row> rows(Session session, History result, Figures after) {
    Workpiece w = session.current();
    if (session.stage() == Stage.REDUCE) {
      boolean isMade = result != null && result.current().cast() != null;
      Mesh made = isMade ? result.current().cast() : null;
      return light(plain(w.current(), w), made == null ? null : plain(made, result.current()));
    }
    Insight i = session.insight();
    return rows(session.stage(), i == null ? null : Figures.of(w, i), after);
  }

  private static Figures plain(Mesh m, Workpiece w) {
    return new Figures(m.triangleCount(), 0, 0, w.frame().workBounds(m), w.frame().trueSize());
  }

  private static List<Tool.Row> light(Figures before, Figures after) {
    List<Tool.Row> rows = new ArrayList<>();
    rows.add(row("triangles", before, after, f -> count(f.triangles())));
    rows.addAll(sizes(before, after));
    return rows;
  }

  /**
   * The rows of a stage. Placing moves nothing but the frame: Datum has no counts.
   *
   * @param before null while it is not known
   * @param after null while it is not known
   */
  private static List<Tool.Row> rows(Stage stage, Figures before, Figures after) {
    List<Tool.Row> rows = new ArrayList<>();
    if (stage != Stage.DATUM) {
      rows.add(row("triangles", before, after, f -> count(f.triangles())));
      rows.add(row("islands", before, after, f -> count(f.islands())));
      rows.add(row("borders", before, after, f -> count(f.borders())));
    }
    rows.addAll(sizes(before, after));
    if (stage == Stage.DATUM) {
      rows.add(row("lowest", before, after, f -> length(f, f.size().minZ())));
    }
    return rows;
  }

  private static List<Tool.Row> sizes(Figures before, Figures after) {
    return List.of(
        row("width", before, after, f -> length(f, f.size().width())),
        row("depth", before, after, f -> length(f, f.size().depth())),
        row("height", before, after, f -> length(f, f.size().height())));
  }

  private static Tool.Row row(
      String name, Figures before, Figures after, Function<Figures, String> figure) {
    return new Tool.Row(
        name,
        before == null ? UNKNOWN : figure.apply(before),
        after == null ? UNKNOWN : figure.apply(after));
  }

  private static String count(int n) {
    return n == Counts.NOT_COUNTED ? "–" : Language.format("%,d", n);
  }

  private static String length(Figures f, double v) {
    return Length.format(v, f.trueSize());
  }
}
