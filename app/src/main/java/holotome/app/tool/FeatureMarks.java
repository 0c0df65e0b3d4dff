package holotome.app.tool;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;

/** How points, edges and faces are marked in the view that are chosen or pointed at. */
final class FeatureMarks {
  private FeatureMarks() {}

  /**
   * Marks one.
   *
   * @param isChosen or else only pointed at
   */
  static void draw(ViewPort view, GraphicsContext g, Feature f, boolean isChosen) {
    if (f.size() == 1) {
      double[] p = view.project(f.points());
      if (p != null && isChosen) {
        Marks.ring(g, p);
      } else if (p != null) {
        Marks.dot(g, p);
      }
      return;
    }
    List<double[]> corners = new ArrayList<>();
    for (int i = 0; i < f.size(); i++) {
      corners.add(f.corner(i));
    }
    if (f.size() > 2) {
      corners.add(corners.getFirst());
    }
    if (isChosen) {
      Marks.thick(view, g, Feature.flat(corners));
    } else {
      Marks.line(view, g, Feature.flat(corners), Marks.VERDIGRIS);
    }
  }
}
