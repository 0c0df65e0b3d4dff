package holotome.core.proxy;

import holotome.core.array.LongIndex;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.solve.SparseSystem;
import holotome.core.task.Work;

/**
 * Moves of a mesh's points made out of those that are known: points that know none go with their
 * neighbours, so that the moves are harmonic there; and if it is asked for all are evened out over
 * a distance (the screened equation move - reach² Δ move = known, by edges). Not evened, every move
 * is a mean of known ones; evened, one may be a little longer than the longest of them.
 */
final class EvenedMoves {
  private static final double TOLERANCE = 1e-8;
  private static final int ROUNDS = 5000;

  /** What is left after one evening is evened out again, so that slopes stay along borders too. */
  private static final int AGAIN = 2;

  private final Mesh mesh;
  private final LongIndex edges = new LongIndex();
  private final double size;

  EvenedMoves(Mesh mesh) {
    this.mesh = mesh;
    size = mesh.bounds().diagonal();
    int[] tri = mesh.triangles();
    for (int c = 0; c < tri.length; c++) {
      int a = tri[c];
      int b = tri[c % 3 == 2 ? c - 2 : c + 1];
      if (a != b) {
        edges.add((long) Math.min(a, b) << 32 | Math.max(a, b));
      }
    }
  }

  /**
   * Fills moves in.
   *
   * @param moves 3 doubles a point
   * @param known which of them are
   * @param reach in base units; 0 to leave known ones as they are
   * @return whether it came to an end
   */
  boolean fill(double[] moves, boolean[] known, double reach, Work work) {
    if (!(reach > 0)) {
      return once(moves, known, 0, work);
    }
    // Evening flattens what is smooth as well, a little; of what it takes away the smooth part is
    // given back ("twicing", Tukey 1977).
    double[] wanted = moves.clone();
    boolean ended = once(moves, known, reach, work);
    for (int i = 0; i < AGAIN; i++) {
      double[] left = new double[moves.length];
      for (int k = 0; k < left.length; k++) {
        left[k] = known[k / 3] ? wanted[k] - moves[k] : 0;
      }
      ended &= once(left, known, reach, work);
      for (int k = 0; k < left.length; k++) {
        moves[k] += left[k];
      }
    }
    return ended;
  }

  private boolean once(double[] moves, boolean[] known, double reach, Work work) {
    int n = known.length;
    int[] row = new int[n];
    int rows = 0;
    for (int v = 0; v < n; v++) {
      row[v] = reach > 0 || !known[v] ? rows++ : -1;
    }
    if (rows == 0) {
      return true;
    }
    SparseSystem system = system(row, rows, known, reach);
    boolean ended = true;
    for (int k = 0; k < 3; k++) {
      double[] b = new double[rows];
      double[] x = new double[rows];
      for (int v = 0; v < n; v++) {
        if (row[v] >= 0) {
          x[row[v]] = moves[3 * v + k];
          b[row[v]] = reach > 0 && known[v] ? moves[3 * v + k] : 0;
        }
      }
      for (int e = 0; e < edges.size() && reach <= 0; e++) {
        int i = (int) (edges.key(e) >>> 32);
        int j = (int) edges.key(e);
        double w = weight(i, j, reach);
        if (row[i] >= 0 && row[j] < 0) {
          b[row[i]] += w * moves[3 * j + k];
        } else if (row[j] >= 0 && row[i] < 0) {
          b[row[j]] += w * moves[3 * i + k];
        }
      }
      ended &= system.solve(b, x, TOLERANCE, ROUNDS, work).converged();
      for (int v = 0; v < n; v++) {
        if (row[v] >= 0) {
          moves[3 * v + k] = x[row[v]];
        }
      }
    }
    return ended;
  }

  private SparseSystem system(int[] row, int rows, boolean[] known, double reach) {
    int[] start = new int[rows + 1];
    for (int r = 0; r < rows; r++) {
      start[r + 1] = 1;
    }
    for (int e = 0; e < edges.size(); e++) {
      int i = row[(int) (edges.key(e) >>> 32)];
      int j = row[(int) edges.key(e)];
      if (i >= 0 && j >= 0) {
        start[i + 1]++;
        start[j + 1]++;
      }
    }
    for (int r = 0; r < rows; r++) {
      start[r + 1] += start[r];
    }
    int[] column = new int[start[rows]];
    double[] value = new double[start[rows]];
    int[] fill = new int[rows];
    for (int v = 0; v < row.length; v++) {
      if (row[v] >= 0) {
        int at = start[row[v]];
        column[at] = row[v];
        value[at] = reach > 0 && known[v] ? 1 : 0;
        fill[row[v]] = at + 1;
      }
    }
    for (int e = 0; e < edges.size(); e++) {
      int a = (int) (edges.key(e) >>> 32);
      int b = (int) edges.key(e);
      double w = weight(a, b, reach);
      for (int turn = 0; turn < 2; turn++) {
        int i = row[turn == 0 ? a : b];
        int j = row[turn == 0 ? b : a];
        if (i >= 0) {
          value[start[i]] += w;
          if (j >= 0) {
            column[fill[i]] = j;
            value[fill[i]++] = -w;
          }
        }
      }
    }
    return new SparseSystem(start, column, value);
  }

  private double weight(int a, int b, double reach) {
    double l = Vec.distance(Vec.at(mesh.xyz(), a), Vec.at(mesh.xyz(), b));
    double r = reach > 0 ? reach : size;
    // Points in one place go together, as far as numbers allow.
    return r * r / Math.max(l * l, 1e-8 * r * r);
  }
}
