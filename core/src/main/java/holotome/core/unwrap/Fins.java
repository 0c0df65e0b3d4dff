package holotome.core.unwrap;

import holotome.core.array.LongIndex;
import holotome.core.mesh.Importance;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Small charts that hang on the rest by crowded edges only, as where a surface was folded onto
 * itself: each is laid against a chart whose outline runs along such an edge, where it fits. O(T),
 * and what joining takes.
 */
final class Fins {
  /** Triangles of a fin, and of a chart that one is laid against, at most. */
  private static final int SMALL = 24;

  private static final int LARGE = 20_000;

  /** Fins hang on fins. */
  private static final int ROUNDS = 3;

  private final Ground ground;
  private final float[] importance;
  private final List<Piece> pieces;
  private final int[] chart;
  private final int[] slot;

  /** The place of each crowded half-edge among them all. */
  private final LongIndex place = new LongIndex();

  Fins(Ground ground, List<Piece> pieces) {
    this.ground = ground;
    this.pieces = new ArrayList<>(pieces);
    importance = Importance.of(ground.mesh());
    boolean hasAny = ground.crowded().length > 0;
    chart = new int[hasAny ? ground.area().length : 0];
    slot = new int[chart.length];
    for (int c = 0; hasAny && c < pieces.size(); c++) {
      enter(c);
    }
    for (int h : ground.crowded()) {
      place.add(h);
    }
  }

  private void enter(int c) {
    int[] t = pieces.get(c).triangles();
    for (int i = 0; i < t.length; i++) {
      chart[t[i]] = c;
      slot[t[i]] = i;
    }
  }

  /**
   * The charts with what could be laid against them.
   *
   * @param most stretch allowed
   */
  List<Piece> attached(double most, Work work) {
    boolean isMoved = chart.length > 0;
    for (int round = 0; isMoved && round < ROUNDS; round++) {
      isMoved = false;
      for (int c = 0; c < pieces.size(); c++) {
        Piece p = pieces.get(c);
        if (p != null && p.triangles().length <= SMALL) {
          work.check();
          isMoved |= attach(c, most);
        }
      }
    }
    return pieces.stream().filter(p -> p != null).toList();
  }

  /** Half-edges of a chart that those of a fin lie on, as they come. */
  private static final class Side {
    private int[] own = new int[4];
    private int[] others = new int[4];
    private int count;
    private double length;

    private void add(int mine, int other, double by) {
      if (count == own.length) {
        own = Arrays.copyOf(own, 2 * count);
        others = Arrays.copyOf(others, 2 * count);
      }
      own[count] = mine;
      others[count++] = other;
      length += by;
    }
  }

  private boolean attach(int c, double most) {
    LongIndex charts = new LongIndex();
    List<Side> sides = new ArrayList<>();
    int[] t = pieces.get(c).triangles();
    for (int local : ChartOutline.of(pieces.get(c).corners())) {
      int h = 3 * t[local / 3] + local % 3;
      int g = across(h, c);
      if (g >= 0) {
        int at = charts.add(chart[g / 3]);
        if (at == sides.size()) {
          sides.add(new Side());
        }
        sides.get(at).add(local, g, ground.length(h));
      }
    }
    while (!sides.isEmpty()) {
      int best = 0;
      for (int i = 1; i < sides.size(); i++) {
        best = sides.get(i).length > sides.get(best).length ? i : best;
      }
      int other = (int) charts.key(best);
      Side side = sides.get(best);
      if (side.length < 0) {
        return false;
      }
      Piece joined = joined(other, c, side, most);
      if (joined != null) {
        rewire(joined, other, side);
        pieces.set(c, null);
        pieces.set(other, joined);
        enter(other);
        return true;
      }
      side.length = -1;
    }
    return false;
  }

  /** A half-edge on another chart's outline that lies on one, the longest charts first; -1. */
  private int across(int h, int c) {
    int at = place.find(h);
    if (at < 0) {
      return -1;
    }
    int[] tri = ground.mesh().triangles();
    int[] all = ground.crowded();
    int from = at;
    while (from > 0 && CrowdedPairs.isSameEdge(tri, all[from - 1], h)) {
      from--;
    }
    int best = -1;
    for (int i = from; i < all.length && CrowdedPairs.isSameEdge(tri, all[i], h); i++) {
      int g = all[i];
      int d = chart[g / 3];
      boolean isFacing = d != c && tri[g] != tri[h];
      int beyond = ground.twin()[g];
      boolean isRim = beyond < 0 || chart[beyond / 3] != d;
      if (isFacing && isRim && size(d) <= LARGE && matters(g) == matters(h)) {
        best = best < 0 || size(d) > size(chart[best / 3]) ? g : best;
      }
    }
    return best;
  }

  private float matters(int h) {
    return importance == null ? 1 : importance[h / 3];
  }

  private int size(int c) {
    return pieces.get(c).triangles().length;
  }

  private Piece joined(int other, int c, Side side, double most) {
    int[] shared = new int[side.count];
    for (int i = 0; i < side.count; i++) {
      shared[i] = 3 * slot[side.others[i] / 3] + side.others[i] % 3;
    }
    int[] own = Arrays.copyOf(side.own, side.count);
    double allowed = Math.max(most, pieces.get(other).stretch());
    return new PieceJoin(pieces.get(other), pieces.get(c), shared, own).joined(allowed, false);
  }

  /** Makes twins of what lies on each other now. */
  private void rewire(Piece joined, int other, Side side) {
    int before = pieces.get(other).triangles().length;
    int[] twin = ground.twin();
    for (int i = 0; i < side.count; i++) {
      int g = side.others[i];
      int atG = 3 * slot[g / 3] + g % 3;
      int atH = 3 * before + side.own[i];
      int[] k = joined.corners();
      boolean isJoined = k[atG] == k[Adjacency.next(atH)] && k[Adjacency.next(atG)] == k[atH];
      int h = 3 * joined.triangles()[atH / 3] + atH % 3;
      if (isJoined) {
        part(twin, g);
        part(twin, h);
        twin[g] = h;
        twin[h] = g;
      }
    }
  }

  private static void part(int[] twin, int h) {
    if (twin[h] >= 0) {
      twin[twin[h]] = Adjacency.BORDER;
    }
  }
}
