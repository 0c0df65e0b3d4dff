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

  /** A rectangle that is drawn around things: two corners, x and y each. */
  static void rectangle(GraphicsContext g, double[] r) {
    double[] a = {r[0], r[1]};
    double[] b = {r[2], r[1]};
    double[] c = {r[2], r[3]};
    double[] d = {r[0], r[3]};
    Marks.thick(g, a, b);
    Marks.thick(g, b, c);
    Marks.thick(g, c, d);
    Marks.thick(g, d, a);
  }
}
