package holotome.core.unwrap;

import holotome.core.solve.EdgeSystem;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.List;
import java.util.function.Function;

/**
 * Lays charts flat with some of their vertices where they are told to lie, the others as rigidly as
 * possible between them. A chart that would turn over or lie over itself so stays as it is.
 */
final class StraightLaying implements Laying {
  private static final int ROUNDS = 12;
  private static final int SWEEPS = 40;

  /** Holds a vertex where it is, beside the weight of an edge. */
  private static final double HELD = 1e9;

  private final Function<Piece, Straight> straight;

  /**
   * @param straight where vertices of a chart are to lie; null where it has no such places
   */
  StraightLaying(Function<Piece, Straight> straight) {
    this.straight = straight;
  }

  @Override
  public boolean isTurnedBack() {
    return false;
  }

  @Override
  public List<Piece> flat(Piece chart, Piece lies, Work work) {
    work.check();
    Straight to = straight.apply(lies);
    if (to == null) {
      return List.of();
    }
    // Carried along with what is held first: from where they lie, triangles beside it are torn.
    Piece p = between(lies.at(carried(lies, to)), to.held());
    p = p == null ? between(lies.at(middles(lies.at(to.uv()), to.held())), to.held()) : p;
    p = p == null ? null : Settling.checked(p, Double.MAX_VALUE);
    return p == null ? List.of() : List.of(p);
  }

  private static Piece between(Piece start, boolean[] held) {
    Piece p = start;
    boolean isFree = false;
    for (boolean h : held) {
      isFree |= !h;
    }
    if (isFree) {
      p = start.at(new AsRigid(start, held).places(ROUNDS));
      for (int v = 0; v < held.length; v++) {
        if (held[v]) {
          p.uv()[2 * v] = start.uv()[2 * v];
          p.uv()[2 * v + 1] = start.uv()[2 * v + 1];
        }
      }
    }
    if (p.isUpright(Settling.UPRIGHT)) {
      return p;
    }
    double[] back = new Unfolding(p, held).upright(Settling.UPRIGHT, SWEEPS);
    return back == null ? null : p.at(back);
  }

  /** Each vertex moved as its neighbours are in the mean, those that are held as they are to be. */
  private static double[] carried(Piece p, Straight to) {
    double[] by = new double[to.uv().length];
    for (int i = 0; i < by.length; i++) {
      by[i] = to.uv()[i] - to.from()[i];
    }
    double[] out = middles(p.at(by), to.held());
    for (int i = 0; i < out.length; i++) {
      out[i] = to.held()[i / 2] ? to.uv()[i] : to.from()[i] + out[i];
    }
    return out;
  }

  /** Each vertex in the middle of its neighbours, those that are held where they are. */
  private static double[] middles(Piece p, boolean[] held) {
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
