package holotome.core.proxy;

import java.util.ArrayList;
import java.util.List;

/**
 * Linear conditions whose product with what is looked for is nought, and what meets them all and is
 * nearest to what is wanted, by weights: least squares with conditions, which are made orthogonal
 * one after the other (Gram and Schmidt, twice; Golub and Van Loan, "Matrix Computations", section
 * 5.2). O(n) memory a condition that says something new.
 */
final class Conditions {
  private static final double NEW = 1e-9;

  private final double[] weight;

  /** Orthogonal to each other and of length 1, in the coordinates that make all weights 1. */
  private final List<double[]> rows = new ArrayList<>();

  Conditions(double[] weight) {
    this.weight = weight.clone();
  }

  /**
   * Adds one.
   *
   * @param of which unknowns it is of
   * @param factors of each
   */
  void add(int[] of, double[] factors) {
    double[] row = new double[weight.length];
    for (int i = 0; i < of.length; i++) {
      row[of[i]] = factors[i] / Math.sqrt(weight[of[i]]);
    }
    double length = length(row);
    for (int again = 0; again < 2; again++) {
      for (double[] r : rows) {
        subtract(row, r, dot(row, r));
      }
    }
    double left = length(row);
    if (left > NEW * length) {
      for (int i = 0; i < row.length; i++) {
        row[i] /= left;
      }
      rows.add(row);
    }
  }

  /** What meets all conditions and is nearest to what is wanted. */
  double[] nearest(double[] wanted) {
    double[] x = new double[wanted.length];
    for (int i = 0; i < x.length; i++) {
      x[i] = wanted[i] * Math.sqrt(weight[i]);
    }
    for (double[] r : rows) {
      subtract(x, r, dot(x, r));
    }
    for (int i = 0; i < x.length; i++) {
      x[i] /= Math.sqrt(weight[i]);
    }
    return x;
  }

  private static double dot(double[] a, double[] b) {
    double s = 0;
    for (int i = 0; i < a.length; i++) {
      s += a[i] * b[i];
    }
    return s;
  }

  private static double length(double[] a) {
    return Math.sqrt(dot(a, a));
  }

  private static void subtract(double[] from, double[] row, double times) {
    for (int i = 0; i < from.length; i++) {
      from[i] -= times * row[i];
    }
  }
}
