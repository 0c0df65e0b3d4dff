package holotome.core.solve;

/**
 * A symmetric positive definite system of a graph with one weight an edge, taken apart once and
 * solved as often as wanted.
 *
 * <p>Row i has the sum of its edges' weights and its own extra weight on the diagonal, and minus an
 * edge's weight where that edge leads.
 */
public sealed interface EdgeSystem permits SkylineSystem, DissectedSystem {
  /** From so many rows on fewer entries are worth more than their lying side by side. */
  int LARGE = 1500;

  /**
   * @param ends two per edge; an edge may come more than once, its weights are added
   * @param weight one per edge, at least 0
   * @param extra one per row, at least 0; above 0 for one row of each connected part
   */
  static EdgeSystem of(int n, int[] ends, double[] weight, double[] extra) {
    return n < LARGE
        ? new SkylineSystem(n, ends, weight, extra)
        : new DissectedSystem(n, ends, weight, extra);
  }

  /**
   * Solves for two right sides at once, as x, y in turn, in place.
   *
   * @param xy two per row: the right sides, then what solves them
   */
  void solve(double[] xy);
}
