package holotome.core.unwrap;

import holotome.core.task.Work;

/**
 * Lays a piece flat from where its vertices lie: as rigid as possible, turned triangles brought
 * back, and then looked at: no triangle on its back, no overlap, no more stretch than allowed.
 */
final class Settling {
  /** A triangle squeezed to less of its area does not count as laid flat. */
  static final double UPRIGHT = 0.02;

  private static final int SWEEPS = 40;

  /**
   * In what is moved in parts, triangles squeezed to less of their area are relaxed one by one: a
   * few of them make the stretch of a whole chart.
   */
  private static final double RELAXED = 0.25;

  /** Vertices to a block, and how often each is gone over. */
  private static final int BLOCK = 400;

  private static final int BLOCK_SWEEPS = 3;
  private static final int BLOCK_ROUNDS = 2;

  private Settling() {}

  /**
   * All of it.
   *
   * @param rounds of {@link AsRigid}
   * @return null where it would not lie flat so
   */
  static Piece settled(Piece start, int rounds, double most) {
    Piece p = moved(start, null, rounds);
    return p == null ? null : checked(p, most);
  }

  /**
   * Only what lies near some vertices: as many around them as {@code reach}, by steps from edge to
   * edge.
   *
   * @param near vertices to begin at
   */
  static Piece settledNear(Piece start, int[] near, int reach, int rounds, double most) {
    Vicinity.Part part = new Vicinity(start).part(near, reach);
    Piece moved = moved(part.piece(), part.held(), rounds);
    if (moved == null) {
      return null;
    }
    double[] uv = start.uv().clone();
    part.put(moved.uv(), uv);
    return checked(start.at(uv), most);
  }

  /**
   * Of a large piece that lies nearly right: block by block, each moved as a whole while what lies
   * around it stays (Schwarz's alternating method), blocks overlapping. O(vertices). Triangles may
   * stay turned and the piece may overlap itself: {@link Trimmed}.
   */
  static Piece movedByBlocks(Piece start, Work work) {
    double[] uv = start.uv().clone();
    Piece p = start.at(uv);
    Vicinity vicinity = new Vicinity(p);
    int n = p.vertices();
    for (int sweep = 0; sweep < BLOCK_SWEEPS; sweep++) {
      boolean[] isDone = new boolean[n];
      for (int i = 0; i < n; i++) {
        // Every other time from the other end, so that blocks lie differently.
        int v = sweep % 2 == 0 ? i : n - 1 - i;
        if (isDone[v]) {
          continue;
        }
        work.check();
        Vicinity.Part part = vicinity.part(new int[] {v}, BLOCK);
        part.put(new AsRigid(part.piece(), part.held()).places(BLOCK_ROUNDS), uv);
        // The outer ones belong to the next block too.
        for (int k = 0; k < Math.max(1, part.moved() * 2 / 3); k++) {
          isDone[part.vertices()[k]] = true;
        }
      }
    }
    if (!p.isUpright(RELAXED)) {
      p = p.at(new Unfolding(p, null).uprighted(RELAXED, SWEEPS, work));
    }
    return TurnedSpots.mended(p, UPRIGHT, RELAXED, work);
  }

  /**
   * What lies near some vertices moved, the rest where it is; triangles may stay turned there.
   *
   * @param near vertices to begin at
   */
  static Piece movedNear(Piece start, int[] near, int reach, int rounds, Work work) {
    Vicinity.Part part = new Vicinity(start).part(near, reach);
    Piece p = part.piece();
    p = p.at(new AsRigid(p, part.held()).places(rounds));
    if (!p.isUpright(RELAXED)) {
      p = p.at(new Unfolding(p, part.held()).uprighted(RELAXED, SWEEPS, work));
    }
    double[] uv = start.uv().clone();
    part.put(p.uv(), uv);
    return start.at(uv);
  }

  private static Piece moved(Piece start, boolean[] held, int rounds) {
    Piece p = start.at(new AsRigid(start, held).places(rounds));
    if (p.isUpright(UPRIGHT)) {
      return p;
    }
    double[] back = new Unfolding(p, held).upright(UPRIGHT, SWEEPS);
    return back == null ? null : p.at(back);
  }

  /** The piece, or null where it is stretched more than allowed or overlaps itself. */
  static Piece checked(Piece p, double most) {
    if (!(p.stretch() <= most)) {
      return null;
    }
    int[] outline = ChartOutline.of(p.corners());
    return ChartOutline.overlaps(p.corners(), p.uv(), outline) ? null : p;
  }
}
