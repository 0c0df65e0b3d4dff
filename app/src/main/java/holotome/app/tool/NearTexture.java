package holotome.app.tool;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;

/** Which texture points of a triangle are meant by a place in the flat pane. */
final class NearTexture {
  /** How near a corner is taken alone, and an edge with both its ends, in pixels. */
  private static final double CORNER = 10;

  private static final double EDGE = 6;

  private NearTexture() {}

  /**
   * The corner, the two ends of the edge, or where neither is near the nearest corner: u, v each.
   */
  static double[] of(FlatPort pane, Mesh mesh, int triangle, double x, double y) {
    double[] u = new double[6];
    double[] p = new double[6];
    for (int k = 0; k < 3; k++) {
      int c = 2 * mesh.uv().corners()[3 * triangle + k];
      u[2 * k] = mesh.uv().coords()[c];
      u[2 * k + 1] = mesh.uv().coords()[c + 1];
      System.arraycopy(pane.project(u[2 * k], u[2 * k + 1]), 0, p, 2 * k, 2);
    }
    int corner = 0;
    int edge = 0;
    double[] far = new double[3];
    double[] beside = new double[3];
    for (int k = 0; k < 3; k++) {
      far[k] = Math.hypot(p[2 * k] - x, p[2 * k + 1] - y);
      beside[k] = beside(p, 2 * k, 2 * ((k + 1) % 3), x, y);
      corner = far[k] < far[corner] ? k : corner;
      edge = beside[k] < beside[edge] ? k : edge;
    }
    if (far[corner] > CORNER && beside[edge] <= EDGE) {
      int next = (edge + 1) % 3;
      return new double[] {u[2 * edge], u[2 * edge + 1], u[2 * next], u[2 * next + 1]};
    }
    return new double[] {u[2 * corner], u[2 * corner + 1]};
  }

  /** The point of a triangle, in the mesh's coordinates, that lies at a place in the texture. */
  static double[] onSurface(Mesh mesh, int triangle, double[] place) {
    double[] u = new double[6];
    for (int k = 0; k < 3; k++) {
      int c = 2 * mesh.uv().corners()[3 * triangle + k];
      u[2 * k] = mesh.uv().coords()[c];
      u[2 * k + 1] = mesh.uv().coords()[c + 1];
    }
    double det = (u[2] - u[0]) * (u[5] - u[1]) - (u[4] - u[0]) * (u[3] - u[1]);
    double x = place[0] - u[0];
    double y = place[1] - u[1];
    double b = det == 0 ? 0 : (x * (u[5] - u[1]) - (u[4] - u[0]) * y) / det;
    double c = det == 0 ? 0 : ((u[2] - u[0]) * y - x * (u[3] - u[1])) / det;
    double[] weight = {1 - b - c, b, c};
    double[] out = new double[3];
    for (int k = 0; k < 9; k++) {
      int v = mesh.triangles()[3 * triangle + k / 3];
      out[k % 3] += weight[k / 3] * mesh.xyz()[3 * v + k % 3];
    }
    return out;
  }

  /** Where a point of a triangle lies in the texture. */
  static double[] texture(Mesh m, int triangle, double[] p) {
    int[] t = m.triangles();
    double[][] at = new double[3][3];
    for (int c = 0; c < 3; c++) {
      for (int k = 0; k < 3; k++) {
        at[c][k] = m.xyz()[3 * t[3 * triangle + c] + k];
      }
    }
    double[] out = new double[2];
    double whole = Vec.length(Vec.cross(Vec.sub(at[1], at[0]), Vec.sub(at[2], at[0])));
    for (int c = 0; c < 3; c++) {
      double[] b = Vec.sub(at[(c + 1) % 3], p);
      double share = whole > 0 ? Vec.length(Vec.cross(b, Vec.sub(at[(c + 2) % 3], p))) / whole : 0;
      int uv = 2 * m.uv().corners()[3 * triangle + c];
      out[0] += share * m.uv().coords()[uv];
      out[1] += share * m.uv().coords()[uv + 1];
    }
    return out;
  }

  /** The distance from a stretch. */
  private static double beside(double[] p, int a, int b, double x, double y) {
    double dx = p[b] - p[a];
    double dy = p[b + 1] - p[a + 1];
    double l = dx * dx + dy * dy;
    double t = l > 0 ? Math.clamp(((x - p[a]) * dx + (y - p[a + 1]) * dy) / l, 0, 1) : 0;
    return Math.hypot(p[a] + t * dx - x, p[a + 1] + t * dy - y);
  }
}
