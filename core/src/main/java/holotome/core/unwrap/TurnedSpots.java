package holotome.core.unwrap;

import holotome.core.task.Work;
import holotome.core.topology.Adjacency;

/**
 * Brings round what stayed turned in a large piece: what lies about such a spot is laid with each
 * vertex in the middle of its neighbours ({@link Middles}), the more of it the less that helps, and
 * from there as rigidly as can be without turning anything again ({@link Unfolding}). Spots where
 * it does not help stay as they are. O(vertices) once, and O(spot) each.
 */
final class TurnedSpots {
  /** Vertices to be moved about a spot, one after the other until it helps. */
  private static final int[] REACH = {24, 96, 384};

  private static final int SWEEPS = 12;

  /** Where more triangles are turned, so many and this share, it is the piece that lies wrongly. */
  private static final int FEW = 100;

  private static final int SHARE = 1000;

  private TurnedSpots() {}

  /** The same, with nothing held but the outline. */
  static Piece mended(Piece start, double share, double relaxed, Work work) {
    return mended(start, null, share, relaxed, work);
  }

  /**
   * The piece with as few turned triangles as could be reached.
   *
   * @param held vertices that stay where they are, beside those of the outline; null for none
   * @param share of its area below which a triangle counts as turned
   * @param relaxed share that triangles about a mended spot are brought to, where they can
   */
  static Piece mended(Piece start, boolean[] held, double share, double relaxed, Work work) {
    int turned = 0;
    for (int t = 0; t < start.triangles().length; t++) {
      turned += start.flatArea(t) > share * start.restArea(t) ? 0 : 1;
    }
    if (turned > FEW + start.triangles().length / SHARE) {
      return start;
    }
    double[] uv = start.uv().clone();
    Piece p = start.at(uv);
    Vicinity vicinity = null;
    boolean[] isRim = null;
    for (int t = 0; t < p.triangles().length; t++) {
      if (p.flatArea(t) > share * p.restArea(t)) {
        continue;
      }
      if (vicinity == null) {
        vicinity = new Vicinity(p);
        isRim = rim(p, held);
      }
      work.check();
      int[] k = p.corners();
      int[] near = {k[3 * t], k[3 * t + 1], k[3 * t + 2]};
      for (int reach : REACH) {
        Vicinity.Part part = vicinity.part(near, reach);
        double[] places = places(part, isRim, share, relaxed, work);
        if (places != null) {
          part.put(places, uv);
          break;
        }
      }
    }
    return p;
  }

  /** Null where it does not help. */
  private static double[] places(
      Vicinity.Part part, boolean[] isRim, double share, double relaxed, Work work) {
    boolean[] held = new boolean[part.vertices().length];
    boolean isAnyHeld = false;
    for (int i = 0; i < held.length; i++) {
      held[i] = i >= part.moved() || isRim[part.vertices()[i]];
      isAnyHeld |= held[i];
    }
    if (!isAnyHeld) {
      return null;
    }
    Piece laid = part.piece().at(Middles.of(part.piece(), held));
    if (!laid.isUpright(share)) {
      return null;
    }
    return new Unfolding(laid, held).uprighted(relaxed, SWEEPS, work);
  }

  private static boolean[] rim(Piece p, boolean[] held) {
    boolean[] out = held == null ? new boolean[p.vertices()] : held.clone();
    for (int h : ChartOutline.of(p.corners())) {
      out[p.corners()[h]] = true;
      out[p.corners()[Adjacency.next(h)]] = true;
    }
    return out;
  }
}
