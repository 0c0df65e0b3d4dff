package holotome.core.unwrap;

import java.util.List;

/**
 * Charts before packing.
 *
 * @param ofTriangle chart per triangle
 * @param list each chart on its own plane
 */
record Charts(int[] ofTriangle, List<Chart> list) {
  int count() {
    return list.size();
  }

  /**
   * One chart.
   *
   * @param triangles numbers of its triangles in the mesh
   * @param corners 3 per triangle, into its own vertices
   * @param uv 2 per vertex, in the mesh's units of length
   * @param over charts laid over it: where it is moved to they go along
   */
  record Chart(int[] triangles, int[] corners, double[] uv, List<Chart> over) {
    Chart(int[] triangles, int[] corners, double[] uv) {
      this(triangles, corners, uv, List.of());
    }
  }
}
