package holotome.core.unwrap;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.select.NearestTriangle;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * Charts named by points of them: numbers change with every cut, places do not. A few points are
 * looked up by going over the triangles, O(T) each, more of them in an index, O(T log T) once.
 */
final class ChartPoints {
  /** So many points are worth an index. */
  private static final int MANY = 16;

  private final Mesh mesh;
  private final Frame frame;
  private final int[] of;
  private BvhQuery query;

  private ChartPoints(Mesh mesh, Frame frame, int[] of) {
    this.mesh = mesh;
    this.frame = frame;
    this.of = of;
  }

  /**
   * @throws Failure where the mesh has no charts
   */
  static ChartPoints of(Mesh mesh, Frame frame, Work work) {
    if (mesh.uv() == null) {
      throw Failure.cannot(CoreWords.of("pack-charts.no-charts"));
    }
    return new ChartPoints(mesh, frame, Charts.of(mesh, work).ofTriangle());
  }

  int[] chartOfTriangle() {
    return of;
  }

  /**
   * The charts that points lie in.
   *
   * @param points x, y, z in working space, one after the other; each means the chart of the
   *     triangle nearest to it
   */
  BitSet charts(double[] points) {
    BitSet out = new BitSet();
    if (points.length > 3 * MANY && query == null) {
      query = new BvhQuery(Bvh.of(mesh));
    }
    for (int i = 0; i < points.length && !mesh.isEmpty(); i += 3) {
      double[] p = frame.toBase(new double[] {points[i], points[i + 1], points[i + 2]});
      out.set(of[nearest(p)]);
    }
    return out;
  }

  private int nearest(double[] p) {
    boolean isFound =
        query != null
            && query.closest((float) p[0], (float) p[1], (float) p[2], Float.POSITIVE_INFINITY);
    return isFound ? query.triangle : NearestTriangle.of(mesh, p, Work.unwatched());
  }

  /** The triangles of those charts. */
  BitSet triangles(double[] points) {
    BitSet charts = charts(points);
    BitSet out = new BitSet(of.length);
    for (int t = 0; t < of.length; t++) {
      out.set(t, charts.get(of[t]));
    }
    return out;
  }
}
