package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.solve.PlaneFit;
import holotome.core.triangulation.Triangulator;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A hole's ring laid into the plane that fits the border round the hole best, or flat along another
 * shape, seen from the side its patch faces.
 */
final class FlatRing {
  private final HoleRing ring;
  private final int[] begins;
  private final PlaneFit plane;
  private final double[] normal;
  private final double[] u;
  private final double[] w;

  /** How it is laid flat instead; null for the plane. */
  private final Laying laying;

  /** Per border x, y in turn. */
  private final List<double[]> outlines = new ArrayList<>();

  FlatRing(Mesh mesh, HoleRing ring) {
    this(mesh, ring, null);
  }

  /**
   * @param laying how it is laid flat; null for into the plane
   */
  FlatRing(Mesh mesh, HoleRing ring, Laying laying) {
    this.ring = ring;
    this.laying = laying;
    begins = ring.begins();
    int end = begins.length > 1 ? begins[1] : ring.size();
    double[] first = Vec.at(mesh.xyz(), ring.vertices()[0]);
    double[] turned = new double[3];
    PlaneFit.Sum sum = new PlaneFit.Sum();
    for (int i = 0; i < end; i++) {
      double[] at = Vec.at(mesh.xyz(), ring.vertices()[i]);
      double[] then = Vec.at(mesh.xyz(), ring.vertices()[ring.next()[i]]);
      turned = Vec.add(turned, Vec.cross(Vec.sub(at, first), Vec.sub(then, first)));
      sum.add(at[0], at[1], at[2], 1);
    }
    plane = sum.fit();
    normal = Vec.dot(plane.normal(), turned) < 0 ? Vec.mul(plane.normal(), -1) : plane.normal();
    u = Vec.perpendicular(normal);
    w = Vec.cross(normal, u);
    for (int b = 0; b < begins.length; b++) {
      int from = begins[b];
      int to = b + 1 < begins.length ? begins[b + 1] : ring.size();
      int[] some = Arrays.copyOfRange(ring.vertices(), from, to);
      outlines.add(laid(mesh, some));
    }
  }

  /** Points laid into the plane: x, y in turn. */
  double[] laid(Mesh mesh, int[] vertices) {
    double[] out = new double[2 * vertices.length];
    for (int i = 0; i < vertices.length; i++) {
      double[] at = flat(Vec.at(mesh.xyz(), vertices[i]));
      out[2 * i] = at[0];
      out[2 * i + 1] = at[1];
    }
    return out;
  }

  private double[] flat(double[] p) {
    if (laying != null) {
      return laying.flat(p);
    }
    double[] d = Vec.sub(p, plane.point());
    return new double[] {Vec.dot(d, u), Vec.dot(d, w)};
  }

  /** How far points are from the plane at most. */
  double farthest(Mesh mesh, int[] vertices) {
    double out = 0;
    for (int v : vertices) {
      double[] d = Vec.sub(Vec.at(mesh.xyz(), v), plane.point());
      out = Math.max(out, Math.abs(Vec.dot(d, normal)));
    }
    return out;
  }

  /**
   * Whether the surface beside a border faces the side that the patch does: the mean of its
   * triangles' normals there along the plane's, -1 to 1.
   *
   * @param loop border half-edges
   */
  double facing(Mesh mesh, int[] loop) {
    double[] sum = new double[3];
    for (int h : loop) {
      double[] n = Measures.cross(mesh, h / 3);
      double length = Vec.length(n);
      sum = length > 0 ? Vec.add(sum, Vec.mul(n, 1 / length)) : sum;
    }
    return Vec.dot(sum, normal) / loop.length;
  }

  /** How far the border round the hole is from the plane, as a root mean square. */
  double rms() {
    return plane.rms();
  }

  /** The border round the hole: x, y in turn. */
  double[] outline() {
    return outlines.getFirst();
  }

  /** All places of the ring laid into the plane: x, y in turn. */
  double[] places() {
    return outlines.stream().flatMapToDouble(Arrays::stream).toArray();
  }

  /** The length of the ring's edges around each place. */
  double[] lengths() {
    double[] p = places();
    double[] out = new double[ring.size()];
    for (int i = 0; i < out.length; i++) {
      int a = ring.previous()[i];
      int b = ring.next()[i];
      out[i] =
          (Math.hypot(p[2 * i] - p[2 * a], p[2 * i + 1] - p[2 * a + 1])
                  + Math.hypot(p[2 * i] - p[2 * b], p[2 * i + 1] - p[2 * b + 1]))
              / 2;
    }
    return out;
  }

  /**
   * Places in the plane where they are in space.
   *
   * @param xy x, y in turn
   * @return x, y, z in turn
   */
  float[] lifted(double[] xy) {
    float[] out = new float[xy.length / 2 * 3];
    for (int i = 0; i < xy.length / 2; i++) {
      double x = xy[2 * i];
      double y = xy[2 * i + 1];
      double[] at =
          laying != null
              ? laying.lifted(x, y)
              : Vec.add(plane.point(), Vec.add(Vec.mul(u, x), Vec.mul(w, y)));
      for (int k = 0; k < 3; k++) {
        out[3 * i + k] = (float) at[k];
      }
    }
    return out;
  }

  /**
   * Triangles over the ring's places; null where the borders, laid flat, meet themselves or each
   * other.
   */
  int[] triangulated() {
    List<int[]> numbers = new ArrayList<>();
    for (int b = 0; b < outlines.size(); b++) {
      double area = Triangulator.area(outlines.get(b));
      if (!(b == 0 ? area > 0 : area < 0) || !HoleFill.simple(outlines.get(b))) {
        return null;
      }
      int[] some = new int[outlines.get(b).length / 2];
      int from = begins[b];
      Arrays.setAll(some, i -> from + i);
      numbers.add(some);
    }
    return Triangulator.triangulate(outlines, numbers);
  }
}
