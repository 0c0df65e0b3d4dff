package holotome.app.pane;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.mend.Fault;
import holotome.core.mesh.Mesh;
import holotome.view.scene.DotLayer;
import holotome.view.scene.DotLayer.Form;
import holotome.view.scene.Layer;
import java.util.List;

/**
 * Places of one kind of fault, marked where they are by a form of the kind's own; the one that is
 * looked at has a ring around it. They belong to the mesh they were found on.
 */
final class ShownFaults {
  private static final int BRICK = 0xffa63d2f;
  private static final int INK = 0xff1f2a2e;

  private Fault fault;
  private Mesh of;
  private int at;

  /** Shows the places of a kind, or goes on by so many where it is shown already. */
  void show(Fault shown, Mesh mesh, int by) {
    int n = shown == null ? 0 : shown.sizes().length;
    if (n == 0) {
      fault = null;
    } else if (fault == shown) {
      at = Math.floorMod(at + by, n);
    } else {
      fault = shown;
      of = mesh;
      at = by < 0 ? n - 1 : 0;
    }
  }

  /** Which place is looked at, from 0. */
  int at() {
    return at;
  }

  Fault fault() {
    return fault;
  }

  /** What to come to, in working space; null where nothing is shown. */
  Box around(Similarity toWork, double least) {
    if (fault == null) {
      return null;
    }
    double[] p = point(toWork, at);
    double size =
        switch (fault.kind()) {
          // Counted in pairs and triangles.
          case CROSSINGS, SHELLS, INSIDE_OUT -> 0;
          // Around: about three times across.
          case HOLES, HANDLES -> fault.sizes()[at] * toWork.scale() / 6;
          default -> fault.sizes()[at] * toWork.scale();
        };
    double r = Math.max(least, 2 * size);
    return new Box(p[0] - r, p[1] - r, p[2] - r, p[0] + r, p[1] + r, p[2] + r);
  }

  private double[] point(Similarity toWork, int i) {
    float[] p = fault.places();
    return toWork.apply(p[3 * i], p[3 * i + 1], p[3 * i + 2]);
  }

  List<Layer> layers(Mesh mesh, Similarity toWork) {
    if (fault == null || mesh != of) {
      return List.of();
    }
    double[] xyz = new double[fault.places().length];
    for (int i = 0; i < fault.sizes().length; i++) {
      System.arraycopy(point(toWork, i), 0, xyz, 3 * i, 3);
    }
    return List.of(
        new DotLayer(xyz, form(fault.kind()), BRICK, 9, Layer.Hidden.FAINT),
        new DotLayer(point(toWork, at), Form.RING, INK, 33, Layer.Hidden.SHOWN));
  }

  /** A form for each kind that may be seen beside others. */
  static Form form(Fault.Kind kind) {
    return switch (kind) {
      case CROSSINGS -> Form.CROSS;
      case SPIKES, FOLDS -> Form.TRIANGLE;
      case HOLES, HANDLES -> Form.RING;
      case CROWDED_EDGES, DISAGREEING -> Form.BAR;
      case PINCHED_POINTS, SHELLS, INSIDE_OUT -> Form.DIAMOND;
      case DEGENERATE, DUPLICATE, SLIVERS -> Form.SQUARE;
      case DOUBLED_POINTS, NEAR_POINTS, UNUSED_POINTS -> Form.DISC;
    };
  }
}
