package holotome.core.solve;

import holotome.core.task.Work;

/**
 * A symmetric positive (semi-)definite system in compressed rows, solved by conjugate gradients
 * with a diagonal preconditioner (Hestenes and Stiefel, 1952).
 *
 * <p>Row i holds the columns {@code column[start[i] ... start[i + 1] - 1]}. Cost per iteration is
 * one pass over the entries; sums run in a fixed order, so the result does not vary between runs.
 */
public final class SparseSystem {
  private final int[] start;
  private final int[] column;
  private final double[] value;
  private final double[] inverseDiagonal;

  public SparseSystem(int[] start, int[] column, double[] value) {
    this.start = start;
    this.column = column;
    this.value = value;
    int n = start.length - 1;
    inverseDiagonal = new double[n];
    for (int i = 0; i < n; i++) {
      double d = 0;
      for (int k = start[i]; k < start[i + 1]; k++) {
        if (column[k] == i) {
          d += value[k];
        }
      }
      inverseDiagonal[i] = d > 0 ? 1 / d : 1;
    }
  }

  /**
   * Improves {@code x} in place until the residual has fallen to {@code tolerance} of the right
   * side, or the iterations run out.
   */
  public Solution solve(double[] b, double[] x, double tolerance, int iterations, Work work) {
    int n = x.length;
    double[] r = new double[n];
    double[] p = new double[n];
    double[] q = new double[n];
    multiply(x, q);
    double rz = 0;
    double goal = 0;
    for (int i = 0; i < n; i++) {
      r[i] = b[i] - q[i];
      p[i] = r[i] * inverseDiagonal[i];
      rz += r[i] * p[i];
      goal += b[i] * b[i] * inverseDiagonal[i];
    }
    goal *= tolerance * tolerance;
    int it = 0;
    while (it < iterations && rz > goal && rz > 1e-300) {
      if ((it & 31) == 0) {
        work.check();
      }
      multiply(p, q);
      double pq = 0;
      for (int i = 0; i < n; i++) {
        pq += p[i] * q[i];
      }
      if (!(pq > 0)) {
        break;
      }
      double alpha = rz / pq;
      double next = 0;
      for (int i = 0; i < n; i++) {
        x[i] += alpha * p[i];
        r[i] -= alpha * q[i];
        next += r[i] * r[i] * inverseDiagonal[i];
      }
      double beta = next / rz;
      rz = next;
      for (int i = 0; i < n; i++) {
        p[i] = r[i] * inverseDiagonal[i] + beta * p[i];
      }
      it++;
    }
    return new Solution(it, rz <= goal || rz <= 1e-300);
  }

  /**
   * How it went.
   *
   * @param iterations used
   * @param converged whether the residual has fallen as far as was asked
   */
  public record Solution(int iterations, boolean converged) {}

  private void multiply(double[] x, double[] y) {
    for (int i = 0; i < y.length; i++) {
      double s = 0;
      for (int k = start[i]; k < start[i + 1]; k++) {
        s += value[k] * x[column[k]];
      }
      y[i] = s;
    }
  }
}
