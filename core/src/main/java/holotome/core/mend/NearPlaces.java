package holotome.core.mend;

import holotome.core.array.LongIndex;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * The vertices of a mesh near some places. A pass over the vertices, on all cores.
 *
 * @param reach how far from a place a vertex may be to be meant by it: twice a usual edge
 * @param vertices all that are no farther from any of the places, and some beside them, rising
 */
record NearPlaces(double reach, int[] vertices) {
  private static final int GRAIN = 1 << 15;
  private static final int SAMPLES = 4096;

  /**
   * @param places 3 doubles each, in base coordinates
   */
  static NearPlaces of(Mesh mesh, double[] places, Work work) {
    double reach = 2 * medianEdge(mesh);
    return new NearPlaces(reach, near(mesh, places, reach, work));
  }

  private static double medianEdge(Mesh mesh) {
    int n = Math.min(SAMPLES, mesh.triangleCount());
    double[] lengths = new double[n];
    for (int i = 0; i < n; i++) {
      int t = (int) ((long) i * mesh.triangleCount() / n);
      lengths[i] =
          Vec.distance(
              Vec.at(mesh.xyz(), mesh.triangles()[3 * t]),
              Vec.at(mesh.xyz(), mesh.triangles()[3 * t + 1]));
    }
    Arrays.sort(lengths);
    double middle = n == 0 ? 0 : lengths[n / 2];
    return middle > 0 ? middle : Math.max(1e-6 * mesh.bounds().diagonal(), Float.MIN_NORMAL);
  }

  private static int[] near(Mesh mesh, double[] places, double reach, Work work) {
    LongIndex cells = new LongIndex();
    for (int i = 0; i < places.length; i += 3) {
      for (int c = 0; c < 27; c++) {
        cells.add(
            cell(
                reach,
                places[i] + (c % 3 - 1) * reach,
                places[i + 1] + (c / 3 % 3 - 1) * reach,
                places[i + 2] + (c / 9 - 1) * reach));
      }
    }
    float[] p = mesh.xyz();
    int n = mesh.vertexCount();
    int[][] found = new int[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        work,
        (chunk, from, to) -> {
          int[] list = new int[4];
          int size = 0;
          for (int v = from; v < to; v++) {
            if (cells.find(cell(reach, p[3 * v], p[3 * v + 1], p[3 * v + 2])) >= 0) {
              list = size == list.length ? Arrays.copyOf(list, 2 * size) : list;
              list[size++] = v;
            }
          }
          found[chunk] = Arrays.copyOf(list, size);
        });
    return Arrays.stream(found).flatMapToInt(Arrays::stream).toArray();
  }

  private static long cell(double reach, double x, double y, double z) {
    long i = (long) Math.floor(x / reach) & 0x1FFFFF;
    long j = (long) Math.floor(y / reach) & 0x1FFFFF;
    long k = (long) Math.floor(z / reach) & 0x1FFFFF;
    return i << 42 | j << 21 | k;
  }
}
