package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/**
 * The stretch of a texture: per triangle the root mean square of the map's two singular values,
 * with the whole scaled to keep its area, 1 where nothing is stretched (the L2 stretch of Sander
 * and others, "Texture mapping progressive meshes", SIGGRAPH 2001). What matters more or less is
 * held against the size that it is to have for that ({@link Importance}).
 *
 * @param mean weighted by area
 * @param p95 what 95 % of the triangles stay under
 */
public record Stretch(double mean, double p95) {

  public static Stretch of(Mesh mesh) {
    float[] s = perTriangle(mesh);
    double sum = 0;
    double area = 0;
    for (int t = 0; t < s.length; t++) {
      double a = Vec.length(Measures.cross(mesh, t));
      sum += s[t] * s[t] * a;
      area += a;
    }
    float[] sorted = s.clone();
    Arrays.sort(sorted);
    return new Stretch(
        Math.sqrt(sum / area), sorted.length == 0 ? 1 : sorted[(int) (0.95 * (sorted.length - 1))]);
  }

  /** The stretch of each triangle; a large figure where it has no area in the texture. */
  public static float[] perTriangle(Mesh mesh) {
    int n = mesh.triangleCount();
    float[] importance = Importance.of(mesh);
    double area = 0;
    double uvArea = 0;
    for (int t = 0; t < n; t++) {
      double weight = importance == null ? 1 : importance[t];
      area += weight * Vec.length(Measures.cross(mesh, t)) / 2;
      uvArea += Math.abs(uvArea(mesh, t));
    }
    double unit = Math.sqrt(uvArea / area);
    float[] out = new float[n];
    float[] uv = mesh.uv().coords();
    int[] c = mesh.uv().corners();
    for (int t = 0; t < n; t++) {
      double[] a = Vec.at(mesh.xyz(), mesh.triangles()[3 * t]);
      double[] b = Vec.at(mesh.xyz(), mesh.triangles()[3 * t + 1]);
      double[] d = Vec.at(mesh.xyz(), mesh.triangles()[3 * t + 2]);
      double s1 = uv[2 * c[3 * t]];
      double t1 = uv[2 * c[3 * t] + 1];
      double s2 = uv[2 * c[3 * t + 1]];
      double t2 = uv[2 * c[3 * t + 1] + 1];
      double s3 = uv[2 * c[3 * t + 2]];
      double t3 = uv[2 * c[3 * t + 2] + 1];
      double twice = 2 * uvArea(mesh, t);
      double[] ps = new double[3];
      double[] pt = new double[3];
      for (int k = 0; k < 3; k++) {
        ps[k] = (a[k] * (t2 - t3) + b[k] * (t3 - t1) + d[k] * (t1 - t2)) / twice;
        pt[k] = (a[k] * (s3 - s2) + b[k] * (s1 - s3) + d[k] * (s2 - s1)) / twice;
      }
      double own = importance == null ? unit : unit * Math.sqrt(importance[t]);
      double l2 = Math.sqrt((Vec.dot(ps, ps) + Vec.dot(pt, pt)) / 2) * own;
      out[t] = (float) Math.min(1e6, Double.isNaN(l2) ? 1e6 : l2);
    }
    return out;
  }

  private static double uvArea(Mesh mesh, int t) {
    float[] uv = mesh.uv().coords();
    int a = 2 * mesh.uv().corners()[3 * t];
    int b = 2 * mesh.uv().corners()[3 * t + 1];
    int c = 2 * mesh.uv().corners()[3 * t + 2];
    return (((double) uv[b] - uv[a]) * ((double) uv[c + 1] - uv[a + 1])
            - ((double) uv[c] - uv[a]) * ((double) uv[b + 1] - uv[a + 1]))
        / 2;
  }
}
