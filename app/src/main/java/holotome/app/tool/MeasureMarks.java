package holotome.app.tool;

import holotome.core.measure.Measured;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;

/** Draws what was measured over the view. */
public final class MeasureMarks {
  private MeasureMarks() {}

  public static void draw(ViewPort view, GraphicsContext g, List<Measured> all, boolean trueSize) {
    for (Measured m : all) {
      for (double[] line : m.lines()) {
        Marks.line(view, g, line, Marks.VERDIGRIS);
      }
    }
    for (Measured m : all) {
      if (!m.lines().isEmpty()) {
        double[] p = view.project(m.label());
        double[] at = p == null ? null : new double[] {p[0], p[1] - 14};
        Marks.slip(g, at, m.of().name() + "  " + m.text(trueSize));
      }
    }
  }
}
