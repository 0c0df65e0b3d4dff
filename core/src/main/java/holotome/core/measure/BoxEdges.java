package holotome.core.measure;

import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.List;

/** The twelve edges of a box in any direction, for drawing. */
final class BoxEdges {
  private BoxEdges() {}

  /** Edges as lines of two points, 6 doubles each. */
  static List<double[]> edges(double[] corner, double[] u, double[] v, double[] w, double[] size) {
    double[][] p = new double[8][];
    for (int i = 0; i < 8; i++) {
      p[i] = corner;
      p[i] = (i & 1) == 0 ? p[i] : Vec.add(p[i], Vec.mul(u, size[0]));
      p[i] = (i & 2) == 0 ? p[i] : Vec.add(p[i], Vec.mul(v, size[1]));
      p[i] = (i & 4) == 0 ? p[i] : Vec.add(p[i], Vec.mul(w, size[2]));
    }
    List<double[]> out = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      for (int bit = 1; bit < 8; bit *= 2) {
        if ((i & bit) == 0) {
          double[] q = p[i | bit];
          out.add(new double[] {p[i][0], p[i][1], p[i][2], q[0], q[1], q[2]});
        }
      }
    }
    return out;
  }
}
