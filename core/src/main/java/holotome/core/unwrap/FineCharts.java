package holotome.core.unwrap;

import holotome.core.array.Grouping;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.TrianglePoint;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Charts of a heavy mesh from those of its light stand-in: each triangle goes to the chart of the
 * nearest triangle of the stand-in around its cells, borders are straightened, and each chart is
 * laid flat from where the stand-in's triangles lie. O(T).
 */
final class FineCharts {
  private static final int GRAIN = 1 << 14;

  /** How many of a triangle's own sides a place may lie beside it. */
  private static final double MOST_BESIDE = 3;

  private final Ground ground;
  private final CoarseSurface coarse;
  private final List<Piece> pieces;

  /** The chart of each triangle of the stand-in and its place in it. */
  private final int[] coarseChart;

  private final int[] slot;

  /** The triangles of the stand-in around each of its vertices. */
  private final Grouping around;

  private final int[] chart;
  private int charts;

  private FineCharts(Ground ground, CoarseSurface coarse, List<Piece> pieces) {
    this.ground = ground;
    this.coarse = coarse;
    this.pieces = pieces;
    coarseChart = new int[coarse.mesh().triangleCount()];
    slot = new int[coarseChart.length];
    for (int c = 0; c < pieces.size(); c++) {
      int[] t = pieces.get(c).triangles();
      for (int i = 0; i < t.length; i++) {
        coarseChart[t[i]] = c;
        slot[t[i]] = i;
      }
    }
    around = Grouping.of(coarse.mesh().triangles(), coarse.mesh().vertexCount(), Work.unwatched());
    chart = new int[ground.area().length];
    charts = pieces.size();
  }

  /**
   * @param pieces of the stand-in
   * @param stretch most allowed
   */
  static List<Piece> of(
      Ground ground, CoarseSurface coarse, List<Piece> pieces, double stretch, Work work) {
    return new FineCharts(ground, coarse, pieces).run(stretch, work);
  }

  private List<Piece> run(double stretch, Work work) {
    Parallel.range(
        chart.length,
        GRAIN,
        work.part(0.15, work.label()),
        (from, to) -> {
          TrianglePoint point = new TrianglePoint();
          for (int t = from; t < to; t++) {
            chart[t] = chartOf(t, point);
          }
        });
    charts = WholeCharts.make(ground, chart, charts, work);
    new SeamStraightening(ground, chart, charts, new BitSet()).run(work);
    Grouping by = Grouping.of(chart, charts, Work.unwatched());
    PieceFlattening flattening = new PieceFlattening(ground, chart, stretch);
    List<List<Piece>> flat = new ArrayList<>();
    for (int c = 0; c < charts; c++) {
      flat.add(List.of());
    }
    Integer[] order = largestFirst(by);
    Parallel.range(
        charts,
        1,
        work.part(0.7, work.label()),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            int c = order[i];
            int[] members = Arrays.copyOfRange(by.order(), by.start()[c], by.start()[c + 1]);
            if (members.length > 0) {
              flat.set(c, laid(flattening, members, c, stretch, work));
            }
          }
        });
    return Crumbs.attached(ground, chart, flat, flattening, stretch, work.part(0.15, work.label()));
  }

  private Integer[] largestFirst(Grouping by) {
    Integer[] order = new Integer[charts];
    Arrays.setAll(order, c -> c);
    Arrays.sort(
        order,
        (a, b) -> {
          int p = by.start()[a + 1] - by.start()[a];
          int q = by.start()[b + 1] - by.start()[b];
          return p != q ? q - p : a - b;
        });
    return order;
  }

  private int chartOf(int t, TrianglePoint point) {
    float[] p = ground.mesh().xyz();
    int[] tri = ground.mesh().triangles();
    float[] m = new float[3];
    for (int k = 0; k < 3; k++) {
      m[k] = (p[3 * tri[3 * t] + k] + p[3 * tri[3 * t + 1] + k] + p[3 * tri[3 * t + 2] + k]) / 3;
    }
    int best = -1;
    float least = Float.POSITIVE_INFINITY;
    for (int k = 0; k < 3; k++) {
      int c = coarse.cell()[tri[3 * t + k]];
      if (c < 0 || k > 0 && c == coarse.cell()[tri[3 * t + k - 1]]) {
        continue;
      }
      for (int i = around.start()[c]; i < around.start()[c + 1]; i++) {
        int u = around.order()[i] / 3;
        float d = square(point, u, m);
        if (d < least || d == least && u < best) {
          least = d;
          best = u;
        }
      }
    }
    return best < 0 ? -1 : coarseChart[best];
  }

  private float square(TrianglePoint point, int u, float[] at) {
    Mesh m = coarse.mesh();
    int[] k = m.triangles();
    return point.square(
        m.xyz(), 3 * k[3 * u], 3 * k[3 * u + 1], 3 * k[3 * u + 2], at[0], at[1], at[2]);
  }

  private List<Piece> laid(
      PieceFlattening flattening, int[] members, int c, double stretch, Work work) {
    if (c < pieces.size()) {
      Piece p = flattening.unplaced(members);
      if (place(p, c)) {
        return Trimmed.of(Settling.movedByBlocks(p, work), flattening, stretch, work);
      }
    }
    return flattening.flat(members, work);
  }

  /** Puts each vertex where the nearest triangle of the stand-in's chart has it. */
  private boolean place(Piece p, int c) {
    int n = p.vertices();
    boolean[] isKnown = new boolean[n];
    boolean[] isSeen = new boolean[n];
    TrianglePoint point = new TrianglePoint();
    float[] at = new float[3];
    for (int i = 0; i < p.corners().length; i++) {
      int v = p.corners()[i];
      if (isSeen[v]) {
        continue;
      }
      isSeen[v] = true;
      int vertex = ground.mesh().triangles()[3 * p.triangles()[i / 3] + i % 3];
      System.arraycopy(ground.mesh().xyz(), 3 * vertex, at, 0, 3);
      int cell = coarse.cell()[vertex];
      int best = -1;
      float least = Float.POSITIVE_INFINITY;
      for (int k = cell < 0 ? 0 : around.start()[cell];
          cell >= 0 && k < around.start()[cell + 1];
          k++) {
        int u = around.order()[k] / 3;
        if (coarseChart[u] != c) {
          continue;
        }
        float d = square(point, u, at);
        if (d < least || d == least && u < best) {
          least = d;
          best = u;
        }
      }
      if (best >= 0) {
        isKnown[v] = true;
        put(p, v, best, at, pieces.get(c));
      }
    }
    return Unfold.all(p, isKnown);
  }

  /** The place in the plane of a triangle, inside it or not. */
  private void put(Piece p, int v, int u, float[] at, Piece old) {
    float[] x = coarse.mesh().xyz();
    int[] k = coarse.mesh().triangles();
    int a = 3 * k[3 * u];
    int b = 3 * k[3 * u + 1];
    int c = 3 * k[3 * u + 2];
    double ee = 0;
    double ef = 0;
    double ff = 0;
    double ge = 0;
    double gf = 0;
    for (int i = 0; i < 3; i++) {
      double e = (double) x[b + i] - x[a + i];
      double f = (double) x[c + i] - x[a + i];
      double g = (double) at[i] - x[a + i];
      ee += e * e;
      ef += e * f;
      ff += f * f;
      ge += g * e;
      gf += g * f;
    }
    double det = ee * ff - ef * ef;
    double s = det > 0 ? (ge * ff - gf * ef) / det : 0;
    double t = det > 0 ? (gf * ee - ge * ef) / det : 0;
    double far = Math.max(Math.abs(s), Math.abs(t));
    if (far > MOST_BESIDE) {
      s *= MOST_BESIDE / far;
      t *= MOST_BESIDE / far;
    }
    int i0 = 2 * old.corners()[3 * slot[u]];
    int i1 = 2 * old.corners()[3 * slot[u] + 1];
    int i2 = 2 * old.corners()[3 * slot[u] + 2];
    for (int i = 0; i < 2; i++) {
      double o = old.uv()[i0 + i];
      p.uv()[2 * v + i] = o + s * (old.uv()[i1 + i] - o) + t * (old.uv()[i2 + i] - o);
    }
  }
}
