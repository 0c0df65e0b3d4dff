package holotome.app.tool;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/**
 * A strip of quads drawn along what is shown: as wide as asked for, each about as long as wide, its
 * corners where the surface is seen beside the line.
 */
final class StripPen {
  /** Pixels between the places of a line. */
  private static final double STEP = 6;

  /** The most quads of one stroke. */
  private static final int MOST = 400;

  private final List<double[]> line = new ArrayList<>();
  private final List<double[]> normals = new ArrayList<>();
  private double lastX = Double.NaN;
  private double lastY;

  /** Goes on to where the pointer is, if that is a step on. */
  void to(ViewPort view, MouseEvent e, Frame frame) {
    if (Math.hypot(e.getX() - lastX, e.getY() - lastY) < STEP) {
      return;
    }
    lastX = e.getX();
    lastY = e.getY();
    view.pickTriangle(
        lastX,
        lastY,
        (t, p) -> {
          Mesh m = view.mesh();
          if (p != null && m != null && t >= 0 && t < m.triangleCount()) {
            line.add(p);
            normals.add(frame.toWork().direction(Vec.unit(Measures.cross(m, t))));
            view.repaint();
          }
        });
  }

  /**
   * Ends the stroke.
   *
   * @param width in working space
   * @param done is given the strip: left and right of each place, 3 doubles each, in working space;
   *     null where the stroke was too short
   */
  void end(ViewPort view, double width, Consumer<double[]> done) {
    // What was asked for before is told before.
    view.pick(lastX, lastY, p -> finish(view, width, done));
  }

  private void finish(ViewPort view, double width, Consumer<double[]> done) {
    double[] along = new double[line.size()];
    for (int i = 1; i < along.length; i++) {
      along[i] = along[i - 1] + Vec.distance(line.get(i), line.get(i - 1));
    }
    double length = along.length == 0 ? 0 : along[along.length - 1];
    int quads = (int) Math.min(MOST, Math.round(length / width));
    if (quads < 1) {
      done.accept(null);
      return;
    }
    double[] pairs = new double[6 * (quads + 1)];
    for (int i = 0; i <= quads; i++) {
      double[] at = at(along, length * i / quads);
      double[] ahead = at(along, Math.min(length, length * (i + 0.5) / quads));
      double[] behind = at(along, Math.max(0, length * (i - 0.5) / quads));
      double[] n = Vec.unit(Arrays.copyOfRange(at, 3, 6));
      double[] forward = Vec.sub(Arrays.copyOf(ahead, 3), Arrays.copyOf(behind, 3));
      double[] left = Vec.mul(Vec.unit(Vec.cross(n, forward)), width / 2);
      double[] p = Arrays.copyOf(at, 3);
      System.arraycopy(Vec.add(p, left), 0, pairs, 6 * i, 3);
      System.arraycopy(Vec.sub(p, left), 0, pairs, 6 * i + 3, 3);
    }
    stick(view, pairs, width, 0, done);
  }

  /** The place on the line so far along it, and the normal there. */
  private double[] at(double[] along, double far) {
    int i = 1;
    while (i < along.length - 1 && along[i] < far) {
      i++;
    }
    double l = along[i] - along[i - 1];
    double f = l > 0 ? (far - along[i - 1]) / l : 0;
    double[] out = new double[6];
    for (int k = 0; k < 3; k++) {
      out[k] = line.get(i - 1)[k] + f * (line.get(i)[k] - line.get(i - 1)[k]);
      // Over a few places: the normal of one triangle is rough.
      for (int j = Math.max(0, i - 3); j < Math.min(along.length, i + 3); j++) {
        out[3 + k] += normals.get(j)[k];
      }
    }
    return out;
  }

  /** Moves corners to where the surface is seen in the same direction, if that is near. */
  private static void stick(
      ViewPort view, double[] pairs, double width, int i, Consumer<double[]> done) {
    if (i == pairs.length) {
      done.accept(pairs);
      return;
    }
    double[] p = Arrays.copyOfRange(pairs, i, i + 3);
    double[] pixel = view.project(p);
    if (pixel == null) {
      stick(view, pairs, width, i + 3, done);
      return;
    }
    view.pick(
        pixel[0],
        pixel[1],
        q -> {
          if (q != null && Vec.distance(p, q) < width / 2) {
            System.arraycopy(q, 0, pairs, i, 3);
          }
          stick(view, pairs, width, i + 3, done);
        });
  }

  void draw(ViewPort view, GraphicsContext g) {
    if (line.size() > 1) {
      Marks.line(view, g, line.stream().flatMapToDouble(Arrays::stream).toArray(), Marks.VERDIGRIS);
    }
  }
}
