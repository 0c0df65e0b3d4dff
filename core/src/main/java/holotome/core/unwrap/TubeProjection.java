package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.topology.Adjacency;

/**
 * Looks at a surface from all around an axis, from the outside and from within, and along it from
 * both ends; unrolled onto a tube of the piece's mean radius, cut open along one side.
 */
final class TubeProjection implements Projection {
  private static final int OUTSIDE = 0;
  private static final int INSIDE = 1;
  private static final int TOP = 2;
  private static final int SIDES = 4;

  private final Ground ground;
  private final double[] point;
  private final double[] axis;

  /** Away from where it is cut open, and square to that and the axis, counter-clockwise on. */
  private final double[] x;

  private final double[] y;
  private final SideProjection ends;

  /**
   * @param point on the axis
   * @param axis unit
   * @param cut the side along which it is cut open; square to the axis, unit
   */
  TubeProjection(Ground ground, double[] point, double[] axis, double[] cut) {
    this.ground = ground;
    this.point = point;
    this.axis = axis;
    x = Vec.mul(cut, -1);
    y = Vec.cross(axis, x);
    ends = SideProjection.flat(ground, axis, cut);
  }

  @Override
  public int sides() {
    return SIDES;
  }

  @Override
  public boolean isLaying(int side) {
    return true;
  }

  @Override
  public double facing(int t, int side) {
    if (side >= TOP) {
      return ends.facing(t, side - TOP);
    }
    double a = middle(t);
    double[] n = ground.normal();
    double c = Math.cos(a);
    double s = Math.sin(a);
    double out = 0;
    for (int k = 0; k < 3; k++) {
      out += n[3 * t + k] * (c * x[k] + s * y[k]);
    }
    return side == OUTSIDE ? out : -out;
  }

  /** The angle around the axis of a point, 0 opposite to where it is cut open. */
  private double angle(double px, double py, double pz) {
    double dx = px - point[0];
    double dy = py - point[1];
    double dz = pz - point[2];
    return Math.atan2(dx * y[0] + dy * y[1] + dz * y[2], dx * x[0] + dy * x[1] + dz * x[2]);
  }

  private double middle(int t) {
    float[] p = ground.mesh().xyz();
    int[] tri = ground.mesh().triangles();
    double[] m = new double[3];
    for (int c = 3 * t; c < 3 * t + 3; c++) {
      for (int k = 0; k < 3; k++) {
        m[k] += p[3 * tri[c] + k] / 3.0;
      }
    }
    return angle(m[0], m[1], m[2]);
  }

  /** Of a triangle's corner, on from that of its middle. */
  private double angle(int corner) {
    int v = 3 * ground.mesh().triangles()[corner];
    float[] p = ground.mesh().xyz();
    double from = middle(corner / 3);
    return from + Math.IEEEremainder(angle(p[v], p[v + 1], p[v + 2]) - from, 2 * Math.PI);
  }

  @Override
  public boolean isCut(int h, int g, int side) {
    return side < TOP
        && (Math.abs(angle(h) - angle(Adjacency.next(g))) > 1
            || Math.abs(angle(Adjacency.next(h)) - angle(g)) > 1);
  }

  @Override
  public Piece placed(Piece p, int side) {
    if (side >= TOP) {
      return ends.placed(p, side - TOP);
    }
    double radius = radius(p);
    double[] uv = new double[2 * p.vertices()];
    int[] tri = ground.mesh().triangles();
    for (int i = 0; i < p.corners().length; i++) {
      int corner = 3 * p.triangles()[i / 3] + i % 3;
      double[] at = Vec.at(ground.mesh().xyz(), tri[corner]);
      double u = radius * angle(corner);
      uv[2 * p.corners()[i]] = side == INSIDE ? -u : u;
      uv[2 * p.corners()[i] + 1] = Vec.dot(at, axis);
    }
    return p.at(uv);
  }

  private double radius(Piece p) {
    double sum = 0;
    double area = 0;
    int[] tri = ground.mesh().triangles();
    for (int i = 0; i < p.corners().length; i++) {
      int t = p.triangles()[i / 3];
      double[] d = Vec.sub(Vec.at(ground.mesh().xyz(), tri[3 * t + i % 3]), point);
      sum += ground.area()[t] * Math.hypot(Vec.dot(d, x), Vec.dot(d, y));
      area += ground.area()[t];
    }
    return area > 0 ? sum / area : 1;
  }
}
