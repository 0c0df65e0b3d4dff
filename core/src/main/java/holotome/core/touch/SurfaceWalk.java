package holotome.core.touch;

import holotome.core.mesh.Mesh;
import holotome.core.topology.Adjacency;

/**
 * Finds where a line meets the surface by going from triangle to triangle, beginning close by: what
 * is found hangs together with where it began. One per thread.
 */
final class SurfaceWalk {
  private final float[] p;
  private final int[] tri;
  private final int[] twin;

  /** The triangle that was found, or at which it was given up. */
  int triangle;

  /** The weights of its second and third corner. */
  double second;

  double third;

  SurfaceWalk(TouchGround ground) {
    Mesh m = ground.cast();
    p = m.xyz();
    tri = m.triangles();
    twin = ground.twin();
  }

  /**
   * Goes to the triangle that the line through a place hits from outside.
   *
   * @param start the triangle to begin at
   * @param n the line's direction, out of the surface
   * @param most triangles that are gone over
   * @return whether it was reached: not beyond a border, nor where the surface turns away
   */
  boolean to(int start, double x, double y, double z, double[] n, int most) {
    int t = start;
    int before = -1;
    for (int step = 0; step < most; step++) {
      triangle = t;
      double e0 = side(t, 0, x, y, z, n);
      double e1 = side(t, 1, x, y, z, n);
      double e2 = side(t, 2, x, y, z, n);
      double whole = e0 + e1 + e2;
      if (!(whole > 0)) {
        return false;
      }
      if (e0 >= 0 && e1 >= 0 && e2 >= 0) {
        // The edge from a to b lies across from c.
        second = e2 / whole;
        third = e0 / whole;
        return true;
      }
      int edge = e0 <= e1 && e0 <= e2 ? 0 : e1 <= e2 ? 1 : 2;
      int next = twin[3 * t + edge];
      if (next < 0 || next / 3 == before) {
        return false;
      }
      before = t;
      t = next / 3;
    }
    return false;
  }

  /** On which side of an edge, seen along the line, a place lies: above 0 within. */
  private double side(int t, int k, double x, double y, double z, double[] n) {
    int a = 3 * tri[3 * t + k];
    int b = 3 * tri[Adjacency.next(3 * t + k)];
    double ax = p[a] - x;
    double ay = p[a + 1] - y;
    double az = p[a + 2] - z;
    double bx = p[b] - x;
    double by = p[b + 1] - y;
    double bz = p[b + 2] - z;
    return n[0] * (ay * bz - az * by) + n[1] * (az * bx - ax * bz) + n[2] * (ax * by - ay * bx);
  }
}
