package holotome.core.topology;

import holotome.core.array.DisjointSets;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/**
 * The lines of a mesh that are long enough to be seen at a scale: those that hang together and are
 * no wider than a length are noise to it, and would keep what is smaller than the triangles there
 * are to be. O(T), one thread; 40 bytes per vertex.
 */
public final class LongLines {
  private LongLines() {}

  /**
   * @param lines three bits a triangle, bit k for its half-edge k; null where there are none
   * @param length the least extent of lines that are kept
   * @return the same with shorter ones left out
   */
  public static byte[] of(Mesh mesh, byte[] lines, double length) {
    if (lines == null) {
      return null;
    }
    int[] tri = mesh.triangles();
    int n = mesh.vertexCount();
    DisjointSets sets = new DisjointSets(n);
    for (int h = 0; h < tri.length; h++) {
      if ((lines[h / 3] >> h % 3 & 1) != 0) {
        sets.join(tri[h], tri[Adjacency.next(h)]);
      }
    }
    float[] low = new float[3 * n];
    float[] high = new float[3 * n];
    Arrays.fill(low, Float.POSITIVE_INFINITY);
    Arrays.fill(high, Float.NEGATIVE_INFINITY);
    for (int v = 0; v < n; v++) {
      int t = sets.find(v);
      for (int k = 0; k < 3; k++) {
        low[3 * t + k] = Math.min(low[3 * t + k], mesh.xyz()[3 * v + k]);
        high[3 * t + k] = Math.max(high[3 * t + k], mesh.xyz()[3 * v + k]);
      }
    }
    byte[] out = new byte[lines.length];
    for (int h = 0; h < tri.length; h++) {
      if ((lines[h / 3] >> h % 3 & 1) != 0) {
        int t = 3 * sets.find(tri[h]);
        double extent =
            Math.hypot(
                Math.hypot((double) high[t] - low[t], (double) high[t + 1] - low[t + 1]),
                (double) high[t + 2] - low[t + 2]);
        if (extent >= length) {
          out[h / 3] |= (byte) (1 << h % 3);
        }
      }
    }
    return out;
  }
}
