package holotome.demo;

import holotome.core.image.Image;
import holotome.core.mesh.Mesh;

/** How near a picture baked for the net shed comes to what the shed looks like. */
public final class NetShedTruth {
  /** Places that are looked at on each triangle. */
  private static final int PLACES = 500;

  private NetShedTruth() {}

  /**
   * By how much a picture differs from the true colours of a side: of 255, in the mean of its
   * places and channels.
   *
   * @param mesh the modelled shed, {@link NetShed#modelled}, with texture coordinates
   */
  public static double off(Mesh mesh, Image picture, NetShed.Side side) {
    NetShed.Side[] sides = NetShed.sides();
    double sum = 0;
    int n = 0;
    for (int t = 0; t < sides.length; t++) {
      for (int i = 0; sides[t] == side && i < PLACES; i++) {
        double[] weight = weights(i);
        double[] p = new double[3];
        double[] uv = new double[2];
        for (int k = 0; k < 3; k++) {
          int v = 3 * mesh.triangles()[3 * t + k];
          int c = 2 * mesh.uv().corners()[3 * t + k];
          for (int j = 0; j < 3; j++) {
            p[j] += weight[k] * mesh.xyz()[v + j];
          }
          uv[0] += weight[k] * mesh.uv().coords()[c];
          uv[1] += weight[k] * mesh.uv().coords()[c + 1];
        }
        int truth = NetShed.colour(side, p);
        int got = picture.shown((float) uv[0], (float) uv[1]);
        for (int shift = 0; shift <= 16; shift += 8) {
          sum += Math.abs((truth >> shift & 255) - (got >> shift & 255));
          n++;
        }
      }
    }
    return sum / n;
  }

  /** Places evenly spread over a triangle, by the additive sequence of Roberts (2018). */
  private static double[] weights(int i) {
    double a = (0.5 + i * 0.7548776662466927) % 1;
    double b = (0.5 + i * 0.5698402909980532) % 1;
    return a + b > 1 ? new double[] {a + b - 1, 1 - a, 1 - b} : new double[] {1 - a - b, a, b};
  }
}
