package holotome.core.unwrap;

import holotome.core.solve.EdgeSystem;
import holotome.core.topology.Adjacency;

/**
 * Each vertex of a piece in the middle of its neighbours, but for those that stay where they are.
 * Where those are an outline without a bay no triangle is turned (Tutte, "How to draw a graph",
 * 1963).
 */
final class Middles {
  /** Holds a vertex where it is, beside the weight of an edge. */
  private static final double HELD = 1e9;

  private Middles() {}

  /**
   * The places.
   *
   * @param held at least one of each connected part
   */
  static double[] of(Piece p, boolean[] held) {
    int[] k = p.corners();
    int[] ends = new int[2 * k.length];
    double[] weight = new double[k.length];
    for (int h = 0; h < k.length; h++) {
      ends[2 * h] = k[h];
      ends[2 * h + 1] = k[Adjacency.next(h)];
      weight[h] = 1;
    }
    double[] extra = new double[p.vertices()];
    double[] xy = new double[2 * p.vertices()];
    for (int v = 0; v < held.length; v++) {
      if (held[v]) {
        extra[v] = HELD;
        xy[2 * v] = HELD * p.uv()[2 * v];
        xy[2 * v + 1] = HELD * p.uv()[2 * v + 1];
      }
    }
    EdgeSystem.of(p.vertices(), ends, weight, extra).solve(xy);
    for (int v = 0; v < held.length; v++) {
      if (held[v]) {
        xy[2 * v] = p.uv()[2 * v];
        xy[2 * v + 1] = p.uv()[2 * v + 1];
      }
    }
    return xy;
  }
}
