package holotome.core.unwrap;

import holotome.core.task.Work;
import java.util.List;
import java.util.function.Function;

/**
 * Lays charts flat with some of their vertices where they are told to lie, the others as rigidly as
 * possible between them. A chart that would turn over or lie over itself so stays as it is.
 */
final class StraightLaying implements Laying {
  private static final int ROUNDS = 12;
  private static final int SWEEPS = 40;

  /** Triangles around a spot that stayed turned are brought to this share of their area. */
  private static final double RELAXED = 0.25;

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
    loosen(lies, to);
    // Carried along with what is held first: from where they lie, triangles beside it are torn.
    Piece p = between(lies.at(carried(lies, to)), to.held(), work);
    p = p == null ? between(lies.at(Middles.of(lies.at(to.uv()), to.held())), to.held(), work) : p;
    p = p == null ? null : Settling.checked(p, Double.MAX_VALUE);
    return p == null ? List.of() : List.of(p);
  }

  /**
   * Of three vertices of a triangle that would lie in one line the one that fewest triangles hang
   * on is let go: a tooth of the outline stays one.
   */
  private static void loosen(Piece p, Straight to) {
    int[] k = p.corners();
    int[] fan = new int[p.vertices()];
    for (int v : k) {
      fan[v]++;
    }
    Piece laid = p.at(to.uv());
    for (int t = 0; t < p.triangles().length; t++) {
      boolean isLine = !(laid.flatArea(t) > Settling.UPRIGHT * p.restArea(t));
      int least = k[3 * t];
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        isLine &= to.held()[k[c]];
        least = fan[k[c]] < fan[least] ? k[c] : least;
      }
      if (isLine) {
        to.held()[least] = false;
        to.uv()[2 * least] = to.from()[2 * least];
        to.uv()[2 * least + 1] = to.from()[2 * least + 1];
      }
    }
  }

  private static Piece between(Piece start, boolean[] held, Work work) {
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
    double[] back = new Unfolding(p, held).uprighted(Settling.UPRIGHT, SWEEPS, work);
    p = p.at(back);
    // Of many thousands of triangles a few stay turned as a rule.
    p =
        p.isUpright(Settling.UPRIGHT)
            ? p
            : TurnedSpots.mended(p, held, Settling.UPRIGHT, RELAXED, work);
    return p.isUpright(Settling.UPRIGHT) ? p : null;
  }

  /** Each vertex moved as its neighbours are in the mean, those that are held as they are to be. */
  private static double[] carried(Piece p, Straight to) {
    double[] by = new double[to.uv().length];
    for (int i = 0; i < by.length; i++) {
      by[i] = to.uv()[i] - to.from()[i];
    }
    double[] out = Middles.of(p.at(by), to.held());
    for (int i = 0; i < out.length; i++) {
      out[i] = to.held()[i / 2] ? to.uv()[i] : to.from()[i] + out[i];
    }
    return out;
  }
}
