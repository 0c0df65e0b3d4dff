package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;

/**
 * Normals at the points of a light mesh, the mean by the angle there, which does not depend on how
 * faces are cut (Thürmer and Wüthrich 1998): at a box's corner its diagonal. O(n), one thread.
 */
final class PointNormals {
  private PointNormals() {}

  /** 3 doubles a vertex, unit; noughts where no triangle gives a direction. */
  static double[] of(Mesh mesh) {
    int[] tri = mesh.triangles();
    double[] out = new double[3 * mesh.vertexCount()];
    for (int t = 0; t < mesh.triangleCount(); t++) {
      double[][] p = new double[3][];
      for (int k = 0; k < 3; k++) {
        p[k] = Vec.at(mesh.xyz(), tri[3 * t + k]);
      }
      double[] n = Vec.unit(Vec.cross(Vec.sub(p[1], p[0]), Vec.sub(p[2], p[0])));
      for (int k = 0; k < 3; k++) {
        double[] a = Vec.sub(p[(k + 1) % 3], p[k]);
        double[] b = Vec.sub(p[(k + 2) % 3], p[k]);
        double angle = Math.atan2(Vec.length(Vec.cross(a, b)), Vec.dot(a, b));
        for (int i = 0; i < 3; i++) {
          out[3 * tri[3 * t + k] + i] += angle * n[i];
        }
      }
    }
    for (int v = 0; v < out.length; v += 3) {
      double[] n = Vec.unit(Vec.of(out[v], out[v + 1], out[v + 2]));
      System.arraycopy(n, 0, out, v, 3);
    }
    return out;
  }
}
