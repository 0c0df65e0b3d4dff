package holotome.core.unwrap;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * Charts named by points of them: numbers change with every cut, places do not. O(T log T) for the
 * index that the points are looked up in.
 */
final class ChartPoints {
  private ChartPoints() {}

  /**
   * The triangles of the charts that points lie in.
   *
   * @param points x, y, z in working space, one after the other; each means the chart of the
   *     triangle nearest to it
   */
  static BitSet triangles(Mesh mesh, double[] points, Frame frame, Work work) {
    if (mesh.uv() == null) {
      throw Failure.cannot(CoreWords.of("pack-charts.no-charts"));
    }
    Charts charts = Charts.of(mesh, work.part(0.4, CoreWords.of("work.finding-charts")));
    BvhQuery query =
        new BvhQuery(Bvh.of(mesh, work.part(0.5, CoreWords.of("work.indexing-the-surface"))));
    BitSet wanted = new BitSet();
    for (int i = 0; i < points.length; i += 3) {
      double[] p = frame.toBase(new double[] {points[i], points[i + 1], points[i + 2]});
      if (query.closest((float) p[0], (float) p[1], (float) p[2], Float.POSITIVE_INFINITY)) {
        wanted.set(charts.ofTriangle()[query.triangle]);
      }
    }
    BitSet out = new BitSet(mesh.triangleCount());
    for (int t = 0; t < mesh.triangleCount(); t++) {
      out.set(t, wanted.get(charts.ofTriangle()[t]));
    }
    return out;
  }
}
