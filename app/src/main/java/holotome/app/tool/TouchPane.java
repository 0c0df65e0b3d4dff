package holotome.app.tool;

import holotome.app.model.Session;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import java.util.Arrays;

/** What touching up asks of a pane, be it in space or flat. */
interface TouchPane {

  /** Told where a pixel is on the surface: in working space, and in the texture; or null twice. */
  interface Answer {
    void is(double[] point, double[] texture);
  }

  /** Looks what is under a pixel; answered later, in the order of asking. */
  void pick(double x, double y, Answer answer);

  boolean isFlat();

  /** Pixels to a length of working space, about. */
  double pixels(double length);

  /** A point of working space in pixels; null where that is not known. */
  double[] project(double[] point);

  void repaint();

  static TouchPane of(ViewPort view, Session session) {
    return new TouchPane() {
      @Override
      public void pick(double x, double y, Answer answer) {
        view.pickTriangle(
            x,
            y,
            (t, p) -> {
              Workpiece w = session.current();
              Mesh m = w == null ? null : w.cast();
              boolean isOn = t >= 0 && p != null && m != null && view.mesh() == m;
              answer.is(
                  isOn ? p : null, isOn ? NearTexture.texture(m, t, w.frame().toBase(p)) : null);
            });
      }

      @Override
      public boolean isFlat() {
        return false;
      }

      @Override
      public double pixels(double length) {
        return length / view.camera().unitsPerPixel((int) view.height());
      }

      @Override
      public double[] project(double[] point) {
        return view.project(point);
      }

      @Override
      public void repaint() {
        view.repaint();
      }
    };
  }

  /**
   * @param perUnit length in the texture to one in base coordinates
   */
  static TouchPane of(FlatPort port, Workpiece w, double perUnit) {
    Mesh mesh = w.cast();
    Similarity toWork = w.frame().toWork();
    return new TouchPane() {
      @Override
      public void pick(double x, double y, Answer answer) {
        double[] uv = port.place(x, y);
        port.pickTriangle(
            x,
            y,
            t ->
                answer.is(
                    t < 0 ? null : toWork.apply(NearTexture.onSurface(mesh, t, uv)),
                    t < 0 ? null : uv));
      }

      @Override
      public boolean isFlat() {
        return true;
      }

      @Override
      public double pixels(double length) {
        double side = port.project(1, 0)[0] - port.project(0, 0)[0];
        return length / toWork.scale() * perUnit * side;
      }

      @Override
      public double[] project(double[] point) {
        return null;
      }

      @Override
      public void repaint() {
        port.repaint();
      }
    };
  }

  /** Points in a row. */
  static double[] flat(double[][] points) {
    return Arrays.stream(points).flatMapToDouble(Arrays::stream).toArray();
  }
}
