package holotome.core.mend;

import holotome.core.measure.ConvexOutline;
import holotome.core.triangulation.Triangulator;
import java.util.Arrays;
import java.util.List;

/**
 * The triangles of a base under a rim: walls straight down, ledges outwards, a flat foot. Below the
 * first wall the outlines are those of the rim's convex hull, farther out step by step, round at
 * its corners.
 *
 * <p>Points are numbered on from the rim's own, which come first.
 */
final class Plinth {
  /** Corners of a full turn where an outline is round. */
  private static final int ROUND = 48;

  private static final double STRAIGHT = 1e-3;

  /** How much straight runs are bent, of their distance from the middle. */
  private static final double HAIR = 1e-5;

  private double[] xyz;
  private int points;
  private int[] triangles = new int[64];
  private int corners;

  private Plinth(double[] rim) {
    xyz = Arrays.copyOf(rim, 2 * rim.length);
    points = rim.length / 3;
  }

  /**
   * @param rim 3 doubles a point, counter-clockwise seen from above
   * @param top height of the rim's lowest point
   * @param foot height of the foot
   * @param steps how many walls there are
   * @param ledge how far each stands out from the one above it
   * @return null where the rim lies over itself seen from above
   */
  static Plinth of(double[] rim, double top, double foot, int steps, double ledge) {
    Plinth p = new Plinth(rim);
    int n = rim.length / 3;
    double step = (top - foot) / steps;
    double[] outline = new double[2 * n];
    int[] above = new int[n];
    for (int i = 0; i < n; i++) {
      outline[2 * i] = rim[3 * i];
      outline[2 * i + 1] = rim[3 * i + 1];
      above[i] = i;
    }
    int[] at = p.ring(outline, steps == 1 ? foot : top - step);
    p.wall(above, at);
    double[] hull = steps == 1 ? null : hull(outline);
    for (int s = 1; s < steps; s++) {
      double[] wider = wider(hull, s * ledge);
      int[] over = p.ring(wider, top - s * step);
      if (!p.ledge(wider, over, outline, at)) {
        return null;
      }
      at = p.ring(wider, s == steps - 1 ? foot : top - (s + 1) * step);
      p.wall(over, at);
      outline = wider;
    }
    return p.foot(outline, at) ? p : null;
  }

  private static double[] hull(double[] outline) {
    double[][] p = new double[outline.length / 2][];
    for (int i = 0; i < p.length; i++) {
      p[i] = new double[] {outline[2 * i], outline[2 * i + 1]};
    }
    return Arrays.stream(ConvexOutline.of(p)).flatMapToDouble(Arrays::stream).toArray();
  }

  /** Places of the points after the rim's, 3 doubles each. */
  double[] added(int rim) {
    return Arrays.copyOfRange(xyz, 3 * rim, 3 * points);
  }

  /** Triangles over the rim's points and those after. */
  int[] triangles() {
    return Arrays.copyOf(triangles, corners);
  }

  private int[] ring(double[] outline, double z) {
    int n = outline.length / 2;
    int[] numbers = new int[n];
    for (int i = 0; i < n; i++) {
      if (3 * points + 3 > xyz.length) {
        xyz = Arrays.copyOf(xyz, 2 * xyz.length);
      }
      xyz[3 * points] = outline[2 * i];
      xyz[3 * points + 1] = outline[2 * i + 1];
      xyz[3 * points + 2] = z;
      numbers[i] = points++;
    }
    return numbers;
  }

  private void add(int... some) {
    if (corners + some.length > triangles.length) {
      triangles = Arrays.copyOf(triangles, Math.max(2 * corners, corners + some.length));
    }
    System.arraycopy(some, 0, triangles, corners, some.length);
    corners += some.length;
  }

  private void wall(int[] top, int[] bottom) {
    for (int i = 0; i < top.length; i++) {
      int j = (i + 1) % top.length;
      add(top[j], top[i], bottom[i], top[j], bottom[i], bottom[j]);
    }
  }

  /** The ring between two outlines, seen from above. */
  private boolean ledge(double[] outer, int[] outerAt, double[] inner, int[] innerAt) {
    int n = innerAt.length;
    double[] bent = bulged(inner);
    double[] hole = new double[2 * n];
    int[] numbers = new int[n];
    for (int i = 0; i < n; i++) {
      hole[2 * i] = bent[2 * (n - 1 - i)];
      hole[2 * i + 1] = bent[2 * (n - 1 - i) + 1];
      numbers[i] = innerAt[n - 1 - i];
    }
    int[] tri = Triangulator.triangulate(List.of(outer, hole), List.of(outerAt, numbers));
    return added(tri, outerAt.length + n);
  }

  /**
   * An outline with its straight runs bent outwards by a hair, so that no three of its points lie
   * on a line and every one of them is a corner of the triangles around it.
   */
  private static double[] bulged(double[] outline) {
    int n = outline.length / 2;
    double x = 0;
    double y = 0;
    for (int i = 0; i < n; i++) {
      x += outline[2 * i] / n;
      y += outline[2 * i + 1] / n;
    }
    double farthest = 0;
    for (int i = 0; i < n; i++) {
      farthest = Math.max(farthest, Math.hypot(outline[2 * i] - x, outline[2 * i + 1] - y));
    }
    double[] out = new double[2 * n];
    for (int i = 0; i < n; i++) {
      double dx = outline[2 * i] - x;
      double dy = outline[2 * i + 1] - y;
      double share = (dx * dx + dy * dy) / (farthest * farthest);
      double by = 1 + HAIR * (1 - share);
      out[2 * i] = x + by * dx;
      out[2 * i + 1] = y + by * dy;
    }
    return out;
  }

  /** The foot, seen from below. */
  private boolean foot(double[] outline, int[] at) {
    int n = at.length;
    double[] seen = new double[2 * n];
    int[] numbers = new int[n];
    for (int i = 0; i < n; i++) {
      seen[2 * i] = outline[2 * (n - 1 - i)];
      seen[2 * i + 1] = -outline[2 * (n - 1 - i) + 1];
      numbers[i] = at[n - 1 - i];
    }
    return added(Triangulator.triangulate(List.of(seen), List.of(numbers)), n - 2);
  }

  private boolean added(int[] tri, int count) {
    if (tri == null || tri.length != 3 * count) {
      return false;
    }
    add(tri);
    return true;
  }

  /** A convex outline, counter-clockwise, so far out all round. */
  private static double[] wider(double[] hull, double by) {
    int n = hull.length / 2;
    double[] out = new double[2 * (n + ROUND + n)];
    int at = 0;
    for (int i = 0; i < n; i++) {
      int before = (i + n - 1) % n;
      int after = (i + 1) % n;
      double from = outwards(hull, before, i);
      double turn = Math.IEEEremainder(outwards(hull, i, after) - from, 2 * Math.PI);
      // Where the outline is all but straight one point will do.
      int parts = turn < STRAIGHT ? 1 : 1 + (int) Math.ceil(turn / (2 * Math.PI) * ROUND);
      for (int k = 0; k < parts; k++) {
        // Not at its very ends: a point there would lie in line with a side of the outline within.
        double a = from + turn * (k + 0.5) / parts;
        if (out.length < at + 2) {
          out = Arrays.copyOf(out, 2 * out.length);
        }
        out[at++] = hull[2 * i] + by * Math.cos(a);
        out[at++] = hull[2 * i + 1] + by * Math.sin(a);
      }
    }
    return Arrays.copyOf(out, at);
  }

  /** The direction in which an edge of an outline that runs counter-clockwise looks outwards. */
  private static double outwards(double[] hull, int a, int b) {
    double dx = hull[2 * b] - hull[2 * a];
    double dy = hull[2 * b + 1] - hull[2 * a + 1];
    return Math.atan2(-dx, dy);
  }
}
