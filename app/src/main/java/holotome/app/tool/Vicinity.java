package holotome.app.tool;

import holotome.core.array.Ranks;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import java.util.List;

/**
 * The triangles around some places of a mesh, to be drawn while those places are moved.
 *
 * @param triangles 9 doubles each, in working space
 * @param moves whether each corner is one of the places
 * @param normal of the surface there, of length 1; null where it has none
 */
record Vicinity(double[] triangles, boolean[] moves, double[] normal) {
  /** More are not drawn. */
  private static final int MOST = 400;

  /** A pass over the mesh's vertices and one over its triangles. */
  static Vicinity of(Mesh mesh, Frame frame, List<double[]> places) {
    float[][] base = new float[places.size()][3];
    for (int i = 0; i < base.length; i++) {
      double[] p = frame.toBase(places.get(i));
      for (int k = 0; k < 3; k++) {
        base[i][k] = (float) p[k];
      }
    }
    Ranks there = Submesh.chosen(mesh.vertexCount(), v -> isAt(mesh, v, base), Work.unwatched());
    int[] tri = mesh.triangles();
    Ranks around =
        Submesh.chosen(
            mesh.triangleCount(),
            t -> there.has(tri[3 * t]) || there.has(tri[3 * t + 1]) || there.has(tri[3 * t + 2]),
            Work.unwatched());
    int n = Math.min(MOST, around.size());
    double[] xyz = new double[9 * n];
    boolean[] moves = new boolean[3 * n];
    double[] normal = new double[3];
    for (int i = 0; i < n; i++) {
      double[][] p = new double[3][];
      for (int k = 0; k < 3; k++) {
        int v = tri[3 * around.select(i) + k];
        float[] m = mesh.xyz();
        p[k] = frame.toWork().apply(m[3 * v], m[3 * v + 1], m[3 * v + 2]);
        System.arraycopy(p[k], 0, xyz, 9 * i + 3 * k, 3);
        moves[3 * i + k] = there.has(v);
      }
      normal = Vec.add(normal, Vec.cross(Vec.sub(p[1], p[0]), Vec.sub(p[2], p[0])));
    }
    return new Vicinity(xyz, moves, Vec.length(normal) > 0 ? Vec.unit(normal) : null);
  }

  private static boolean isAt(Mesh mesh, int v, float[][] places) {
    for (float[] p : places) {
      if (mesh.xyz()[3 * v] == p[0]
          && mesh.xyz()[3 * v + 1] == p[1]
          && mesh.xyz()[3 * v + 2] == p[2]) {
        return true;
      }
    }
    return false;
  }

  /** The outline of the i-th triangle, closed, with the places moved. */
  double[] outline(int i, double[] by) {
    double[] out = new double[12];
    for (int c = 0; c < 4; c++) {
      for (int k = 0; k < 3; k++) {
        double move = moves[3 * i + c % 3] ? by[k] : 0;
        out[3 * c + k] = triangles[9 * i + 3 * (c % 3) + k] + move;
      }
    }
    return out;
  }

  int count() {
    return triangles.length / 9;
  }
}
