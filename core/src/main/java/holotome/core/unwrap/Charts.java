package holotome.core.unwrap;

import holotome.core.topology.Adjacency;
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

  /** Of all of them, in their own units. */
  double area() {
    double s = 0;
    for (Chart c : list) {
      s += c.area();
    }
    return s;
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

    /** The edges of its outline, two ends each, x, y in turn. */
    double[] rim() {
      int[] outline = ChartOutline.of(corners);
      double[] out = new double[4 * outline.length];
      for (int i = 0; i < outline.length; i++) {
        System.arraycopy(uv, 2 * corners[outline[i]], out, 4 * i, 2);
        System.arraycopy(uv, 2 * corners[Adjacency.next(outline[i])], out, 4 * i + 2, 2);
      }
      return out;
    }

    /** Its area, below 0 where it lies on its back. */
    double area() {
      double s = 0;
      for (int i = 0; i < corners.length; i += 3) {
        int a = 2 * corners[i];
        int b = 2 * corners[i + 1];
        int c = 2 * corners[i + 2];
        s +=
            ((uv[b] - uv[a]) * (uv[c + 1] - uv[a + 1]) - (uv[c] - uv[a]) * (uv[b + 1] - uv[a + 1]))
                / 2;
      }
      return s;
    }
  }
}
