package holotome.core.unwrap;

import holotome.core.topology.Adjacency;
import java.util.Arrays;
import java.util.List;
import java.util.stream.DoubleStream;

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

  /** Of all of them whose size may change, in their own units. */
  double area() {
    double s = 0;
    for (Chart c : list) {
      s += c.isHeld() ? 0 : c.area();
    }
    return s;
  }

  /** Of those that keep their size, as a share of the square. */
  double held() {
    double s = 0;
    for (Chart c : list) {
      s += c.isHeld() ? c.area() : 0;
    }
    return s;
  }

  /**
   * One chart.
   *
   * @param triangles numbers of its triangles in the mesh
   * @param corners 3 per triangle, into its own vertices
   * @param uv 2 per vertex, in the mesh's units of length; in the texture's where it is held
   * @param over charts laid over it: where it is moved to they go along
   * @param beside charts that lie as they do beside it, as if they were one with it
   * @param isHeld whether it keeps the size that it has in the texture
   */
  record Chart(
      int[] triangles,
      int[] corners,
      double[] uv,
      List<Chart> over,
      List<Chart> beside,
      boolean isHeld) {
    Chart(int[] triangles, int[] corners, double[] uv, List<Chart> over) {
      this(triangles, corners, uv, over, List.of(), false);
    }

    Chart(int[] triangles, int[] corners, double[] uv) {
      this(triangles, corners, uv, List.of());
    }

    Chart held() {
      return new Chart(triangles, corners, uv, over, beside, true);
    }

    /** The vertices of all that lies beside it too, x, y in turn. */
    double[] points() {
      if (beside.isEmpty()) {
        return uv;
      }
      return DoubleStream.concat(
              Arrays.stream(uv), beside.stream().flatMapToDouble(c -> Arrays.stream(c.uv)))
          .toArray();
    }

    /** The edges of its outline, and of each that lies beside it, as {@link #rim}. */
    double[][] rims() {
      double[][] out = new double[1 + beside.size()][];
      out[0] = rim();
      for (int i = 1; i < out.length; i++) {
        out[i] = beside.get(i - 1).rim();
      }
      return out;
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

    /** Its area, that of what lies beside it included; below 0 where it lies on its back. */
    double area() {
      double s = 0;
      for (Chart c : beside) {
        s += c.area();
      }
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
