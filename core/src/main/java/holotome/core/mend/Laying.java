package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.topology.Borders;
import java.util.Arrays;

/**
 * Space near a shape laid flat, and back: a cylinder unrolled, a ball by Lambert's azimuthal
 * projection (Lambert 1772), so that what is even in the plane is even on the shape.
 */
interface Laying {
  /** A place in the plane: x, y. */
  double[] flat(double[] p);

  /** The place on the shape that lies there in the plane. */
  double[] lifted(double x, double y);

  /** Where a border goes all round a cylinder but for less than this, it is not laid flat. */
  double GAP = 0.2;

  /** A ball is laid flat up to this far from the middle of a border, in radians. */
  double REACH = 2.6;

  /**
   * The shape around a border laid flat, seen from the side that the surface beside it faces.
   *
   * @param loop border half-edges round the hole
   * @return null for planes, which need none, and where the shape goes on too far
   */
  static Laying of(PlainShape shape, Mesh mesh, int[] loop) {
    return switch (shape) {
      case PlainShape.Plane plane -> null;
      case PlainShape.Tube tube -> Unrolled.of(tube, mesh, loop);
      case PlainShape.Ball ball -> Azimuthal.of(ball, mesh, loop);
    };
  }

  /** Whether the surface beside a border faces away from an axis or a centre. */
  private static boolean facesOut(PlainShape shape, Mesh mesh, int[] loop) {
    double sum = 0;
    for (int h : loop) {
      double[] n = Measures.cross(mesh, h / 3);
      double l = Vec.length(n);
      double[] out = outward(shape, Vec.at(mesh.xyz(), mesh.triangles()[h]));
      sum += l > 0 ? Vec.dot(n, out) / l : 0;
    }
    return sum >= 0;
  }

  /** From the axis or the centre towards a place. */
  private static double[] outward(PlainShape shape, double[] p) {
    double[] from =
        switch (shape) {
          case PlainShape.Plane plane -> plane.fit().point();
          case PlainShape.Tube tube -> foot(tube, p);
          case PlainShape.Ball ball -> ball.fit().centre();
        };
    double[] d = Vec.sub(p, from);
    double l = Vec.length(d);
    return l > 0 ? Vec.mul(d, 1 / l) : d;
  }

  private static double[] foot(PlainShape.Tube tube, double[] p) {
    double along = Vec.dot(Vec.sub(p, tube.fit().point()), tube.fit().axis());
    return Vec.add(tube.fit().point(), Vec.mul(tube.fit().axis(), along));
  }

  /**
   * A cylinder unrolled around the line opposite to where a border leaves it free.
   *
   * @param u towards the middle of what is laid flat, w across it
   * @param side 1 seen from outside, -1 from inside
   */
  record Unrolled(PlainShape.Tube tube, double[] u, double[] w, double side) implements Laying {
    static Laying of(PlainShape.Tube tube, Mesh mesh, int[] loop) {
      double[] axis = tube.fit().axis();
      double[] u = Vec.perpendicular(axis);
      double[] w = Vec.cross(axis, u);
      int[] rim = Borders.vertices(mesh, loop);
      double[] angles = new double[rim.length];
      for (int i = 0; i < rim.length; i++) {
        double[] d = outward(tube, Vec.at(mesh.xyz(), rim[i]));
        angles[i] = Math.atan2(Vec.dot(d, w), Vec.dot(d, u));
      }
      Arrays.sort(angles);
      double widest = angles[0] + 2 * Math.PI - angles[rim.length - 1];
      double middle = (angles[0] + angles[rim.length - 1]) / 2;
      for (int i = 1; i < angles.length; i++) {
        if (angles[i] - angles[i - 1] > widest) {
          widest = angles[i] - angles[i - 1];
          middle = (angles[i] + angles[i - 1]) / 2 + Math.PI;
        }
      }
      if (widest < GAP) {
        return null;
      }
      double[] to = Vec.add(Vec.mul(u, Math.cos(middle)), Vec.mul(w, Math.sin(middle)));
      return new Unrolled(tube, to, Vec.cross(axis, to), facesOut(tube, mesh, loop) ? 1 : -1);
    }

    @Override
    public double[] flat(double[] p) {
      double[] d = Vec.sub(p, tube.fit().point());
      double angle = Math.atan2(Vec.dot(d, w), Vec.dot(d, u));
      return new double[] {side * tube.fit().radius() * angle, Vec.dot(d, tube.fit().axis())};
    }

    @Override
    public double[] lifted(double x, double y) {
      double angle = side * x / tube.fit().radius();
      double[] out = Vec.add(Vec.mul(u, Math.cos(angle)), Vec.mul(w, Math.sin(angle)));
      return Vec.add(
          tube.fit().point(),
          Vec.add(Vec.mul(tube.fit().axis(), y), Vec.mul(out, tube.fit().radius())));
    }
  }

  /**
   * A ball seen from afar above the middle of a border, its area kept.
   *
   * @param n towards the middle, u and w across it
   * @param side 1 seen from outside, -1 from inside
   */
  record Azimuthal(PlainShape.Ball ball, double[] n, double[] u, double[] w, double side)
      implements Laying {
    static Laying of(PlainShape.Ball ball, Mesh mesh, int[] loop) {
      double[] middle = new double[3];
      double[] turned = new double[3];
      for (int h : loop) {
        double[] a = outward(ball, Vec.at(mesh.xyz(), mesh.triangles()[h]));
        double[] b =
            outward(ball, Vec.at(mesh.xyz(), mesh.triangles()[h % 3 == 2 ? h - 2 : h + 1]));
        middle = Vec.add(middle, a);
        turned = Vec.add(turned, Vec.cross(a, b));
      }
      boolean isOut = facesOut(ball, mesh, loop);
      double length = Vec.length(middle);
      if (!(length > 1e-6 * loop.length)) {
        return null;
      }
      // A border's half-edges run with their triangles: the hole is to their right.
      boolean isFar = Vec.dot(middle, turned) > 0 == isOut;
      double[] n = Vec.mul(middle, (isFar ? -1 : 1) / length);
      double[] u = Vec.perpendicular(n);
      for (int h : loop) {
        double[] d = outward(ball, Vec.at(mesh.xyz(), mesh.triangles()[h]));
        if (Vec.dot(d, n) < Math.cos(REACH)) {
          return null;
        }
      }
      return new Azimuthal(ball, n, u, Vec.cross(n, u), isOut ? 1 : -1);
    }

    @Override
    public double[] flat(double[] p) {
      double[] d = outward(ball, p);
      // 2 sin(angle / 2) over sin(angle), by the half-angle formulas.
      double f = ball.fit().radius() * Math.sqrt(2 / Math.max(1e-12, 1 + Vec.dot(d, n)));
      return new double[] {side * f * Vec.dot(d, u), f * Vec.dot(d, w)};
    }

    @Override
    public double[] lifted(double x, double y) {
      double r = ball.fit().radius();
      double s = Math.min(1, Math.hypot(x, y) / (2 * r));
      double along = 1 - 2 * s * s;
      double across = Math.sqrt(1 - s * s) / r;
      double[] d =
          Vec.add(
              Vec.mul(n, along), Vec.add(Vec.mul(u, side * x * across), Vec.mul(w, y * across)));
      return Vec.add(ball.fit().centre(), Vec.mul(d, r));
    }
  }
}
