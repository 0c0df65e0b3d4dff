package holotome.core;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.mesh.Mesh;
import java.util.Arrays;

/** Texture coordinates looked at by means that share nothing with what made them. */
public final class FlatCheck {
  private FlatCheck() {}

  /**
   * No triangle on its back or outside of the square, and the middle of each pixel in one triangle
   * at most.
   *
   * @param size pixels along a side of the square
   * @return per pixel, row by row, the triangle that its middle lies in, -1 for none
   */
  public static int[] owners(Mesh m, int size) {
    int[] owner = new int[size * size];
    Arrays.fill(owner, -1);
    double[] x = new double[3];
    double[] y = new double[3];
    for (int t = 0; t < m.triangleCount(); t++) {
      for (int k = 0; k < 3; k++) {
        x[k] = place(m, t, k, 0, size);
        y[k] = place(m, t, k, 1, size);
      }
      double det = (x[1] - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (y[1] - y[0]);
      if (!(det >= 0)) {
        throw new AssertionError("triangle " + t + " lies on its back");
      }
      int y1 = (int) Math.ceil(Math.max(y[0], Math.max(y[1], y[2])));
      int x1 = (int) Math.ceil(Math.max(x[0], Math.max(x[1], x[2])));
      for (int j = (int) Math.min(y[0], Math.min(y[1], y[2])); j < y1 && det > 0; j++) {
        for (int i = (int) Math.min(x[0], Math.min(x[1], x[2])); i < x1; i++) {
          double u = ((i + 0.5 - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (j + 0.5 - y[0])) / det;
          double v = ((x[1] - x[0]) * (j + 0.5 - y[0]) - (i + 0.5 - x[0]) * (y[1] - y[0])) / det;
          // A hair inside: middles on shared edges belong to both. Rounded to floats, what is far
          // smaller than a pixel has no sharp sides.
          double hair = Math.max(1e-6, 0.01 * size / 8192 / Math.sqrt(det));
          if (u > hair && v > hair && u + v < 1 - hair) {
            int other = owner[j * size + i];
            if (other >= 0) {
              throw new AssertionError("triangles " + other + " and " + t + " at " + i + " " + j);
            }
            owner[j * size + i] = t;
          }
        }
      }
    }
    return owner;
  }

  private static double place(Mesh m, int t, int corner, int axis, int size) {
    double p = m.uv().coords()[2 * m.uv().corners()[3 * t + corner] + axis];
    assertThat(p).as("triangle %d", t).isBetween(0.0, 1.0);
    return p * size;
  }
}
