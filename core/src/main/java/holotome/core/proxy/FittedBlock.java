package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.measure.ConvexOutline;
import holotome.core.polygon.FaceLists;
import holotome.core.solve.CylinderFit;
import holotome.core.solve.PlaneFit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A simple body fitted to a region by least squares, in the region's coordinates. Sides that were
 * not seen are where the region ends.
 *
 * @param rms root of the mean square distance of what was seen from the sides that it is of
 * @param seen sides that were
 * @param missing sides that were not
 */
record FittedBlock(FaceLists faces, double rms, int seen, int missing) {
  /** Places that say which way a cylinder lies, and where exactly. */
  private static final int FEW_PLACES = 600;

  private static final int CYLINDER_PLACES = 4000;
  private static final int OUTLINE_PLACES = 50_000;

  /** A corner that moves farther than so many times its sides do is where it was. */
  private static final double FAR = 4;

  /** What there is to say of sides, one after the other. */
  private static final class Sum {
    double squares;
    long places;
    int seen;
    int missing;

    double add(Region.Side s) {
      squares += s.seen() * s.rms() * s.rms();
      places += s.seen();
      seen += s.seen() > 0 ? 1 : 0;
      missing += s.seen() > 0 ? 0 : 1;
      return s.at();
    }

    FittedBlock of(FaceLists faces) {
      return new FittedBlock(faces, places > 0 ? Math.sqrt(squares / places) : 0, seen, missing);
    }
  }

  /** A box: its directions and sides are fitted. */
  static FittedBlock box(Region region, double[] upright) {
    double[][] e = BoxAxes.of(region, upright);
    Sum sum = new Sum();
    double[] high = new double[3];
    double[] low = new double[3];
    for (int k = 0; k < 3; k++) {
      high[k] = sum.add(region.side(e[k]));
      low[k] = -sum.add(region.side(Vec.mul(e[k], -1)));
    }
    double[][] base = {{low[0], low[1]}, {high[0], low[1]}, {high[0], high[1]}, {low[0], high[1]}};
    return sum.of(pulled(base, e, low[2], high[2]));
  }

  /** A convex outline seen from above, with so many sides at most, from below to above. */
  static FittedBlock prism(Region region, double[] upright, int sides) {
    double[] u = Vec.perpendicular(upright);
    double[][] e = {u, Vec.cross(upright, u), upright};
    double[][] outline =
        Outline.around(ConvexOutline.of(flat(region.thinned(OUTLINE_PLACES), e)), sides);
    Sum sum = new Sum();
    int n = outline.length;
    double[][] normal = new double[n][];
    double[] offset = new double[n];
    for (int i = 0; i < n; i++) {
      double[] a = outline[i];
      double[] b = outline[(i + 1) % n];
      double l = Math.hypot(b[0] - a[0], b[1] - a[1]);
      normal[i] = new double[] {(b[1] - a[1]) / l, (a[0] - b[0]) / l};
      double[] outwards = Vec.add(Vec.mul(e[0], normal[i][0]), Vec.mul(e[1], normal[i][1]));
      Region.Side side = region.side(outwards);
      double end = normal[i][0] * a[0] + normal[i][1] * a[1];
      // A side that others hide behind would lie deep inside: it stays where the region ends.
      boolean isOuter = side.seen() > 0 && end - side.at() < 0.05 * l;
      offset[i] = sum.add(isOuter ? side : new Region.Side(end, 0, 0));
    }
    double[][] corners = corners(outline, normal, offset);
    double high = sum.add(region.side(upright));
    double low = -sum.add(region.side(Vec.mul(upright, -1)));
    return sum.of(pulled(corners, e, low, high));
  }

  /**
   * Where sides meet that were shifted a little; a corner that would lie far from where the outline
   * had it, as where two are almost in line, keeps both sides where they were.
   */
  private static double[][] corners(double[][] outline, double[][] normal, double[] offset) {
    int n = outline.length;
    double[] end = new double[n];
    for (int i = 0; i < n; i++) {
      end[i] = normal[i][0] * outline[i][0] + normal[i][1] * outline[i][1];
    }
    double[] at = offset.clone();
    double[][] out = new double[n][];
    for (boolean isFar = true; isFar; ) {
      isFar = false;
      for (int i = 0; i < n; i++) {
        int before = (i + n - 1) % n;
        double[] a = normal[before];
        double[] b = normal[i];
        double det = a[0] * b[1] - a[1] * b[0];
        double x = (at[before] * b[1] - at[i] * a[1]) / det;
        double y = (a[0] * at[i] - b[0] * at[before]) / det;
        double moved = Math.hypot(x - outline[i][0], y - outline[i][1]);
        double shift = Math.max(Math.abs(at[before] - end[before]), Math.abs(at[i] - end[i]));
        if (shift > 0 && !(moved <= FAR * shift)) {
          at[before] = end[before];
          at[i] = end[i];
          isFar = true;
        }
        out[i] = shift > 0 && !isFar ? new double[] {x, y} : outline[i];
      }
    }
    return out;
  }

  /** A cylinder of so many flat sides, as large across as the round one. */
  static FittedBlock cylinder(Region region, double[] upright, int sides) {
    double[] first = fit(region.thinned(FEW_PLACES)).axis();
    Region mantle = region.facing(n -> Math.abs(Vec.dot(n, first)) < 0.7);
    CylinderFit fit = fit((mantle.count() >= 30 ? mantle : region).thinned(CYLINDER_PLACES));
    double[] axis = Vec.dot(fit.axis(), upright) < 0 ? Vec.mul(fit.axis(), -1) : fit.axis();
    double[] u = Vec.perpendicular(axis);
    double[][] e = {u, Vec.cross(axis, u), axis};
    double step = 2 * Math.PI / sides;
    double radius = fit.radius() * Math.sqrt(step / Math.sin(step));
    double[] middle = {Vec.dot(fit.point(), e[0]), Vec.dot(fit.point(), e[1])};
    double[][] outline = new double[sides][];
    for (int i = 0; i < sides; i++) {
      outline[i] =
          new double[] {
            middle[0] + radius * Math.cos(i * step), middle[1] + radius * Math.sin(i * step)
          };
    }
    Sum sum = new Sum();
    sum.add(new Region.Side(0, fit.rms(), mantle.count()));
    double high = sum.add(region.side(axis));
    double low = -sum.add(region.side(Vec.mul(axis, -1)));
    return sum.of(pulled(outline, e, low, high));
  }

  private static CylinderFit fit(Region some) {
    double[] points = new double[3 * some.count()];
    double[] normals = new double[points.length];
    for (int i = 0; i < some.count(); i++) {
      System.arraycopy(some.at(i), 0, points, 3 * i, 3);
      System.arraycopy(some.facing(i), 0, normals, 3 * i, 3);
    }
    return CylinderFit.of(points, normals);
  }

  /** The smallest rectangle around it in its own plane. */
  static FittedBlock plane(Region region) {
    PlaneFit fit = plane(region, null, 0);
    for (int i = 0; i < 3; i++) {
      fit = plane(region, fit, 3 * fit.rms());
    }
    double[][] e = axes(region, fit.normal());
    double[] ends = Outline.extent(flat(region, e), new double[] {1, 0});
    double at = Vec.dot(fit.point(), e[2]);
    double[][] base = {
      {ends[0], ends[2]}, {ends[1], ends[2]}, {ends[1], ends[3]}, {ends[0], ends[3]}
    };
    double[] xyz = placed(base, e, at);
    return new FittedBlock(new FaceLists(xyz, new int[][] {{0, 1, 2, 3}}), fit.rms(), 1, 0);
  }

  /** A row of so many quads along the longer side of a region, which follows its slope. */
  static FittedBlock strip(Region region, int quads) {
    double[][] e = axes(region, plane(region, null, 0).normal());
    double[][] p = flat(region, e);
    double[] heights = region.along(e[2]);
    double[] ends = Outline.extent(p, new double[] {1, 0});
    double step = (ends[1] - ends[0]) / quads;
    double[] xyz = new double[6 * (quads + 1)];
    int[][] faces = new int[quads][];
    double squares = 0;
    long places = 0;
    for (int i = 0; i <= quads; i++) {
      double at = ends[0] + i * step;
      PlaneFit.Sum sum = new PlaneFit.Sum();
      double left = Double.NEGATIVE_INFINITY;
      double right = Double.POSITIVE_INFINITY;
      for (int j = 0; j < p.length; j++) {
        if (Math.abs(p[j][0] - at) <= step / 2) {
          sum.add(p[j][0], p[j][1], heights[j], 1);
          left = Math.max(left, p[j][1]);
          right = Math.min(right, p[j][1]);
        }
      }
      if (sum.weight() < 3) {
        return null;
      }
      PlaneFit fit = sum.fit();
      squares += sum.weight() * fit.rms() * fit.rms();
      places += (long) sum.weight();
      for (int k = 0; k < 2; k++) {
        double v = k == 0 ? right : left;
        double[] n = fit.normal();
        double[] q = fit.point();
        boolean isSteep = Math.abs(n[2]) < 0.05;
        double z = isSteep ? q[2] : q[2] - ((at - q[0]) * n[0] + (v - q[1]) * n[1]) / n[2];
        System.arraycopy(placed(new double[][] {{at, v}}, e, z), 0, xyz, 3 * (2 * i + k), 3);
      }
      if (i < quads) {
        faces[i] = new int[] {2 * i, 2 * i + 2, 2 * i + 3, 2 * i + 1};
      }
    }
    return new FittedBlock(new FaceLists(xyz, faces), Math.sqrt(squares / places), quads, 0);
  }

  /** A plane of the places that lie within a distance of another one, facing as most of them do. */
  private static PlaneFit plane(Region region, PlaneFit of, double within) {
    PlaneFit.Sum sum = new PlaneFit.Sum();
    double[] facing = new double[3];
    for (int i = 0; i < region.count(); i++) {
      double[] p = region.at(i);
      facing = Vec.add(facing, region.facing(i));
      if (of == null || Math.abs(Vec.dot(Vec.sub(p, of.point()), of.normal())) <= within) {
        sum.add(p[0], p[1], p[2], 1);
      }
    }
    if (sum.weight() < 3) {
      return of;
    }
    PlaneFit f = sum.fit();
    double[] n = Vec.dot(f.normal(), facing) < 0 ? Vec.mul(f.normal(), -1) : f.normal();
    return new PlaneFit(f.point(), n, f.rms());
  }

  /** Directions in a plane, the first along the longer side of the smallest rectangle around. */
  private static double[][] axes(Region region, double[] normal) {
    double[] u = Vec.perpendicular(normal);
    double[] v = Vec.cross(normal, u);
    double[][] p = flat(region.thinned(OUTLINE_PLACES), new double[][] {u, v, normal});
    double[] d = Outline.along(ConvexOutline.of(p));
    double[] first = Vec.unit(Vec.add(Vec.mul(u, d[0]), Vec.mul(v, d[1])));
    return new double[][] {first, Vec.cross(normal, first), normal};
  }

  static double[][] flat(Region region, double[][] e) {
    double[][] out = new double[region.count()][];
    for (int i = 0; i < out.length; i++) {
      double[] p = region.at(i);
      out[i] = new double[] {Vec.dot(p, e[0]), Vec.dot(p, e[1])};
    }
    return out;
  }

  private static double[] placed(double[][] flat, double[][] e, double height) {
    double[] xyz = new double[3 * flat.length];
    for (int i = 0; i < flat.length; i++) {
      double[] p =
          Vec.add(
              Vec.add(Vec.mul(e[0], flat[i][0]), Vec.mul(e[1], flat[i][1])), Vec.mul(e[2], height));
      System.arraycopy(p, 0, xyz, 3 * i, 3);
    }
    return xyz;
  }

  /** A flat outline, counter-clockwise, as the foot of a body that reaches up from it. */
  static FaceLists pulled(double[][] outline, double[][] e, double low, double high) {
    int n = outline.length;
    double[] foot = placed(outline, e, Math.min(low, high));
    double[] xyz = Arrays.copyOf(foot, 6 * n);
    System.arraycopy(placed(outline, e, Math.max(low, high)), 0, xyz, 3 * n, 3 * n);
    List<int[]> faces = new ArrayList<>();
    int[] below = new int[n];
    int[] above = new int[n];
    for (int i = 0; i < n; i++) {
      below[i] = n - 1 - i;
      above[i] = n + i;
      int next = (i + 1) % n;
      faces.add(new int[] {i, next, n + next, n + i});
    }
    faces.add(below);
    faces.add(above);
    return new FaceLists(xyz, faces.toArray(int[][]::new));
  }
}
