package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.mesh.InRange;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Where a scan has only few, large triangles, which is how surface comes out that no camera saw
 * (common practice, no source): triangles of a light mesh whose nearest triangle of the scan is
 * many times as large as its usual one. O((S + T) log S).
 */
final class BlankSurface {
  private static final int GRAIN = 4096;

  /** Five times the usual side. */
  private static final double LARGE = 25;

  private BlankSurface() {}

  static BitSet of(Mesh light, Mesh scan, Work work) {
    int n = scan.triangleCount();
    double[] area = new double[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.05, work.label()),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            area[t] = Vec.length(Measures.cross(scan, t));
          }
        });
    double[] sorted = area.clone();
    Arrays.parallelSort(sorted);
    double large = n == 0 ? 0 : LARGE * sorted[n / 2];
    InRange near = InRange.of(scan);
    Bvh bvh = Bvh.of(near.mesh(), work.part(0.5, CoreWords.of("work.indexing-the-surface")));
    boolean[] blank = new boolean[light.triangleCount()];
    Parallel.range(
        blank.length,
        GRAIN,
        work.part(0.45, work.label()),
        (from, to) -> {
          BvhQuery query = new BvhQuery(bvh);
          for (int t = from; t < to; t++) {
            float[] m = middle(light, t, near.by());
            blank[t] =
                query.closest(m[0], m[1], m[2], Float.POSITIVE_INFINITY)
                    && area[query.triangle] > large;
          }
        });
    BitSet out = new BitSet(blank.length);
    for (int t = 0; t < blank.length; t++) {
      out.set(t, blank[t]);
    }
    return out;
  }

  private static float[] middle(Mesh m, int t, double by) {
    float[] out = new float[3];
    for (int k = 0; k < 3; k++) {
      double sum = 0;
      for (int c = 0; c < 3; c++) {
        sum += m.xyz()[3 * m.triangles()[3 * t + c] + k];
      }
      out[k] = (float) (by * sum / 3);
    }
    return out;
  }
}
