package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * The charts of a mesh with texture coordinates: triangles that share an edge in the texture belong
 * together.
 *
 * @param flat the mesh laid into the texture square: positions (u, v, 0), triangle by triangle as
 *     in the mesh, with the same texture coordinates
 * @param count how many there are
 * @param ofTriangle chart per triangle, numbered from the one with the most triangles down
 */
public record Charts(Mesh flat, int count, int[] ofTriangle) {

  /**
   * Finds the charts; O(T) in practice, 12 bytes per texture vertex and 8 per triangle.
   *
   * @throws IllegalArgumentException for a mesh without texture coordinates
   */
  public static Charts of(Mesh mesh, Work work) {
    if (mesh.uv() == null) {
      throw new IllegalArgumentException("the mesh has no texture coordinates");
    }
    float[] uv = mesh.uv().coords();
    float[] xyz = new float[uv.length / 2 * 3];
    for (int i = 0; i < uv.length / 2; i++) {
      xyz[3 * i] = uv[2 * i];
      xyz[3 * i + 1] = uv[2 * i + 1];
    }
    Mesh flat = new Mesh(xyz, mesh.uv().corners()).withUv(mesh.uv());
    Islands islands = Islands.of(flat, work);
    return new Charts(flat, islands.count(), islands.ofTriangle());
  }

  /**
   * Outlines of charts.
   *
   * @param ends of each edge that one triangle alone has in the texture its two ends, (u, v, 0)
   *     each, 6 doubles an edge
   * @param chart of each edge
   */
  public record Outlines(double[] ends, int[] chart) {}

  /** The outlines of all charts. */
  public Outlines outlines(Work work) {
    int[] twin = Adjacency.of(flat, work).twin();
    int n = 0;
    for (int t : twin) {
      n += t < 0 ? 1 : 0;
    }
    double[] out = new double[6 * n];
    int[] chart = new int[n];
    int at = 0;
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] < 0) {
        chart[at / 6] = ofTriangle[h / 3];
        for (int end : new int[] {h, Adjacency.next(h)}) {
          int v = flat.triangles()[end];
          for (int k = 0; k < 3; k++) {
            out[at++] = flat.xyz()[3 * v + k];
          }
        }
      }
    }
    return new Outlines(out, chart);
  }

  /**
   * The share of the square that triangles take, those over each other twice.
   *
   * @param without triangles that are left out
   */
  public double area(BitSet without) {
    double sum = 0;
    float[] p = flat.xyz();
    int[] t = flat.triangles();
    for (int n = without.nextClearBit(0); 3 * n < t.length; n = without.nextClearBit(n + 1)) {
      int i = 3 * n;
      int a = 3 * t[i];
      int b = 3 * t[i + 1];
      int c = 3 * t[i + 2];
      double twice =
          ((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
              - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]);
      sum += Math.abs(twice) / 2;
    }
    return sum;
  }
}
