package holotome.core.unwrap;

import java.util.Arrays;

/**
 * Which of several squares a chart is put into: the one with most room left; or, where charts have
 * a rank, the one that its rank asks for, else the nearest to that.
 */
final class SquareChoice {
  /** What is free of each square, as a share of it; charts are no wider apart than this allows. */
  private final double[] room;

  /** Per chart the square that its rank asks for; null for none. */
  private final int[] home;

  /**
   * @param taken of each square, as a share of it
   * @param home of each chart as {@link #homes} has it; null for none
   */
  SquareChoice(double[] taken, int[] home) {
    this.home = home;
    room = new double[taken.length];
    for (int i = 0; i < room.length; i++) {
      room[i] = 1 - taken[i];
    }
  }

  /**
   * The squares of charts where each gets as much of the area as any other, those of the highest
   * rank in the first; of equal ones the lower number first.
   */
  static int[] homes(double[] rank, double[] areas, int squares) {
    Integer[] order = new Integer[rank.length];
    Arrays.setAll(order, i -> i);
    Arrays.sort(order, (a, b) -> rank[a] != rank[b] ? Double.compare(rank[b], rank[a]) : a - b);
    double all = 0;
    for (double a : areas) {
      all += Math.max(0, a);
    }
    int[] out = new int[rank.length];
    double before = 0;
    for (int c : order) {
      double own = Math.max(0, areas[c]);
      double middle = all > 0 ? (before + own / 2) / all : 0;
      out[c] = Math.min(squares - 1, (int) (middle * squares));
      before += own;
    }
    return out;
  }

  /** The squares that a chart may go into, the best first. */
  int[] order(int chart, double share) {
    Integer[] all = new Integer[room.length];
    Arrays.setAll(all, i -> i);
    if (home == null) {
      Arrays.sort(all, (a, b) -> room[a] != room[b] ? Double.compare(room[b], room[a]) : a - b);
    } else {
      int h = home[chart];
      // Of two as far the one for charts of less rank.
      Arrays.sort(
          all,
          (a, b) -> Math.abs(a - h) != Math.abs(b - h) ? Math.abs(a - h) - Math.abs(b - h) : b - a);
    }
    return Arrays.stream(all).mapToInt(i -> i).filter(i -> room[i] >= share).toArray();
  }

  void took(int square, double share) {
    room[square] -= share;
  }
}
