package holotome.app.tool;

import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.view.camera.Camera;
import javafx.scene.control.ChoiceBox;

/**
 * Which way something goes that is dragged: in the picture, along the surface's normal, an axis.
 */
final class Along {
  /** Pixels that an axis must have on screen per unit of the picture's, to be followed. */
  private static final double SEEN = 0.15;

  private final ChoiceBox<String> box = new ChoiceBox<>();

  Along(String id) {
    box.getItems()
        .addAll(
            AppWords.of("pull-tool.picture"),
            AppWords.of("along.normal"),
            AppWords.of("pull-tool.axis", "X"),
            AppWords.of("pull-tool.axis", "Y"),
            AppWords.of("pull-tool.axis", "Z"));
    box.getSelectionModel().select(0);
    box.setId(id);
    box.setAccessibleText(AppWords.of("pull-tool.along"));
    box.setMaxWidth(Double.MAX_VALUE);
  }

  ChoiceBox<String> box() {
    return box;
  }

  /**
   * The way in working space that a drag means.
   *
   * @param held the point that is dragged
   * @param normal of the surface there; null where it is not known
   * @param dx pixels to the right
   * @param dy pixels down
   */
  double[] way(ViewPort view, double[] held, double[] normal, double dx, double dy) {
    Camera c = view.camera();
    double depth = Vec.dot(Vec.sub(held, c.eye()), c.forward());
    double unit = c.unitsPerPixel((int) view.height());
    if (c.perspective()) {
      unit *= depth / c.distance();
    }
    double[] inPicture = Vec.add(Vec.mul(c.right(), dx * unit), Vec.mul(c.up(), -dy * unit));
    double[] axis = axis(normal);
    if (axis == null) {
      return inPicture;
    }
    // As far along the axis as brings it nearest to the pointer, seen in the picture.
    double x = Vec.dot(axis, c.right());
    double y = Vec.dot(axis, c.up());
    double seen = x * x + y * y;
    double far = seen > SEEN * SEEN ? (x * dx - y * dy) * unit / seen : -dy * unit;
    return Vec.mul(axis, far);
  }

  /** Whether it is one of the axes. */
  boolean isAxis() {
    return box.getSelectionModel().getSelectedIndex() > 1;
  }

  /** The direction that it is, unit; null for the picture's, and for a normal that is not known. */
  double[] axis(double[] normal) {
    int chosen = box.getSelectionModel().getSelectedIndex();
    if (chosen == 1 && normal != null) {
      return normal;
    }
    if (chosen < 2) {
      return null;
    }
    double[] out = new double[3];
    out[chosen - 2] = 1;
    return out;
  }
}
