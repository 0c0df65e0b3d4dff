package holotome.core.bake;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * How far out from the Cast rays start, per vertex: beyond all of the Scan that lies near, and no
 * farther, so that thin parts do not catch their other side.
 *
 * <p>The largest distance from the Scan to each part of the Cast, and back, measured by samples and
 * spread to the neighbours, with a margin.
 */
final class Cage {
  private static final float MARGIN = 1.5f;
  private static final int GRAIN = 1 << 12;

  private Cage() {}

  /** One distance per vertex of the Cast, in base units. */
  static float[] of(Mesh cast, Mesh scan, Bvh scanIndex, Work work) {
    Bvh castIndex = Bvh.of(cast, work.part(0.1, CoreWords.of("work.making-the-cage")));
    int[] tri = cast.triangles();
    float[] reach = new float[cast.vertexCount()];
    float typical = (float) Math.max(1e-30, 2e-4 * cast.bounds().diagonal());
    // Scan to Cast: every so many vertices of the Scan.
    int stride = Math.max(1, scan.vertexCount() / 400_000);
    int n = scan.vertexCount() / stride;
    int[] nearest = new int[n];
    float[] distance = new float[n];
    float limit = (float) (0.05 * cast.bounds().diagonal());
    Parallel.range(
        n,
        GRAIN,
        work.part(0.6, CoreWords.of("work.making-the-cage")),
        (from, to) -> {
          BvhQuery q = new BvhQuery(castIndex);
          for (int i = from; i < to; i++) {
            int v = 3 * i * stride;
            // Beyond the limit lies another part of the Scan, that the Cast does not stand for.
            nearest[i] =
                q.closest(scan.xyz()[v], scan.xyz()[v + 1], scan.xyz()[v + 2], limit)
                    ? q.triangle
                    : -1;
            distance[i] = q.distance;
          }
        });
    for (int i = 0; i < n; i++) {
      if (nearest[i] >= 0) {
        for (int k = 0; k < 3; k++) {
          int v = tri[3 * nearest[i] + k];
          reach[v] = Math.max(reach[v], distance[i]);
        }
      }
    }
    float[] own =
        SurfaceDistance.distances(
            cast.xyz(), scanIndex, work.part(0.3, CoreWords.of("work.making-the-cage")));
    for (int v = 0; v < reach.length; v++) {
      reach[v] = Math.max(reach[v], Math.min(own[v], limit));
    }
    float[] wide = reach.clone();
    for (int i = 0; i < tri.length; i++) {
      int a = tri[i];
      int b = tri[i % 3 == 2 ? i - 2 : i + 1];
      wide[a] = Math.max(wide[a], reach[b]);
      wide[b] = Math.max(wide[b], reach[a]);
    }
    // Where the Cast was reduced much, the deviation between its samples is hidden: a floor helps.
    float[] sorted = wide.clone();
    Arrays.sort(sorted);
    float floor = Math.max(typical, sorted[sorted.length / 2]);
    for (int v = 0; v < wide.length; v++) {
      wide[v] = MARGIN * Math.max(wide[v], floor);
    }
    return painted(cast, wide);
  }

  /** Wider or narrower where that was painted. */
  static float[] painted(Mesh cast, float[] reach) {
    float[] times = PaintCage.of(cast);
    for (int v = 0; times != null && v < reach.length; v++) {
      reach[v] *= times[v];
    }
    return reach;
  }
}
