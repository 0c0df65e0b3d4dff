package holotome.core.measure;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.List;

/**
 * How a body can stand on a level floor: on which faces of its hull the centre of mass comes to lie
 * over what it stands on, the steadiest first. Faces that lean less than three degrees from each
 * other are one, so that noise does not split a base.
 *
 * @param down unit, the outward direction of what the body stands on
 * @param steady the angle in degrees by which it can be tipped before it falls
 */
public record Resting(double[] down, double steady) {
  private static final double ALIKE = Math.cos(Math.toRadians(3));
  private static final int MOST_FACES = 400;

  /**
   * The poses of a body with this hull, steadiest first.
   *
   * @param mass the centre of mass
   */
  public static List<Resting> of(Hull hull, double[] mass) {
    int n = hull.faceCount();
    double[][] normal = new double[n][];
    double[] area = new double[n];
    List<Integer> order = new ArrayList<>();
    for (int f = 0; f < n; f++) {
      double[] c = hull.cross(f);
      area[f] = Vec.length(c);
      normal[f] = Vec.unit(c);
      order.add(f);
    }
    order.sort((a, b) -> Double.compare(area[b], area[a]));
    List<double[]> tried = new ArrayList<>();
    List<Resting> out = new ArrayList<>();
    for (int f : order.subList(0, Math.min(n, MOST_FACES))) {
      double[] d = normal[f];
      if (tried.stream().anyMatch(t -> Vec.dot(t, d) > ALIKE)) {
        continue;
      }
      // The mean of all faces that look nearly that way.
      double[] sum = new double[3];
      for (int g = 0; g < n; g++) {
        if (Vec.dot(normal[g], d) > ALIKE) {
          sum = Vec.add(sum, Vec.mul(normal[g], area[g]));
        }
      }
      double[] down = Vec.unit(sum);
      tried.add(down);
      double steady = steady(hull, down, mass);
      if (steady > 0) {
        out.add(new Resting(down, steady));
      }
    }
    out.sort((a, b) -> Double.compare(b.steady, a.steady));
    return out;
  }

  private static double steady(Hull hull, double[] down, double[] mass) {
    double low = Double.NEGATIVE_INFINITY;
    double high = Double.POSITIVE_INFINITY;
    for (int i = 0; i < hull.cornerCount(); i++) {
      double d = Vec.dot(hull.corner(i), down);
      low = Math.max(low, d);
      high = Math.min(high, d);
    }
    double reach = 0.01 * (low - high);
    double[] u = Vec.perpendicular(down);
    double[] v = Vec.cross(down, u);
    List<double[]> base = new ArrayList<>();
    for (int i = 0; i < hull.cornerCount(); i++) {
      double[] p = hull.corner(i);
      if (Vec.dot(p, down) > low - reach) {
        base.add(new double[] {Vec.dot(p, u), Vec.dot(p, v)});
      }
    }
    double[][] outline = ConvexOutline.of(base.toArray(double[][]::new));
    double inside = ConvexOutline.depth(outline, Vec.dot(mass, u), Vec.dot(mass, v));
    double height = low - Vec.dot(mass, down);
    return Math.toDegrees(Math.atan2(inside, Math.max(height, 1e-300)));
  }

  /** The centre of mass of an even solid, or of the surface where the mesh encloses nothing. */
  public static double[] massCentre(Mesh mesh) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    double[] o = mesh.bounds().centre();
    double volume = 0;
    double area = 0;
    double[] solid = new double[3];
    double[] skin = new double[3];
    for (int t = 0; t < mesh.triangleCount(); t++) {
      double[] n = holotome.core.mesh.Measures.cross(mesh, t);
      double[] a = Vec.sub(Vec.at(p, tri[3 * t]), o);
      double[] b = Vec.sub(Vec.at(p, tri[3 * t + 1]), o);
      double[] c = Vec.sub(Vec.at(p, tri[3 * t + 2]), o);
      double v = Vec.dot(n, a) / 6;
      double s = Vec.length(n) / 2;
      volume += v;
      area += s;
      for (int k = 0; k < 3; k++) {
        double sum = a[k] + b[k] + c[k];
        solid[k] += v * sum / 4;
        skin[k] += s * sum / 3;
      }
    }
    double size = mesh.bounds().diagonal();
    // Less than a thin shell's worth: the surface is open, or its parts cancel out.
    boolean encloses = Math.abs(volume) > 1e-3 * area * size;
    double[] from = encloses ? Vec.mul(solid, 1 / volume) : Vec.mul(skin, area > 0 ? 1 / area : 0);
    return Vec.add(o, from);
  }
}
