package holotome.core.unwrap;

import holotome.core.solve.EdgeSystem;
import holotome.core.topology.Adjacency;

/**
 * Moves the vertices of a chart so that each triangle keeps its own shape as well as can be: as
 * rigid as possible (Liu, Zhang, Xu, Gotsman and Gortler, "A local/global approach to mesh
 * parameterization", SGP 2008). The system is taken apart once; a round turns each triangle and
 * solves. Triangles may be turned over by it: the caller looks.
 */
final class AsRigid {
  private static final double LEAST_COT = 0.02;
  private static final double MOST_COT = 50;

  private final Piece piece;
  private final double[] cot;
  private final EdgeSystem system;
  private final double[] hold;

  /** How much stiffer a held vertex is than the mean one. */
  private static final double HELD = 1e7;

  /**
   * @param held vertices that stay where they are; null for none
   */
  AsRigid(Piece piece, boolean[] held) {
    this.piece = piece;
    int[] k = piece.corners();
    cot = new double[k.length];
    int[] ends = new int[2 * k.length];
    double sum = 0;
    for (int h = 0; h < k.length; h++) {
      cot[h] = cotangent(h / 3, h % 3);
      sum += cot[h];
      ends[2 * h] = k[h];
      ends[2 * h + 1] = k[Adjacency.next(h)];
    }
    // One vertex is held where it is: a chart may be shifted freely.
    double mean = sum / piece.vertices();
    hold = new double[piece.vertices()];
    hold[0] = mean;
    for (int v = 0; held != null && v < hold.length; v++) {
      hold[v] = held[v] ? HELD * mean : 0;
    }
    system = EdgeSystem.of(piece.vertices(), ends, cot, hold);
  }

  /** The places after so many rounds from where it lies now. */
  double[] places(int rounds) {
    double[] uv = piece.uv();
    for (int r = 0; r < rounds; r++) {
      double[] b = new double[uv.length];
      for (int i = 0; i < b.length; i++) {
        b[i] = hold[i / 2] * uv[i];
      }
      for (int t = 0; t < piece.triangles().length; t++) {
        pull(t, uv, b);
      }
      system.solve(b);
      uv = b;
    }
    return uv;
  }

  private double x(int t, int k) {
    return k == 0 ? 0 : piece.rest()[3 * t + k - 1];
  }

  private double y(int t, int k) {
    return k == 2 ? piece.rest()[3 * t + 2] : 0;
  }

  /** The cotangent of the angle across the edge from a corner to the next; bounded, above zero. */
  private double cotangent(int t, int a) {
    int b = (a + 1) % 3;
    int c = (a + 2) % 3;
    double ux = x(t, a) - x(t, c);
    double uy = y(t, a) - y(t, c);
    double vx = x(t, b) - x(t, c);
    double vy = y(t, b) - y(t, c);
    return Math.clamp((ux * vx + uy * vy) / Math.abs(ux * vy - uy * vx), LEAST_COT, MOST_COT);
  }

  /** Adds what a triangle wants: its own shape, turned as it lies now. */
  private void pull(int t, double[] uv, double[] b) {
    int[] corner = piece.corners();
    double l = piece.rest()[3 * t];
    double px = piece.rest()[3 * t + 1];
    double py = piece.rest()[3 * t + 2];
    int i0 = 2 * corner[3 * t];
    int i1 = 2 * corner[3 * t + 1];
    int i2 = 2 * corner[3 * t + 2];
    double w0 = cot[3 * t];
    double w1 = cot[3 * t + 1];
    double w2 = cot[3 * t + 2];
    // Edges of its own shape, from corner to next.
    double e1x = px - l;
    double f0x = uv[i1] - uv[i0];
    double f0y = uv[i1 + 1] - uv[i0 + 1];
    double f1x = uv[i2] - uv[i1];
    double f1y = uv[i2 + 1] - uv[i1 + 1];
    double f2x = uv[i0] - uv[i2];
    double f2y = uv[i0 + 1] - uv[i2 + 1];
    double c = w0 * l * f0x + w1 * (e1x * f1x + py * f1y) - w2 * (px * f2x + py * f2y);
    double s = w0 * l * f0y + w1 * (e1x * f1y - py * f1x) - w2 * (px * f2y - py * f2x);
    double r = Math.sqrt(c * c + s * s);
    if (!(r > 0)) {
      return;
    }
    c /= r;
    s /= r;
    double d0x = w0 * c * l;
    double d0y = w0 * s * l;
    double d1x = w1 * (c * e1x - s * py);
    double d1y = w1 * (s * e1x + c * py);
    double d2x = -w2 * (c * px - s * py);
    double d2y = -w2 * (s * px + c * py);
    b[i0] += d2x - d0x;
    b[i0 + 1] += d2y - d0y;
    b[i1] += d0x - d1x;
    b[i1 + 1] += d0y - d1y;
    b[i2] += d1x - d2x;
    b[i2 + 1] += d1y - d2y;
  }
}
