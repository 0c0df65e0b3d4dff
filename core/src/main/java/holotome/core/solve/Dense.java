package holotome.core.solve;

/** Small dense systems, as fits with a handful of unknowns need them. Matrices by rows. */
final class Dense {
  private Dense() {}

  /**
   * Solves a x = b for a symmetric positive definite a of n x n, by Cholesky's factors (Golub and
   * Van Loan, "Matrix Computations", section 4.2). Null where a is not positive definite.
   */
  static double[] solve(double[] a, double[] b) {
    int n = b.length;
    double[] l = new double[n * n];
    for (int i = 0; i < n; i++) {
      for (int j = 0; j <= i; j++) {
        double s = a[i * n + j];
        for (int k = 0; k < j; k++) {
          s -= l[i * n + k] * l[j * n + k];
        }
        if (i == j && !(s > 0)) {
          return null;
        }
        l[i * n + j] = i == j ? Math.sqrt(s) : s / l[j * n + j];
      }
    }
    double[] x = b.clone();
    for (int i = 0; i < n; i++) {
      for (int k = 0; k < i; k++) {
        x[i] -= l[i * n + k] * x[k];
      }
      x[i] /= l[i * n + i];
    }
    for (int i = n - 1; i >= 0; i--) {
      for (int k = i + 1; k < n; k++) {
        x[i] -= l[k * n + i] * x[k];
      }
      x[i] /= l[i * n + i];
    }
    return x;
  }

  /**
   * Turns a symmetric matrix of n x n into its eigenvalues, on the diagonal, by Jacobi rotations
   * (Golub and Van Loan, section 8.5), and gives the eigenvectors as columns.
   */
  static double[] eigenvectors(double[] a, int n) {
    double[] v = new double[n * n];
    for (int i = 0; i < n; i++) {
      v[i * n + i] = 1;
    }
    for (int sweep = 0; sweep < 48; sweep++) {
      double off = 0;
      double on = 0;
      for (int i = 0; i < n; i++) {
        on += Math.abs(a[i * n + i]);
        for (int j = 0; j < i; j++) {
          off += Math.abs(a[i * n + j]);
        }
      }
      if (off <= 1e-18 * on) {
        break;
      }
      for (int p = 0; p < n - 1; p++) {
        for (int q = p + 1; q < n; q++) {
          rotate(a, v, n, p, q);
        }
      }
    }
    return v;
  }

  private static void rotate(double[] a, double[] v, int n, int p, int q) {
    if (a[p * n + q] == 0) {
      return;
    }
    double theta = (a[q * n + q] - a[p * n + p]) / (2 * a[p * n + q]);
    double t = Math.copySign(1, theta) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
    double c = 1 / Math.sqrt(t * t + 1);
    double s = t * c;
    for (int k = 0; k < n; k++) {
      double x = a[k * n + p];
      double y = a[k * n + q];
      a[k * n + p] = c * x - s * y;
      a[k * n + q] = s * x + c * y;
    }
    for (int k = 0; k < n; k++) {
      double x = a[p * n + k];
      double y = a[q * n + k];
      a[p * n + k] = c * x - s * y;
      a[q * n + k] = s * x + c * y;
      x = v[k * n + p];
      y = v[k * n + q];
      v[k * n + p] = c * x - s * y;
      v[k * n + q] = s * x + c * y;
    }
  }

  /** The unit eigenvector of the least eigenvalue of a symmetric matrix; spoils the matrix. */
  static double[] least(double[] a, int n) {
    double[] v = eigenvectors(a, n);
    int least = 0;
    for (int i = 1; i < n; i++) {
      if (a[i * n + i] < a[least * n + least]) {
        least = i;
      }
    }
    double[] out = new double[n];
    for (int k = 0; k < n; k++) {
      out[k] = v[k * n + least];
    }
    return out;
  }
}
