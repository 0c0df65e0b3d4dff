package holotome.core.unwrap;

import holotome.core.array.Grouping;
import holotome.core.array.LongIndex;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;

/**
 * The charts that a mesh has, ready to be laid out anew: each seen from its upper side.
 *
 * @param charts their vertices in the mesh's units where they are to be even, else in the texture's
 * @param over how many were turned over, for they lay mirrored
 * @param flat how many have no area in the texture
 */
record GivenCharts(Charts charts, int over, int flat) {
  /** Below this share of what it has on the surface a chart has no area in the texture. */
  private static final double NOTHING = 1e-9;

  /**
   * Takes them; O(T).
   *
   * @param even whether each gets the area that it has on the surface, times what it matters
   */
  static GivenCharts of(Mesh mesh, boolean even, Work work) {
    holotome.core.topology.Charts found = holotome.core.topology.Charts.of(mesh, work);
    Grouping by = Grouping.of(found.ofTriangle(), found.count(), Work.unwatched());
    float[] importance = Importance.of(mesh);
    List<Charts.Chart> list = new ArrayList<>();
    int over = 0;
    int flat = 0;
    double all = 0;
    double allFlat = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      all += Vec.length(Measures.cross(mesh, t)) / 2;
      allFlat += Math.abs(flatArea(mesh, t));
    }
    for (int c = 0; c < found.count(); c++) {
      int from = by.start()[c];
      int n = by.start()[c + 1] - from;
      double onSurface = 0;
      double wanted = 0;
      double inTexture = 0;
      int[] triangles = new int[n];
      int[] corners = new int[3 * n];
      LongIndex vertices = new LongIndex();
      for (int i = 0; i < n; i++) {
        int t = by.order()[from + i];
        triangles[i] = t;
        double area = Vec.length(Measures.cross(mesh, t)) / 2;
        onSurface += area;
        wanted += importance == null ? area : importance[t] * area;
        inTexture += flatArea(mesh, t);
        for (int k = 0; k < 3; k++) {
          corners[3 * i + k] = vertices.add(mesh.uv().corners()[3 * t + k]);
        }
      }
      boolean isFlat = !(Math.abs(inTexture) * all > NOTHING * onSurface * allFlat);
      boolean isOver = inTexture < 0 && !isFlat;
      flat += isFlat ? 1 : 0;
      over += isOver ? 1 : 0;
      double scale = !even ? 1 : isFlat ? 0 : Math.sqrt(wanted / Math.abs(inTexture));
      double[] uv = new double[2 * vertices.size()];
      for (int v = 0; v < vertices.size(); v++) {
        int at = 2 * (int) vertices.key(v);
        uv[2 * v] = (isOver ? -scale : scale) * mesh.uv().coords()[at];
        uv[2 * v + 1] = scale * mesh.uv().coords()[at + 1];
      }
      list.add(new Charts.Chart(triangles, corners, uv));
    }
    return new GivenCharts(new Charts(found.ofTriangle(), list), over, flat);
  }

  private static double flatArea(Mesh mesh, int t) {
    float[] p = mesh.uv().coords();
    int[] k = mesh.uv().corners();
    int a = 2 * k[3 * t];
    int b = 2 * k[3 * t + 1];
    int c = 2 * k[3 * t + 2];
    return (((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
            - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]))
        / 2;
  }
}
