package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * What welding would do at every distance up to a limit: how many points would be left, and how
 * many triangles would lose an edge.
 *
 * <p>Points are joined as {@link PointJoining} does.
 *
 * <p>The natural gap lies where, in terms of ratios, no point is joined for longest: below it are
 * points that were doubled, above it edges of the mesh.
 *
 * @param points of the mesh
 * @param joins the distances at which one point fewer is left, rising
 * @param breaks the shortest edge of each triangle that has one within the limit, rising
 * @param limit up to which the curve is known; base coordinates, as all lengths here
 */
public record WeldCurve(int points, float[] joins, float[] breaks, double limit) {
  /** A gap is natural from this ratio of its ends on. */
  private static final double WIDE = 3;

  /** The limit is halved so many times at most. */
  private static final int TRIES = 16;

  private static final int GRAIN = 1 << 16;

  /**
   * @param among points that may be joined; null for all
   */
  public static WeldCurve of(Mesh mesh, BitSet among, Work work) {
    WeldCurve joins = withoutBreaks(mesh, among, work.part(0.9, work.label()));
    float[] breaks = breaks(mesh, among, joins.limit);
    work.advance(0.1);
    return new WeldCurve(joins.points, joins.joins, breaks, joins.limit);
  }

  /** The {@link #natural} gap alone, without a pass over the triangles. */
  static double naturalGap(Mesh mesh, BitSet among, Work work) {
    return withoutBreaks(mesh, among, work).natural();
  }

  private static WeldCurve withoutBreaks(Mesh mesh, BitSet among, Work work) {
    double limit = 0.75 * middleEdge(mesh);
    PointJoining joining = null;
    // Where the mesh is far denser in places its own edges are no longer than that: look nearer.
    for (int i = 0; joining == null && i < TRIES; i++) {
      limit *= i == 0 ? 1 : 0.5;
      Work part = work.part(0.9 / (i + 1) / (i + 2), CoreWords.of("work.comparing-points"));
      joining = PointJoining.within(mesh, among, limit, part);
    }
    if (joining == null) {
      throw Failure.cannot(CoreWords.of("weld-points.too-many"));
    }
    work.advance(0.1);
    return new WeldCurve(mesh.vertexCount(), joining.distances(), new float[0], limit);
  }

  /** The median length of edges, of up to 100,000 triangles spread evenly. */
  static double middleEdge(Mesh mesh) {
    int step = Math.max(1, mesh.triangleCount() / 100_000);
    double[] edges = new double[mesh.triangleCount() / step + 1];
    int n = 0;
    for (int t = 0; t < mesh.triangleCount(); t += step) {
      double l = edge(mesh, 3 * t);
      if (l > 0) {
        edges[n++] = l;
      }
    }
    Arrays.sort(edges, 0, n);
    return n == 0 ? 0 : edges[n / 2];
  }

  private static double edge(Mesh mesh, int h) {
    int a = 3 * mesh.triangles()[h];
    int b = 3 * mesh.triangles()[h % 3 == 2 ? h - 2 : h + 1];
    double x = (double) mesh.xyz()[a] - mesh.xyz()[b];
    double y = (double) mesh.xyz()[a + 1] - mesh.xyz()[b + 1];
    double z = (double) mesh.xyz()[a + 2] - mesh.xyz()[b + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }

  private static float[] breaks(Mesh mesh, BitSet among, double limit) {
    float[][] parts = new float[Parallel.chunks(mesh.triangleCount(), GRAIN)][];
    Parallel.chunked(
        mesh.triangleCount(),
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          float[] out = new float[16];
          int n = 0;
          for (int t = from; t < to; t++) {
            double least = least(mesh, among, t);
            if (least <= limit) {
              out = n == out.length ? Arrays.copyOf(out, 2 * n) : out;
              out[n++] = (float) least;
            }
          }
          parts[c] = Arrays.copyOf(out, n);
        });
    int n = 0;
    for (float[] part : parts) {
      n += part.length;
    }
    float[] all = new float[n];
    n = 0;
    for (float[] part : parts) {
      System.arraycopy(part, 0, all, n, part.length);
      n += part.length;
    }
    Arrays.parallelSort(all);
    return all;
  }

  /** The shortest edge of a triangle both of whose ends may be joined; infinite for none. */
  private static double least(Mesh mesh, BitSet among, int t) {
    double least = Double.POSITIVE_INFINITY;
    for (int h = 3 * t; h < 3 * t + 3; h++) {
      int from = mesh.triangles()[h];
      int to = mesh.triangles()[h % 3 == 2 ? h - 2 : h + 1];
      if (among == null || among.get(from) && among.get(to)) {
        least = Math.min(least, edge(mesh, h));
      }
    }
    return least;
  }

  /** How many points are left at a distance. */
  public int left(double distance) {
    return points - upTo(joins, distance);
  }

  /** How many triangles lose an edge, at least. */
  public int broken(double distance) {
    return upTo(breaks, distance);
  }

  private static int upTo(float[] rising, double distance) {
    int low = 0;
    int high = rising.length;
    while (low < high) {
      int mid = low + high >>> 1;
      if (rising[mid] <= distance) {
        low = mid + 1;
      } else {
        high = mid;
      }
    }
    return low;
  }

  /**
   * A distance in the middle of the natural gap, in terms of ratios; 0 where points are joined all
   * along or none is. One point of 500 may be joined within the gap: there is always a small
   * triangle somewhere.
   */
  public double natural() {
    double widest = WIDE;
    double at = 0;
    double least = limit * 1e-7;
    int strays = Math.max(1, joins.length / 500);
    for (int i = strays == 1 ? 0 : 4 * strays; i < joins.length; i++) {
      double from = Math.max(joins[i], least);
      double to = i + strays < joins.length ? Math.max(joins[i + strays], least) : limit;
      if (to / from > widest) {
        widest = to / from;
        at = Math.sqrt(from * to);
      }
    }
    return at;
  }
}
