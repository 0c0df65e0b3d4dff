package holotome.core.measure;

import java.util.Arrays;

/** The convex outline of flat points (Andrew's monotone chain, 1979); O(n log n). */
public final class ConvexOutline {
  private ConvexOutline() {}

  /** The outline's corners, counter-clockwise; each point is x, y. */
  public static double[][] of(double[][] points) {
    double[][] p = points.clone();
    Arrays.sort(
        p, (a, b) -> a[0] != b[0] ? Double.compare(a[0], b[0]) : Double.compare(a[1], b[1]));
    double[][] out = new double[2 * p.length + 1][];
    int n = 0;
    for (int pass = 0; pass < 2; pass++) {
      int least = n + 1;
      for (int i = 0; i < p.length; i++) {
        double[] q = pass == 0 ? p[i] : p[p.length - 1 - i];
        while (n > least && turn(out[n - 2], out[n - 1], q) <= 0) {
          n--;
        }
        out[n++] = q;
      }
      // The last point begins the way back.
      n--;
    }
    return Arrays.copyOf(out, Math.max(n, 0));
  }

  private static double turn(double[] a, double[] b, double[] c) {
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  }

  /** How far inside the outline a point lies; below zero outside. */
  static double depth(double[][] outline, double x, double y) {
    double least = Double.POSITIVE_INFINITY;
    for (int i = 0; i < outline.length; i++) {
      double[] a = outline[i];
      double[] b = outline[(i + 1) % outline.length];
      double l = Math.hypot(b[0] - a[0], b[1] - a[1]);
      if (l > 0) {
        least = Math.min(least, turn(a, b, new double[] {x, y}) / l);
      }
    }
    return outline.length < 3 ? Double.NEGATIVE_INFINITY : least;
  }
}
