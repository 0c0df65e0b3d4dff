package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.topology.Adjacency;
import java.util.Arrays;

/** The border edges of a flattened chart. */
final class ChartOutline {
  private ChartOutline() {}

  /**
   * Whether two border edges that share no vertex cross or touch, or two that share one lie on each
   * other. A sweep over edges sorted by their left end: O(b log b) for usual outlines.
   */
  static boolean meetsItself(int[] corners, double[] uv) {
    int[] twin = Adjacency.of(new Mesh(new float[uv.length / 2 * 3], corners)).twin();
    int[] edges = new int[corners.length];
    int n = 0;
    for (int h = 0; h < corners.length; h++) {
      if (twin[h] < 0) {
        edges[n++] = h;
      }
    }
    double[] left = new double[n];
    double[] right = new double[n];
    Integer[] order = new Integer[n];
    for (int i = 0; i < n; i++) {
      double a = uv[2 * corners[edges[i]]];
      double b = uv[2 * corners[Adjacency.next(edges[i])]];
      left[i] = Math.min(a, b);
      right[i] = Math.max(a, b);
      order[i] = i;
    }
    Arrays.sort(order, (i, j) -> left[i] != left[j] ? Double.compare(left[i], left[j]) : i - j);
    for (int x = 0; x < n; x++) {
      int i = order[x];
      int a = corners[edges[i]];
      int b = corners[Adjacency.next(edges[i])];
      for (int y = x + 1; y < n && left[order[y]] <= right[i]; y++) {
        int j = order[y];
        int c = corners[edges[j]];
        int d = corners[Adjacency.next(edges[j])];
        if (a == c || a == d || b == c || b == d) {
          continue;
        }
        if (cross(uv, a, b, c, d)) {
          return true;
        }
      }
    }
    return false;
  }

  private static boolean cross(double[] p, int a, int b, int c, int d) {
    double s = side(p, a, b, c);
    double t = side(p, a, b, d);
    double u = side(p, c, d, a);
    double v = side(p, c, d, b);
    return s * t <= 0 && u * v <= 0 && !(s == 0 && t == 0);
  }

  private static double side(double[] p, int a, int b, int c) {
    return (p[2 * b] - p[2 * a]) * (p[2 * c + 1] - p[2 * a + 1])
        - (p[2 * c] - p[2 * a]) * (p[2 * b + 1] - p[2 * a + 1]);
  }
}
