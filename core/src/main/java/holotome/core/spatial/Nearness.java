package holotome.core.spatial;

import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * Shows that no point of a surface is farther than a distance from another one.
 *
 * <p>The distance to one triangle is convex: if the corners of a triangle are within the distance
 * of the same triangle, all of it is. And it changes by no more than the way one goes: if the
 * middle is nearer than the distance by as much as the corners are away from it, all of it is
 * within. What neither shows is cut in two at its longest side, over and over; what is not shown by
 * a great many pieces counts as farther. So "near" is a proof, up to what floats are rounded by,
 * which is allowed for; "not shown" also says so of some that are as good as at the distance.
 *
 * <p>One closest point per piece, about 1 µs; the bounds by which Hausdorff distances are computed
 * (Tang and others, "Interactive Hausdorff distance computation for general polygonal models",
 * 2009), for one distance that is given.
 */
public final class Nearness {
  private static final int GRAIN = 1 << 10;

  /** Into how many pieces a triangle is cut at most. */
  private static final int PIECES = 2000;

  private final Mesh to;
  private final BvhQuery query;
  private final TrianglePoint point = new TrianglePoint();
  private final float limit;
  private final float square;
  private int pieces;

  private Nearness(Mesh to, Bvh bvh, float limit) {
    this.to = to;
    this.limit = limit;
    square = limit * limit;
    query = new BvhQuery(bvh);
  }

  /**
   * The triangles of a surface of which it cannot be shown that all of them is near.
   *
   * @param bvh of {@code to}
   * @param distance in the meshes' units
   * @return one per triangle
   */
  public static boolean[] notShown(Mesh from, Mesh to, Bvh bvh, double distance, Work work) {
    boolean[] out = new boolean[from.triangleCount()];
    Box a = from.bounds();
    Box b = to.bounds();
    double reach = Math.max(largest(a), largest(b));
    float limit = (float) (distance * (1 - 1e-4) - 4 * Math.ulp((float) reach));
    Parallel.range(
        out.length,
        GRAIN,
        work,
        (first, end) -> {
          Nearness n = new Nearness(to, bvh, limit);
          for (int t = first; t < end; t++) {
            out[t] = !(limit > 0 && n.isNear(from, t));
          }
        });
    return out;
  }

  /**
   * The triangles of a surface of which some points are farther: their middles are looked at, and
   * their corners and the middles of their sides if asked for, no others. A small part of the time
   * of a proof, and none.
   *
   * @return one per triangle
   */
  public static boolean[] seenFar(
      Mesh from, Mesh to, Bvh bvh, double distance, boolean alsoRims, Work work) {
    boolean[] out = new boolean[from.triangleCount()];
    Parallel.range(
        out.length,
        GRAIN,
        work,
        (first, end) -> {
          Nearness n = new Nearness(to, bvh, (float) distance);
          for (int t = first; t < end; t++) {
            out[t] = n.isSeenFar(from, t, alsoRims);
          }
        });
    return out;
  }

  private boolean isSeenFar(Mesh from, int t, boolean alsoRims) {
    float[] p = from.xyz();
    int a = 3 * from.triangles()[3 * t];
    int b = 3 * from.triangles()[3 * t + 1];
    int c = 3 * from.triangles()[3 * t + 2];
    if (!alsoRims) {
      return isFar(p, a, b, c);
    }
    return isFar(p, a, b, c)
        || isFar(p, a, b, b)
        || isFar(p, b, c, c)
        || isFar(p, c, a, a)
        || isFar(p, a, a, a)
        || isFar(p, b, b, b)
        || isFar(p, c, c, c);
  }

  private boolean isFar(float[] p, int a, int b, int c) {
    boolean isSide = b == c && a != b;
    double f = isSide ? 0.5 : 1 / 3.0;
    double g = isSide ? 0 : 1 / 3.0;
    return !query.closest(
        (float) (f * p[a] + f * p[b] + g * p[c]),
        (float) (f * p[a + 1] + f * p[b + 1] + g * p[c + 1]),
        (float) (f * p[a + 2] + f * p[b + 2] + g * p[c + 2]),
        limit);
  }

  private static double largest(Box b) {
    double m = 0;
    for (double x : new double[] {b.minX(), b.minY(), b.minZ(), b.maxX(), b.maxY(), b.maxZ()}) {
      m = Math.max(m, Math.abs(x));
    }
    return m;
  }

  private boolean isNear(Mesh from, int t) {
    pieces = 0;
    float[] p = from.xyz();
    int a = 3 * from.triangles()[3 * t];
    int b = 3 * from.triangles()[3 * t + 1];
    int c = 3 * from.triangles()[3 * t + 2];
    return isNear(p[a], p[a + 1], p[a + 2], p[b], p[b + 1], p[b + 2], p[c], p[c + 1], p[c + 2], -1);
  }

  private boolean isNear(
      float ax,
      float ay,
      float az,
      float bx,
      float by,
      float bz,
      float cx,
      float cy,
      float cz,
      int hint) {
    if (hint >= 0 && isBy(hint, ax, ay, az, bx, by, bz, cx, cy, cz)) {
      return true;
    }
    float mx = (float) (((double) ax + bx + cx) / 3);
    float my = (float) (((double) ay + by + cy) / 3);
    float mz = (float) (((double) az + bz + cz) / 3);
    if (!query.closest(mx, my, mz, limit)) {
      return false;
    }
    double wide =
        Math.max(
            square(ax, ay, az, mx, my, mz),
            Math.max(square(bx, by, bz, mx, my, mz), square(cx, cy, cz, mx, my, mz)));
    if (query.distance + Math.sqrt(wide) <= limit) {
      return true;
    }
    int s = 3 * query.triangle;
    if (s != hint && isBy(s, ax, ay, az, bx, by, bz, cx, cy, cz)) {
      return true;
    }
    if (++pieces > PIECES) {
      return false;
    }
    double ab = square(ax, ay, az, bx, by, bz);
    double bc = square(bx, by, bz, cx, cy, cz);
    double ca = square(cx, cy, cz, ax, ay, az);
    if (ab >= bc && ab >= ca) {
      float x = half(ax, bx);
      float y = half(ay, by);
      float z = half(az, bz);
      return isNear(ax, ay, az, x, y, z, cx, cy, cz, s)
          && isNear(x, y, z, bx, by, bz, cx, cy, cz, s);
    }
    if (bc >= ca) {
      float x = half(bx, cx);
      float y = half(by, cy);
      float z = half(bz, cz);
      return isNear(ax, ay, az, bx, by, bz, x, y, z, s)
          && isNear(ax, ay, az, x, y, z, cx, cy, cz, s);
    }
    float x = half(cx, ax);
    float y = half(cy, ay);
    float z = half(cz, az);
    return isNear(ax, ay, az, bx, by, bz, x, y, z, s) && isNear(x, y, z, bx, by, bz, cx, cy, cz, s);
  }

  private static float half(float a, float b) {
    return (float) (((double) a + b) / 2);
  }

  private static double square(float ax, float ay, float az, float bx, float by, float bz) {
    double x = (double) bx - ax;
    double y = (double) by - ay;
    double z = (double) bz - az;
    return x * x + y * y + z * z;
  }

  private boolean isBy(
      int s,
      float ax,
      float ay,
      float az,
      float bx,
      float by,
      float bz,
      float cx,
      float cy,
      float cz) {
    return isBy(s, ax, ay, az) && isBy(s, bx, by, bz) && isBy(s, cx, cy, cz);
  }

  /** Whether a point is within the distance of one triangle. */
  private boolean isBy(int s, float x, float y, float z) {
    int[] tri = to.triangles();
    return point.square(to.xyz(), 3 * tri[s], 3 * tri[s + 1], 3 * tri[s + 2], x, y, z) <= square;
  }
}
