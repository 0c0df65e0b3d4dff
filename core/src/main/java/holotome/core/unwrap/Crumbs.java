package holotome.core.unwrap;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Gives small pieces that were cut off the charts of a heavy mesh to the neighbours of those
 * charts, all that one gets at once: unfolded beside it, moved a little, and cut off again where
 * they would lie over it. O(T).
 */
final class Crumbs {
  /** Triangles that a crumb has at most. */
  private static final int SMALL = 200;

  private static final int ROUNDS = 5;

  /** Vertices moved: so many for each of a crumb, and so many in any case. */
  private static final int REACH = 3;

  private static final int LEAST_REACH = 60;

  private final Ground ground;
  private final int[] chart;
  private final PieceFlattening flattening;
  private final double stretch;
  private final boolean isElsewhere;
  private final List<Piece> pieces = new ArrayList<>();

  /** The chart that each piece was cut from. */
  private final List<Integer> origin = new ArrayList<>();

  /**
   * @param chart of each triangle; changed to the number of its piece, then of that it goes to
   * @param flat the pieces that each chart was laid flat in
   * @param isElsewhere whether crumbs go to other charts only
   */
  private Crumbs(
      Ground ground,
      int[] chart,
      List<List<Piece>> flat,
      PieceFlattening flattening,
      double stretch,
      boolean isElsewhere) {
    this.isElsewhere = isElsewhere;
    this.ground = ground;
    this.chart = chart;
    this.flattening = flattening;
    this.stretch = stretch;
    for (int c = 0; c < flat.size(); c++) {
      for (Piece p : flat.get(c)) {
        for (int t : p.triangles()) {
          chart[t] = pieces.size();
        }
        pieces.add(p);
        origin.add(c);
      }
    }
  }

  /** Twice to other charts, then to any, that which they were cut from among them. */
  static List<Piece> attached(
      Ground ground,
      int[] chart,
      List<List<Piece>> flat,
      PieceFlattening flattening,
      double stretch,
      Work work) {
    List<List<Piece>> now = flat;
    for (int round = 0; round < 3; round++) {
      Crumbs c = new Crumbs(ground, chart, now, flattening, stretch, round < 2);
      now = c.attached(work.part(1.0 / 3, work.label()));
    }
    List<Piece> out = new ArrayList<>();
    now.forEach(out::addAll);
    return out;
  }

  private List<List<Piece>> attached(Work work) {
    List<List<Integer>> got = new ArrayList<>();
    boolean[] isGiven = new boolean[pieces.size()];
    for (int c = 0; c < pieces.size(); c++) {
      got.add(new ArrayList<>());
    }
    for (int c = 0; c < pieces.size(); c++) {
      int to = isCrumb(c) ? neighbour(c) : -1;
      if (to >= 0) {
        got.get(to).add(c);
        isGiven[c] = true;
      }
    }
    // Only now, when all neighbours are found.
    for (int c = 0; c < pieces.size(); c++) {
      for (int crumb : got.get(c)) {
        for (int t : pieces.get(crumb).triangles()) {
          chart[t] = c;
        }
      }
    }
    List<List<Piece>> made = new ArrayList<>();
    for (int c = 0; c < pieces.size(); c++) {
      made.add(isGiven[c] ? List.of() : List.of(pieces.get(c)));
    }
    Parallel.range(
        pieces.size(),
        1,
        work,
        (from, to) -> {
          for (int c = from; c < to; c++) {
            if (!got.get(c).isEmpty()) {
              made.set(c, together(c, got.get(c), work));
            }
          }
        });
    return made;
  }

  private boolean isCrumb(int c) {
    return pieces.get(c).triangles().length <= SMALL;
  }

  /** The larger piece of another chart that a crumb shares most border with; -1 for none. */
  private int neighbour(int c) {
    SharedBorder border = new SharedBorder();
    for (int t : pieces.get(c).triangles()) {
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        int g = ground.twin()[h];
        int other = g < 0 ? c : chart[g / 3];
        boolean isOther = !origin.get(other).equals(origin.get(c));
        if (other != c && (isOther || !isElsewhere) && !isCrumb(other)) {
          border.add(other, ground.seam()[h]);
        }
      }
    }
    return border.longest();
  }

  /** A piece with its crumbs, or all of them as they were where that makes no fewer. */
  private List<Piece> together(int c, List<Integer> crumbs, Work work) {
    Piece old = pieces.get(c);
    List<Piece> before = new ArrayList<>(List.of(old));
    int n = old.triangles().length;
    for (int k : crumbs) {
      before.add(pieces.get(k));
      n += pieces.get(k).triangles().length;
    }
    int[] members = new int[n];
    int at = 0;
    for (Piece p : before) {
      System.arraycopy(p.triangles(), 0, members, at, p.triangles().length);
      at += p.triangles().length;
    }
    Arrays.sort(members);
    Piece all = flattening.unplaced(members);
    boolean[] isKnown = new boolean[all.vertices()];
    for (int i = 0; i < old.triangles().length; i++) {
      int j = Arrays.binarySearch(members, old.triangles()[i]);
      for (int k = 0; k < 3; k++) {
        int v = all.corners()[3 * j + k];
        int o = old.corners()[3 * i + k];
        all.uv()[2 * v] = old.uv()[2 * o];
        all.uv()[2 * v + 1] = old.uv()[2 * o + 1];
        isKnown[v] = true;
      }
    }
    if (!Unfold.all(all, isKnown)) {
      return before;
    }
    int[] near = new int[3 * (n - old.triangles().length)];
    int count = 0;
    for (int k : crumbs) {
      for (int t : pieces.get(k).triangles()) {
        int j = 3 * Arrays.binarySearch(members, t);
        System.arraycopy(all.corners(), j, near, count, 3);
        count += 3;
      }
    }
    int reach = REACH * near.length / 3 + LEAST_REACH * crumbs.size();
    Piece moved = Settling.movedNear(all, near, reach, ROUNDS, work);
    List<Piece> after = Trimmed.of(moved, flattening, stretch, work);
    return after.size() < before.size() ? after : before;
  }
}
