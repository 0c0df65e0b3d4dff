package holotome.app.tool;

import holotome.core.measure.Measured;
import java.util.ArrayList;
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
    List<double[]> slips = new ArrayList<>();
    for (Measured m : all) {
      double[] p = m.lines().isEmpty() ? null : view.project(m.label());
      if (p != null) {
        String text = m.of().name() + "  " + m.text(trueSize);
        double half = 3.7 * text.length() + 5;
        double[] at = {p[0], p[1] - 14, half};
        // Down until it lies on no other slip.
        while (slips.stream()
            .anyMatch(o -> Math.abs(o[1] - at[1]) < 20 && Math.abs(o[0] - at[0]) < o[2] + at[2])) {
          at[1] += 4;
        }
        slips.add(at);
        Marks.slip(g, at, text);
      }
    }
  }
}
