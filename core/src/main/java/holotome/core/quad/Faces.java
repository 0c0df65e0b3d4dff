package holotome.core.quad;

import holotome.core.array.LongIndex;

/**
 * Faces of three corners and more over points.
 *
 * @param at places, 3 doubles a point
 * @param corners the points of each face, counter-clockwise seen from outside
 * @param lines edges that lie on lines, the lower point in the upper half of the number
 * @param from a vertex near each point, of the surface the faces lie on; one on a line for a point
 *     on a line
 */
record Faces(double[] at, int[][] corners, LongIndex lines, int[] from) {
  int points() {
    return from.length;
  }

  static long edge(int a, int b) {
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  boolean isLine(int a, int b) {
    return lines.find(edge(a, b)) >= 0;
  }
}
