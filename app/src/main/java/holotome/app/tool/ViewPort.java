package holotome.app.tool;

import holotome.core.mesh.Mesh;
import holotome.view.camera.Camera;
import java.util.BitSet;
import java.util.function.BiConsumer;
import java.util.function.Consumer;

/** What a tool may ask of the view. */
public interface ViewPort {
  Camera camera();

  double width();

  double height();

  /** From working space to pixels, 4 x 4 by rows. */
  double[] toPixels();

  /** A point of working space in pixels: x, y; null behind the eye. */
  default double[] project(double[] p) {
    double[] m = toPixels();
    double w = m[12] * p[0] + m[13] * p[1] + m[14] * p[2] + m[15];
    if (!(w > 0)) {
      return null;
    }
    return new double[] {
      (m[0] * p[0] + m[1] * p[1] + m[2] * p[2] + m[3]) / w,
      (m[4] * p[0] + m[5] * p[1] + m[6] * p[2] + m[7]) / w
    };
  }

  /**
   * The surface point under a pixel in working space, or null; answered on the interface thread.
   */
  void pick(double x, double y, Consumer<double[]> answer);

  /** The triangle under a pixel and the point on it; -1 and null for none. */
  void pickTriangle(double x, double y, BiConsumer<Integer, double[]> answer);

  /** The triangles seen within an outline; answered on the interface thread. */
  void visibleWithin(double[] outline, Consumer<BitSet> answer);

  /** Takes the keys again, as after a button that can no longer be pressed. */
  void requestFocus();

  /** Draws the overlay again. */
  void repaint();

  /** Composes the scene again and draws it. */
  void refresh();

  /** The same for something that changes all the time: first quickly. */
  void refreshQuickly();

  /** The mesh being shown. */
  Mesh mesh();

  /** Selection reaches through the mesh, else only what is visible. */
  boolean isThrough();

  /** The drawn picture's colour at a pixel, for the loupe; 0 outside. */
  int pixel(int x, int y);
}
