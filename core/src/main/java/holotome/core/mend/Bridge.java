package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.topology.Borders;

/** A tube of triangles between two borders. */
final class Bridge {
  private Bridge() {}

  /**
   * Triangles over a mesh's vertices that join two of its borders, of the least area from where
   * they come nearest.
   *
   * @param a one border, as half-edges
   * @param b another one
   */
  static int[] between(Mesh mesh, int[] a, int[] b) {
    int[] p = reversed(Borders.vertices(mesh, a));
    int[] q = Borders.vertices(mesh, b);
    int s = 0;
    int r = 0;
    double least = Double.POSITIVE_INFINITY;
    for (int i = 0; i < p.length; i++) {
      double[] from = Vec.at(mesh.xyz(), p[i]);
      for (int j = 0; j < q.length; j++) {
        double d = Vec.distance(from, Vec.at(mesh.xyz(), q[j]));
        if (d < least) {
          least = d;
          s = i;
          r = j;
        }
      }
    }
    int[] out = Strips.between(closed(mesh, p, s), closed(mesh, q, r));
    for (int i = 0; i < out.length; i++) {
      int k = out[i];
      out[i] = k <= p.length ? p[(s + k) % p.length] : q[(r + k - p.length - 1) % q.length];
    }
    // Strips run the other way round.
    for (int i = 0; i < out.length; i += 3) {
      int second = out[i + 1];
      out[i + 1] = out[i + 2];
      out[i + 2] = second;
    }
    return out;
  }

  private static int[] reversed(int[] v) {
    int[] out = new int[v.length];
    for (int i = 0; i < v.length; i++) {
      out[i] = v[v.length - 1 - i];
    }
    return out;
  }

  /** The points of a ring from one of them round to itself again. */
  private static double[][] closed(Mesh mesh, int[] ring, int start) {
    double[][] out = new double[ring.length + 1][];
    for (int i = 0; i <= ring.length; i++) {
      out[i] = Vec.at(mesh.xyz(), ring[(start + i) % ring.length]);
    }
    return out;
  }
}
