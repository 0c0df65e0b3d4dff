package holotome.view.shading;

import holotome.core.geometry.Box;
import holotome.core.image.Colours;
import holotome.core.unit.RoundLength;
import holotome.view.camera.Camera;

/**
 * The grid on the ground, Z = 0, drawn per pixel: fine lines at a round step, stronger each tenth.
 */
final class GroundGrid {
  private final Camera camera;
  private final int width;
  private final int height;
  private final double step;
  private final double reach;
  private final double[] depthRow;
  private final double[] wRow;

  GroundGrid(Camera camera, int width, int height, Box scene) {
    this.camera = camera;
    this.width = width;
    this.height = height;
    step = RoundLength.below(scene.diagonal() / 8) / 5;
    reach = 1.4 * scene.diagonal();
    double[] m = camera.toPixels(width, height, scene);
    depthRow = new double[] {m[8], m[9], m[10], m[11]};
    wRow = new double[] {m[12], m[13], m[14], m[15]};
  }

  /** The colour with the grid over it, where the grid is nearer. */
  int over(int colour, int x, int y, boolean empty, float depth) {
    double[] r = camera.ray(x + 0.5, y + 0.5, width, height);
    if (Math.abs(r[5]) < 1e-9) {
      return colour;
    }
    double t = -r[2] / r[5];
    if (camera.perspective() && t <= 0) {
      return colour;
    }
    double gx = r[0] + t * r[3];
    double gy = r[1] + t * r[4];
    double ax = gx - camera.target()[0];
    double ay = gy - camera.target()[1];
    double far = Math.sqrt(ax * ax + ay * ay);
    if (far > reach) {
      return colour;
    }
    if (!empty) {
      double w = wRow[0] * gx + wRow[1] * gy + wRow[3];
      double d = (depthRow[0] * gx + depthRow[1] * gy + depthRow[3]) / w;
      if (d > depth - 1e-6) {
        return colour;
      }
    }
    double pixel =
        camera.unitsPerPixel(height)
            * (camera.perspective() ? t / camera.distance() : 1)
            / Math.max(0.08, Math.abs(r[5]));
    double fine = line(gx, gy, step, pixel) * Math.clamp(step / pixel / 10 - 0.4, 0.0, 1.0);
    double major = line(gx, gy, 5 * step, pixel);
    double a = Math.max(0.22 * fine, 0.40 * major) * (1 - far / reach);
    return a <= 0 ? colour : Colours.mix(colour, 0xff4a5257, (float) a);
  }

  private static double line(double x, double y, double step, double pixel) {
    double dx = Math.abs(x - step * Math.rint(x / step));
    double dy = Math.abs(y - step * Math.rint(y / step));
    return Math.clamp(1.2 - Math.min(dx, dy) / pixel, 0.0, 1.0);
  }
}
