package holotome.view.picking;

import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.select.FenceOutline;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.buffer.VisibilityBuffer;
import holotome.view.camera.Camera;
import java.util.BitSet;
import java.util.List;
import java.util.concurrent.atomic.AtomicLongArray;

/** What lies under pixels: from the very buffer that was drawn. */
public final class Picking {
  /** So many places at most are asked for along a sliver. */
  private static final int MOST_ASKED = 24;

  private static final int OPEN = -1;
  private static final int HIDDEN = -2;

  private Picking() {}

  /**
   * The point of a triangle under a pixel's centre, in working space: where the ray through the
   * pixel meets the triangle's plane, held within the triangle.
   */
  public static double[] point(
      Mesh mesh,
      Similarity place,
      int triangle,
      Camera camera,
      double x,
      double y,
      int width,
      int height) {
    double[] ray = camera.ray(x, y, width, height);
    double[] o = {ray[0], ray[1], ray[2]};
    double[] d = {ray[3], ray[4], ray[5]};
    double[][] p = new double[3][];
    for (int k = 0; k < 3; k++) {
      p[k] = place.apply(Vec.at(mesh.xyz(), mesh.triangles()[3 * triangle + k]));
    }
    double[] u = Vec.sub(p[1], p[0]);
    double[] v = Vec.sub(p[2], p[0]);
    double[] n = Vec.cross(u, v);
    double down = Vec.dot(n, d);
    if (Math.abs(down) < 1e-12 * Vec.length(n)) {
      return p[0];
    }
    double t = Vec.dot(n, Vec.sub(p[0], o)) / down;
    double[] hit = Vec.add(o, Vec.mul(d, t));
    double nn = Vec.dot(n, n);
    double[] r = Vec.sub(hit, p[0]);
    double b = Vec.dot(Vec.cross(r, v), n) / nn;
    double c = Vec.dot(Vec.cross(u, r), n) / nn;
    b = Math.clamp(b, 0.0, 1.0);
    c = Math.clamp(c, 0.0, 1 - b);
    return Vec.add(p[0], Vec.add(Vec.mul(u, b), Vec.mul(v, c)));
  }

  /** The box around some triangles, placed in working space. */
  public static Box bounds(Mesh mesh, Similarity place, BitSet triangles) {
    Box b = Box.EMPTY;
    int[] tri = mesh.triangles();
    for (int t = triangles.nextSetBit(0); t >= 0; t = triangles.nextSetBit(t + 1)) {
      for (int k = 0; k < 3; k++) {
        int v = 3 * tri[3 * t + k];
        double[] p = place.apply(mesh.xyz()[v], mesh.xyz()[v + 1], mesh.xyz()[v + 2]);
        b = b.union(new Box(p[0], p[1], p[2], p[0], p[1], p[2]));
      }
    }
    return b;
  }

  /**
   * The triangles seen in any pixel whose centre lies inside an outline (x, y in turn, in pixels).
   */
  private static BitSet seen(VisibilityBuffer buffer, FenceOutline outline) {
    BitSet out = new BitSet();
    int y0 = Math.max(0, (int) Math.floor(outline.minY()));
    int y1 = Math.min(buffer.height() - 1, (int) Math.ceil(outline.maxY()));
    int x0 = Math.max(0, (int) Math.floor(outline.minX()));
    int x1 = Math.min(buffer.width() - 1, (int) Math.ceil(outline.maxX()));
    for (int y = y0; y <= y1; y++) {
      for (int x = x0; x <= x1; x++) {
        int t = buffer.triangle(x, y);
        if (t >= 0 && outline.contains(x + 0.5, y + 0.5)) {
          out.set(t);
        }
      }
    }
    return out;
  }

  /**
   * The triangles of a mesh that lie inside an outline and are hidden by nothing: those seen in a
   * pixel, and those too small to hold a pixel's centre whose plane, at the nearest centre, lies at
   * the depth of what is seen there and shows the same side, front or back.
   *
   * @param toPixels as the buffer was drawn with
   * @param slack how much deeper than what is seen a plane may lie, in pixels
   */
  public static BitSet visible(
      Mesh mesh,
      Similarity place,
      VisibilityBuffer buffer,
      double[] toPixels,
      double[] outline,
      double slack) {
    return visible(mesh, place, buffer, toPixels, outline, slack, null, Work.unwatched());
  }

  /**
   * As above, but asks only triangles of some lists.
   *
   * @param among numbers of triangles, those seen in a pixel among them; a triangle may be on more
   *     than one list; null for all
   */
  public static BitSet visible(
      Mesh mesh,
      Similarity place,
      VisibilityBuffer buffer,
      double[] toPixels,
      double[] outline,
      double slack,
      List<int[]> among,
      Work work) {
    FenceOutline inside = new FenceOutline(outline);
    BitSet out = seen(buffer, inside);
    AtomicLongArray words = new AtomicLongArray((mesh.triangleCount() + 63) / 64);
    double[] m = Placing.then(place, toPixels);
    if (among == null) {
      Parallel.range(
          mesh.triangleCount(),
          1 << 14,
          work,
          (from, to) -> {
            Asking a = new Asking(mesh, m, buffer, inside, slack, out);
            for (int t = from; t < to; t++) {
              if (a.isVisible(t)) {
                words.accumulateAndGet(t >>> 6, 1L << t, (x, y) -> x | y);
              }
            }
          });
    } else {
      Parallel.range(
          among.size(),
          64,
          work,
          (from, to) -> {
            Asking a = new Asking(mesh, m, buffer, inside, slack, out);
            for (int[] list : among.subList(from, to)) {
              for (int t : list) {
                if (a.isVisible(t)) {
                  words.accumulateAndGet(t >>> 6, 1L << t, (x, y) -> x | y);
                }
              }
            }
          });
    }
    for (int w = 0; w < words.length(); w++) {
      for (long bits = words.get(w); bits != 0; bits &= bits - 1) {
        out.set(64 * w + Long.numberOfTrailingZeros(bits));
      }
    }
    return out;
  }

  /** Asks of one triangle after another; one per thread. */
  private static final class Asking {
    private final Mesh mesh;
    private final double[] m;
    private final VisibilityBuffer buffer;
    private final FenceOutline inside;
    private final double slack;
    private final BitSet known;
    private final double[] corner = new double[9];
    private final double[] seen = new double[9];

    Asking(
        Mesh mesh,
        double[] m,
        VisibilityBuffer buffer,
        FenceOutline inside,
        double slack,
        BitSet known) {
      this.known = known;
      this.mesh = mesh;
      this.m = m;
      this.buffer = buffer;
      this.inside = inside;
      this.slack = slack;
    }

    boolean isVisible(int t) {
      if (known.get(t) || !project(m, mesh, t, corner)) {
        return false;
      }
      double[] c = corner;
      if (isVisibleAt((c[0] + c[3] + c[6]) / 3, (c[1] + c[4] + c[7]) / 3)) {
        return true;
      }
      // A long sliver may lie across the outline, or be covered at its middle only: it is asked
      // along its length.
      int tip = tip(c);
      int i = 3 * ((tip + 1) % 3);
      int j = 3 * ((tip + 2) % 3);
      double x0 = (c[i] + c[j]) / 2;
      double y0 = (c[i + 1] + c[j + 1]) / 2;
      double dx = c[3 * tip] - x0;
      double dy = c[3 * tip + 1] - y0;
      int steps = (int) Math.min(MOST_ASKED, 2 * Math.hypot(dx, dy));
      for (int k = 1; k < steps; k++) {
        double f = (double) k / steps;
        if (isVisibleAt(x0 + f * dx, y0 + f * dy)) {
          return true;
        }
      }
      return false;
    }

    private boolean isVisibleAt(double x, double y) {
      int over = unhidden(m, corner, x, y, buffer, inside, slack);
      return over == OPEN
          ? turn(corner) < 0
          : over >= 0 && project(m, mesh, over, seen) && turn(corner) * turn(seen) > 0;
    }

    /** The corner opposite the shortest edge. */
    private static int tip(double[] c) {
      double ab = Math.hypot(c[3] - c[0], c[4] - c[1]);
      double bc = Math.hypot(c[6] - c[3], c[7] - c[4]);
      double ca = Math.hypot(c[0] - c[6], c[1] - c[7]);
      return ab <= bc && ab <= ca ? 2 : bc <= ca ? 0 : 1;
    }
  }

  /** The corners as x, y in pixels and depth; false where one lies behind the eye. */
  private static boolean project(double[] m, Mesh mesh, int t, double[] out) {
    float[] p = mesh.xyz();
    for (int k = 0; k < 3; k++) {
      int v = 3 * mesh.triangles()[3 * t + k];
      double w = m[12] * p[v] + m[13] * p[v + 1] + m[14] * p[v + 2] + m[15];
      if (!(w > 0)) {
        return false;
      }
      for (int i = 0; i < 3; i++) {
        out[3 * k + i] =
            (m[4 * i] * p[v] + m[4 * i + 1] * p[v + 1] + m[4 * i + 2] * p[v + 2] + m[4 * i + 3])
                / w;
      }
    }
    return true;
  }

  /** Below zero where corners run so that the front is seen: y runs down. */
  private static double turn(double[] c) {
    return (c[3] - c[0]) * (c[7] - c[1]) - (c[6] - c[0]) * (c[4] - c[1]);
  }

  /**
   * The triangle seen at the pixel of a place on a triangle if that is no nearer; OPEN where
   * nothing is seen there, HIDDEN where it is nearer or the place lies outside the outline.
   */
  private static int unhidden(
      double[] m,
      double[] c,
      double x,
      double y,
      VisibilityBuffer buffer,
      FenceOutline outline,
      double slack) {
    double ux = c[3] - c[0];
    double uy = c[4] - c[1];
    double vx = c[6] - c[0];
    double vy = c[7] - c[1];
    double det = ux * vy - vx * uy;
    if (det == 0) {
      return HIDDEN;
    }
    int px = (int) Math.floor(x);
    int py = (int) Math.floor(y);
    if (px < 0
        || py < 0
        || px >= buffer.width()
        || py >= buffer.height()
        || !outline.contains(x, y)) {
      return HIDDEN;
    }
    long cell = buffer.cells[py * buffer.width() + px];
    if (cell == VisibilityBuffer.EMPTY) {
      // Within a pixel of the outline: nothing is in front there.
      return OPEN;
    }
    double dx = px + 0.5 - c[0];
    double dy = py + 0.5 - c[1];
    double b = (dx * vy - vx * dy) / det;
    double a = (ux * dy - dx * uy) / det;
    double depth = c[2] + b * (c[5] - c[2]) + a * (c[8] - c[2]);
    double seen = VisibilityBuffer.depth(cell);
    return depth <= seen + slack * depthOfPixel(m, px + 0.5, seen) ? (int) cell : HIDDEN;
  }

  /**
   * How much the depth grows over as long a way into the scene as one pixel is wide there. In
   * perspective a step of depth means ever more the farther off it is.
   */
  private static double depthOfPixel(double[] m, double x, double depth) {
    double[] into = {m[12], m[13], m[14]};
    double perspective = Vec.length(into);
    if (perspective == 0) {
      return Vec.length(new double[] {m[8], m[9], m[10]})
          / Vec.length(new double[] {m[0], m[1], m[2]});
    }
    // Along the line of sight the homogeneous depth and w both grow by their rows' share in it.
    double alongZ = Vec.dot(new double[] {m[8], m[9], m[10]}, into) / perspective;
    double across = Vec.length(new double[] {m[0] - x * m[12], m[1] - x * m[13], m[2] - x * m[14]});
    // d(z/w) = (dz - depth dw) / w per length, a pixel is w / across long: w falls out.
    return Math.abs(alongZ - depth * perspective) / across;
  }
}
