package holotome.app.pane;

import holotome.app.model.Stage;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.view.scene.Layer;
import holotome.view.scene.LineLayer;
import java.util.List;

/**
 * Border loops that a finding shows: lines on the surface, faint where something is in front of
 * them. They belong to the mesh they were measured on, and to the stage they were shown in.
 */
final class ShownBorders {
  private static final int BRICK = 0xffa63d2f;
  private static final int PAPER = 0xfff6f4ef;

  private List<float[]> loops = List.of();
  private Mesh of;
  private Stage in;
  private Similarity placed;
  private List<Layer> layers = List.of();

  /**
   * @param shown each loop's points in base coordinates, 3 floats a point
   */
  void show(List<float[]> shown, Mesh mesh, Stage stage) {
    loops = shown;
    of = shown.isEmpty() ? null : mesh;
    in = stage;
    placed = null;
  }

  /** The loops as layers of a scene; none where another mesh or stage is shown. */
  List<Layer> layers(Mesh mesh, Stage stage, Similarity toWork) {
    if (mesh != of || stage != in || loops.isEmpty()) {
      return List.of();
    }
    if (!toWork.equals(placed)) {
      placed = toWork;
      double[] ends = ends(toWork);
      layers =
          List.of(
              new LineLayer(ends, PAPER, 4, Layer.Hidden.LEFT_OUT),
              new LineLayer(ends, BRICK, 2, Layer.Hidden.FAINT));
    }
    return layers;
  }

  private double[] ends(Similarity toWork) {
    double[] out = new double[6 * loops.stream().mapToInt(l -> l.length / 3).sum()];
    int at = 0;
    for (float[] loop : loops) {
      int n = loop.length / 3;
      double[] last = n == 0 ? null : point(loop, n - 1, toWork);
      for (int i = 0; i < n; i++) {
        double[] p = point(loop, i, toWork);
        System.arraycopy(last, 0, out, at, 3);
        System.arraycopy(p, 0, out, at + 3, 3);
        at += 6;
        last = p;
      }
    }
    return out;
  }

  private static double[] point(float[] loop, int i, Similarity toWork) {
    return toWork.apply(loop[3 * i], loop[3 * i + 1], loop[3 * i + 2]);
  }
}
