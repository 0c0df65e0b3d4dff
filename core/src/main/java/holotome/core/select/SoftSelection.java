package holotome.core.select;

import holotome.core.array.LeastFirst;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import java.util.BitSet;

/**
 * How much each vertex of a selection counts: all of it within, none outside and at the rim, and in
 * between by how far it is from the rim along the mesh's edges (Dijkstra 1959 from all vertices of
 * the rim, as far as the soft edge reaches), rising smoothly.
 *
 * <p>O(n log n) in the vertices nearer the rim than the soft edge is wide.
 */
public final class SoftSelection {
  private SoftSelection() {}

  /**
   * A weight per vertex, 0 to 1.
   *
   * @param selected triangles
   * @param soft width of the soft edge in base coordinates; 0 for a hard one
   */
  public static float[] weights(
      Mesh mesh, VertexFans fans, BitSet selected, double soft, Work work) {
    int n = mesh.vertexCount();
    int[] corners = mesh.triangles();
    float[] out = new float[n];
    LeastFirst near = new LeastFirst();
    double[] far = new double[n];
    for (int v = 0; v < n; v++) {
      if ((v & 0xfffff) == 0) {
        work.check();
      }
      boolean any = false;
      boolean all = true;
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        boolean in = selected.get(fans.triangles()[i]);
        any |= in;
        all &= in;
      }
      out[v] = any && all ? 1 : 0;
      far[v] = Double.POSITIVE_INFINITY;
      if (any && !all && soft > 0) {
        far[v] = 0;
        near.add(0, v);
      }
    }
    work.advance(0.5);
    while (!near.isEmpty()) {
      double at = near.key();
      int v = near.take();
      if (at > far[v]) {
        continue;
      }
      if (out[v] > 0) {
        double s = at / soft;
        out[v] = (float) (s * s * (3 - 2 * s));
      }
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int t = 3 * fans.triangles()[i];
        for (int k = 0; k < 3; k++) {
          int u = corners[t + k];
          double d = at + distance(mesh.xyz(), v, u);
          if (out[u] > 0 && d < far[u] && d < soft) {
            far[u] = d;
            near.add(d, u);
          }
        }
      }
    }
    work.advance(0.5);
    return out;
  }

  private static double distance(float[] p, int a, int b) {
    double x = p[3 * a] - p[3 * b];
    double y = p[3 * a + 1] - p[3 * b + 1];
    double z = p[3 * a + 2] - p[3 * b + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }
}
