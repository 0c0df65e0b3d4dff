package holotome.core.unwrap;

import holotome.core.solve.EdgeSystem;
import holotome.core.topology.Adjacency;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Lays a chart flat with no triangle turned, whatever its shape: its longest outline around a
 * circle, each other vertex in the middle of its neighbours (Tutte, "How to draw a graph", 1963;
 * Floater, "Parametrization and smooth approximation of surface triangulations", 1997). Holes are
 * filled by a vertex each for that. Stretched at will: a place to begin from.
 */
final class Tutte {
  /** Holds the outline where it is, beside the weight of an edge. */
  private static final double HELD = 1e9;

  private Tutte() {}

  /** The places; null for a chart that is closed or has a handle or a vertex of several fans. */
  static double[] places(Piece p) {
    int[] k = p.corners();
    List<int[]> loops = RimLoops.of(p);
    if (loops == null || loops.isEmpty()) {
      return null;
    }
    int edges = (k.length + loops.stream().mapToInt(l -> l.length).sum()) / 2;
    // Of a plane with so many holes.
    if (p.vertices() - edges + k.length / 3 != 2 - loops.size()) {
      return null;
    }
    int outer = 0;
    double[] length = new double[loops.size()];
    for (int l = 0; l < length.length; l++) {
      length[l] = length(p, loops.get(l));
      outer = length[l] > length[outer] ? l : outer;
    }
    int n = p.vertices() + loops.size() - 1;
    List<int[]> more = new ArrayList<>();
    for (int l = 0; l < length.length; l++) {
      if (l != outer) {
        more.add(loops.get(l));
      }
    }
    int spokes = more.stream().mapToInt(l -> l.length).sum();
    int[] ends = Arrays.copyOf(new int[0], 2 * k.length + 2 * spokes);
    double[] weight = new double[ends.length / 2];
    Arrays.fill(weight, 1);
    for (int h = 0; h < k.length; h++) {
      ends[2 * h] = k[h];
      ends[2 * h + 1] = k[Adjacency.next(h)];
    }
    int at = 2 * k.length;
    for (int l = 0; l < more.size(); l++) {
      for (int h : more.get(l)) {
        ends[at++] = k[h];
        ends[at++] = p.vertices() + l;
      }
    }
    double[] extra = new double[n];
    double[] xy = new double[2 * n];
    double so = 0;
    double radius = length[outer] / (2 * Math.PI);
    for (int h : loops.get(outer)) {
      double angle = so / radius;
      so += RimLoops.edge(p, h);
      extra[k[h]] = HELD;
      xy[2 * k[h]] = HELD * radius * Math.cos(angle);
      xy[2 * k[h] + 1] = HELD * radius * Math.sin(angle);
    }
    EdgeSystem.of(n, ends, weight, extra).solve(xy);
    return Arrays.copyOf(xy, 2 * p.vertices());
  }

  private static double length(Piece p, int[] loop) {
    double s = 0;
    for (int h : loop) {
      s += RimLoops.edge(p, h);
    }
    return s;
  }
}
