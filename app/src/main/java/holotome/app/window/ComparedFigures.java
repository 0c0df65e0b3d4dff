package holotome.app.window;

import holotome.app.model.Figures;
import holotome.app.model.Stage;
import holotome.app.tool.Tool;
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
   * The rows of a stage. Placing moves nothing but the frame: Datum has no counts.
   *
   * @param before null while it is not known
   * @param after null while it is not known
   */
  static List<Tool.Row> rows(Stage stage, Figures before, Figures after) {
    List<Tool.Row> rows = new ArrayList<>();
    if (stage != Stage.DATUM) {
      rows.add(row("triangles", before, after, f -> count(f.triangles())));
      rows.add(row("islands", before, after, f -> count(f.islands())));
      rows.add(row("borders", before, after, f -> count(f.borders())));
    }
    rows.add(row("width", before, after, f -> length(f, f.size().width())));
    rows.add(row("depth", before, after, f -> length(f, f.size().depth())));
    rows.add(row("height", before, after, f -> length(f, f.size().height())));
    if (stage == Stage.DATUM) {
      rows.add(row("lowest", before, after, f -> length(f, f.size().minZ())));
    }
    return rows;
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
