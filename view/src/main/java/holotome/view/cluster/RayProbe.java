package holotome.view.cluster;

import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.view.scene.Setting;

/**
 * The true triangle that a line of sight meets first, found through a hierarchy without drawing
 * anything. Triangles are met by the test of Möller and Trumbore ("Fast, minimum storage
 * ray/triangle intersection", 1997), in double precision.
 */
public final class RayProbe {
  private final double[] from;
  private final double[] along;
  private final double[] clip;
  private double nearest = Double.POSITIVE_INFINITY;
  private int found = -1;

  /**
   * @param ray origin and direction in working space, 6 doubles
   * @param all what there is; in a parallel view the ray begins before all of it, not at the eye
   * @param clip as in {@link Setting}
   */
  private RayProbe(double[] ray, boolean parallel, Node all, Similarity place, double[] clip) {
    Similarity back = place.inverse();
    double[] eye = back.apply(new double[] {ray[0], ray[1], ray[2]});
    along = back.direction(new double[] {ray[3], ray[4], ray[5]});
    double[] to = {all.centreX() - eye[0], all.centreY() - eye[1], all.centreZ() - eye[2]};
    from = parallel ? Vec.add(eye, Vec.mul(along, -Vec.length(to) - 2 * all.radius())) : eye;
    this.clip = clip == null ? null : inBase(clip, place);
  }

  /** The triangle's number; -1 for none. */
  public static int of(
      Hierarchy h, double[] ray, boolean parallel, Similarity place, double[] clip) {
    RayProbe p = new RayProbe(ray, parallel, h.root(), place, clip);
    p.visit(h.root());
    return p.found;
  }

  private static double[] inBase(double[] plane, Similarity place) {
    double[] n = place.inverse().direction(plane);
    double[] at = place.apply(0, 0, 0);
    double k = place.scale() * Vec.length(new double[] {plane[0], plane[1], plane[2]});
    return new double[] {
      k * n[0],
      k * n[1],
      k * n[2],
      plane[0] * at[0] + plane[1] * at[1] + plane[2] * at[2] + plane[3]
    };
  }

  /** Where along the ray a node's sphere begins; infinity where it is missed. */
  private double enters(Node n) {
    double[] c = {n.centreX() - from[0], n.centreY() - from[1], n.centreZ() - from[2]};
    double middle = Vec.dot(c, along);
    double off = Vec.dot(c, c) - middle * middle;
    double r = n.radius();
    if (off > r * r) {
      return Double.POSITIVE_INFINITY;
    }
    double half = Math.sqrt(r * r - off);
    return middle + half < 0 ? Double.POSITIVE_INFINITY : middle - half;
  }

  private void visit(Node n) {
    if (enters(n) >= nearest) {
      return;
    }
    if (n.isLeaf()) {
      for (Piece p : n.pieces()) {
        meet(p);
      }
      return;
    }
    Node[] children = n.children().clone();
    java.util.Arrays.sort(children, java.util.Comparator.comparingDouble(this::enters));
    for (Node c : children) {
      visit(c);
    }
  }

  private void meet(Piece p) {
    char[] corners = p.corners();
    for (int t = 0; t < p.ids().length; t++) {
      double d =
          distance(p.xyz(), 3 * corners[3 * t], 3 * corners[3 * t + 1], 3 * corners[3 * t + 2]);
      if (d >= 0 && (d < nearest || d == nearest && p.ids()[t] < found) && isKept(d)) {
        nearest = d;
        found = p.ids()[t];
      }
    }
  }

  private boolean isKept(double d) {
    return clip == null
        || clip[0] * (from[0] + d * along[0])
                + clip[1] * (from[1] + d * along[1])
                + clip[2] * (from[2] + d * along[2])
                + clip[3]
            >= 0;
  }

  /** How far along the ray a triangle is met; below zero where it is not. */
  private double distance(float[] q, int a, int b, int c) {
    double ux = (double) q[b] - q[a];
    double uy = (double) q[b + 1] - q[a + 1];
    double uz = (double) q[b + 2] - q[a + 2];
    double vx = (double) q[c] - q[a];
    double vy = (double) q[c + 1] - q[a + 1];
    double vz = (double) q[c + 2] - q[a + 2];
    double px = along[1] * vz - along[2] * vy;
    double py = along[2] * vx - along[0] * vz;
    double pz = along[0] * vy - along[1] * vx;
    double det = ux * px + uy * py + uz * pz;
    if (det == 0) {
      return -1;
    }
    double tx = from[0] - q[a];
    double ty = from[1] - q[a + 1];
    double tz = from[2] - q[a + 2];
    double u = (tx * px + ty * py + tz * pz) / det;
    double qx = ty * uz - tz * uy;
    double qy = tz * ux - tx * uz;
    double qz = tx * uy - ty * ux;
    double v = (along[0] * qx + along[1] * qy + along[2] * qz) / det;
    return u >= 0 && v >= 0 && u + v <= 1 ? (vx * qx + vy * qy + vz * qz) / det : -1;
  }
}
