package holotome.demo;

import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.List;

/**
 * A net shed on the quay of Sandmouth, as a scanner walked along two sides of it sees it: the front
 * and the left gable with all their boards, the back and the right gable as a few large grey
 * triangles, for no camera was there. In true metres, standing on z = 0, its front towards -y, 8 m
 * by 5 m, the ridge along x. The sides that were not seen are boarded as those opposite are, seen
 * from outside from left to right.
 *
 * <p>Everything follows from the triangle count: same count, same bytes.
 */
public final class NetShed {
  public static final double LENGTH = 8;
  public static final double DEPTH = 5;
  public static final double EAVES = 3;
  public static final double RIDGE = 4.6;

  private static final double OVER = 0.3;
  private static final double THICK = 0.12;
  private static final double BOARD = 0.2;

  /** What a side belongs to. */
  public enum Side {
    FRONT,
    BACK,
    LEFT,
    RIGHT,
    ROOF,
    TRIM,
    PIPE;

    /** Whether no camera saw it. */
    public boolean isUnseen() {
      return this == BACK || this == RIGHT;
    }
  }

  /** Four corners, counter-clockwise seen from outside, the first at the lower left. */
  private record Quad(Side side, double[][] corners) {}

  private NetShed() {}

  private static double[] at(double x, double y, double z) {
    return new double[] {x, y, z};
  }

  private static Quad quad(Side side, double[] a, double[] b, double[] c, double[] d) {
    return new Quad(side, new double[][] {a, b, c, d});
  }

  private static List<Quad> quads() {
    double x0 = 0;
    double x1 = LENGTH;
    double y0 = 0;
    double y1 = DEPTH;
    double mid = DEPTH / 2;
    List<Quad> out = new ArrayList<>();
    out.add(wall(Side.FRONT, x0, y0, x1, y0, EAVES, EAVES));
    out.add(wall(Side.BACK, x1, y1, x0, y1, EAVES, EAVES));
    out.add(wall(Side.LEFT, x0, y1, x0, mid, EAVES, RIDGE));
    out.add(wall(Side.LEFT, x0, mid, x0, y0, RIDGE, EAVES));
    out.add(wall(Side.RIGHT, x1, y0, x1, mid, EAVES, RIDGE));
    out.add(wall(Side.RIGHT, x1, mid, x1, y1, RIDGE, EAVES));
    // The roof: two slabs that meet at the ridge.
    double fall = (RIDGE - EAVES) / mid;
    double l = x0 - OVER;
    double r = x1 + OVER;
    for (double side : new double[] {-1, 1}) {
      double eave = mid + side * (mid + OVER);
      double low = RIDGE - fall * (mid + OVER);
      double[] a = at(l, eave, low);
      double[] b = at(r, eave, low);
      double[] c = at(r, mid, RIDGE);
      double[] d = at(l, mid, RIDGE);
      out.add(turned(Side.TRIM, side > 0, a, d, c, b));
      out.add(turned(Side.ROOF, side > 0, up(a), up(b), up(c), up(d)));
      out.add(turned(Side.TRIM, side > 0, a, b, up(b), up(a)));
      out.add(turned(Side.TRIM, side > 0, b, c, up(c), up(b)));
      out.add(turned(Side.TRIM, side > 0, d, a, up(a), up(d)));
    }
    pipe(out);
    return out;
  }

  private static double[] up(double[] p) {
    return at(p[0], p[1], p[2] + THICK);
  }

  private static Quad turned(
      Side s, boolean turns, double[] a, double[] b, double[] c, double[] d) {
    return turns ? quad(s, b, a, d, c) : quad(s, a, b, c, d);
  }

  private static Quad wall(
      Side side, double ax, double ay, double bx, double by, double aHigh, double bHigh) {
    return quad(side, at(ax, ay, 0), at(bx, by, 0), at(bx, by, bHigh), at(ax, ay, aHigh));
  }

  private static void pipe(List<Quad> out) {
    double[][] c = {{6.1, 1.2}, {6.5, 1.2}, {6.5, 1.6}, {6.1, 1.6}};
    double high = 4.9;
    for (int i = 0; i < 4; i++) {
      double[] a = c[i];
      double[] b = c[(i + 1) % 4];
      out.add(
          quad(
              Side.PIPE,
              at(a[0], a[1], 3.6),
              at(b[0], b[1], 3.6),
              at(b[0], b[1], high),
              at(a[0], a[1], high)));
    }
    out.add(
        quad(
            Side.PIPE,
            at(c[0][0], c[0][1], high),
            at(c[1][0], c[1][1], high),
            at(c[2][0], c[2][1], high),
            at(c[3][0], c[3][1], high)));
  }

  /** The shed as modelled over its scan: two triangles to a side of four corners, 42 in all. */
  public static Mesh modelled() {
    return mesh(0);
  }

  /** The sides that the triangles of the modelled shed belong to. */
  public static Side[] sides() {
    List<Side> out = new ArrayList<>();
    for (Quad q : quads()) {
      out.add(q.side);
      out.add(q.side);
    }
    return out.toArray(Side[]::new);
  }

  /** A scan of about so many triangles. */
  public static Mesh scan(int triangles) {
    double area = 0;
    for (Quad q : quads()) {
      area += q.side.isUnseen() ? 0 : length(q, 0, 1) * length(q, 0, 3);
    }
    return mesh(Math.sqrt(2 * area / triangles));
  }

  private static double length(Quad q, int a, int b) {
    double[] p = q.corners[a];
    double[] r = q.corners[b];
    return Math.hypot(Math.hypot(p[0] - r[0], p[1] - r[1]), p[2] - r[2]);
  }

  /**
   * @param cell how long the triangles' sides are, with noise and colours; 0 for the largest,
   *     without, corners shared
   */
  private static Mesh mesh(double cell) {
    IntList tri = new IntList();
    List<double[]> points = new ArrayList<>();
    IntList colours = new IntList();
    int number = 0;
    for (Quad q : quads()) {
      boolean isCoarse = cell == 0 || q.side.isUnseen();
      int across = isCoarse ? 1 : (int) Math.ceil(length(q, 0, 1) / cell);
      int high = isCoarse ? 1 : (int) Math.ceil(Math.max(length(q, 0, 3), length(q, 1, 2)) / cell);
      int[][] own = new int[high + 1][across + 1];
      for (int j = 0; j <= high; j++) {
        for (int i = 0; i <= across; i++) {
          double[] p = place(q, (double) i / across, (double) j / high);
          own[j][i] = cell == 0 ? find(points, p) : points.size();
          if (own[j][i] == points.size()) {
            colours.add(q.side.isUnseen() ? Colours.argb(128, 128, 126) : colour(q.side, p));
            double noise =
                cell == 0 ? 0 : q.side.isUnseen() ? -0.02 : relief(q.side, p, number, i, j);
            points.add(cell == 0 ? p : shifted(q, p, noise));
          }
        }
      }
      for (int j = 0; j < high; j++) {
        for (int i = 0; i < across; i++) {
          add(tri, own[j][i], own[j][i + 1], own[j + 1][i + 1]);
          add(tri, own[j][i], own[j + 1][i + 1], own[j + 1][i]);
        }
      }
      number++;
    }
    float[] xyz = new float[3 * points.size()];
    for (int v = 0; v < points.size(); v++) {
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (float) points.get(v)[k];
      }
    }
    return new Mesh(xyz, tri.toArray(), cell == 0 ? null : colours.toArray());
  }

  private static void add(IntList tri, int a, int b, int c) {
    tri.add(a);
    tri.add(b);
    tri.add(c);
  }

  private static int find(List<double[]> points, double[] p) {
    for (int v = 0; v < points.size(); v++) {
      if (java.util.Arrays.equals(points.get(v), p)) {
        return v;
      }
    }
    return points.size();
  }

  private static double[] place(Quad q, double s, double t) {
    double[] out = new double[3];
    for (int k = 0; k < 3; k++) {
      out[k] =
          (1 - t) * ((1 - s) * q.corners[0][k] + s * q.corners[1][k])
              + t * ((1 - s) * q.corners[3][k] + s * q.corners[2][k]);
    }
    return out;
  }

  private static double[] shifted(Quad q, double[] p, double by) {
    double[] u = holotome.core.geometry.Vec.sub(q.corners[1], q.corners[0]);
    double[] v = holotome.core.geometry.Vec.sub(q.corners[3], q.corners[0]);
    double[] n = holotome.core.geometry.Vec.unit(holotome.core.geometry.Vec.cross(u, v));
    return holotome.core.geometry.Vec.add(p, holotome.core.geometry.Vec.mul(n, by));
  }

  /** Joints between boards, a little deeper, and what the scanner adds. */
  private static double relief(Side side, double[] p, int quad, int i, int j) {
    double joint = side == Side.FRONT || side == Side.LEFT ? joint(along(side, p)) : 0;
    return -0.006 * joint + 0.0004 * Noise.bell(1000 * quad + i, j, 81);
  }

  /** How far along a wall a place is, from the left as seen from outside. */
  private static double along(Side side, double[] p) {
    return switch (side) {
      case BACK -> LENGTH - p[0];
      case LEFT -> DEPTH - p[1];
      case RIGHT -> p[1];
      default -> p[0];
    };
  }

  private static double joint(double along) {
    double at = Math.abs(along / BOARD - Math.rint(along / BOARD)) * BOARD;
    return 1 - Noise.smoothStep(0.004, 0.012, at);
  }

  /**
   * The true colour of a place on a side, 0xAARRGGBB. Of what lies opposite each other along the
   * way around it is the same.
   */
  public static int colour(Side side, double[] p) {
    double a = along(side, p);
    double z = p[2];
    return switch (side) {
      case FRONT, BACK -> front(a, z);
      case LEFT, RIGHT -> gable(a, z);
      case ROOF -> roof(p[0], p[1]);
      case TRIM -> Colours.argb(92, 84, 74);
      case PIPE -> Colours.argb(112, 62, 48);
    };
  }

  private static int boards(double a, double z, int seed) {
    int board = (int) Math.floor(a / BOARD);
    double tone = Noise.uniform(board, seed, 82);
    double grain = Noise.octaves(26 * a, 3 * z, seed, 83, 3);
    int tar = Colours.mix(Colours.argb(38, 36, 36), Colours.argb(92, 84, 76), (float) tone);
    int wood =
        Colours.mix(tar, Colours.argb(128, 118, 104), (float) Math.clamp(0.3 + grain, 0.0, 0.7));
    return Colours.mix(wood, Colours.argb(16, 15, 15), (float) (0.8 * joint(a)));
  }

  private static int front(double a, double z) {
    boolean isDoor = a > 1.2 && a < 2.4 && z < 2.1;
    boolean isShutter = a > 4.6 && a < 5.8 && z > 1.1 && z < 2;
    if (isDoor || isShutter) {
      double rust = Noise.octaves(5 * a, 5 * z, 2, 84, 3);
      return Colours.mix(
          Colours.argb(150, 48, 34),
          Colours.argb(186, 92, 62),
          (float) Math.clamp(0.5 + rust - 0.4 * joint(a), 0.0, 1.0));
    }
    return boards(a, z, 3);
  }

  private static int gable(double a, double z) {
    double far = Math.hypot(a - DEPTH / 2, z - 3.3);
    if (far < 0.35) {
      return Colours.argb(214, 206, 186);
    }
    return boards(a, z, 5);
  }

  private static int roof(double x, double y) {
    double wave = 0.5 + 0.5 * Math.sin(2 * Math.PI * x / 0.18);
    double rust = Noise.octaves(0.9 * x, 0.9 * y, 3, 85, 4);
    int sheet = Colours.mix(Colours.argb(104, 110, 112), Colours.argb(140, 146, 146), (float) wave);
    return Colours.mix(
        sheet, Colours.argb(128, 76, 48), (float) Math.clamp(0.2 + 1.4 * rust, 0.0, 0.8));
  }
}
