package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import java.util.Arrays;

/**
 * How far vertices lie off the surface that their neighbours tell of, as a standard deviation along
 * the normal.
 *
 * <p>Of each vertex looked at, the offset from the mean of its neighbours is taken, and from that
 * the mean offset of those neighbours: what bends evenly cancels, what is random does not. Of white
 * noise of standard deviation s on a regular mesh of degree six this second difference has standard
 * deviation 1.359 s (the square root of the sum of its squared coefficients over two rings). The
 * median of its size over all vertices looked at, which sharp edges and holes do not sway, leads to
 * s (median absolute deviation of a normal distribution, 0.6745).
 *
 * <p>What varies more slowly than from vertex to vertex is shape to it, not noise. Up to 200,000
 * vertices are looked at, evenly spread over the vertex numbers.
 */
final class NoiseLevel {
  private static final int MOST = 200_000;
  private static final int GRAIN = 1 << 12;
  private static final double SECOND_DIFFERENCE = 1.359;
  private static final double MEDIAN_OF_NORMAL = 0.6745;

  private final float[] xyz;
  private final int[] corners;
  private final VertexFans fans;

  private NoiseLevel(Mesh mesh, VertexFans fans) {
    this.xyz = mesh.xyz();
    this.corners = mesh.triangles();
    this.fans = fans;
  }

  /** In base coordinates; 0 where no vertex has a ring of neighbours all round. */
  static double of(Mesh mesh, VertexFans fans) {
    return new NoiseLevel(mesh, fans).measure(mesh.vertexCount());
  }

  private double measure(int vertices) {
    int step = Math.max(1, vertices / MOST);
    double[] sizes = new double[(vertices + step - 1) / step];
    Parallel.range(
        sizes.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          double[] own = new double[3];
          double[] theirs = new double[3];
          double[] sum = new double[3];
          for (int i = from; i < to; i++) {
            sizes[i] = difference(i * step, own, theirs, sum);
          }
        });
    // What is not a number stands behind.
    Arrays.sort(sizes);
    int n = sizes.length;
    while (n > 0 && Double.isNaN(sizes[n - 1])) {
      n--;
    }
    return n == 0 ? 0 : sizes[n / 2] / (MEDIAN_OF_NORMAL * SECOND_DIFFERENCE);
  }

  /** The size of the second difference at a vertex; not a number where its ring is not whole. */
  private double difference(int v, double[] own, double[] theirs, double[] sum) {
    if (!offset(v, own)) {
      return Double.NaN;
    }
    Arrays.fill(sum, 0);
    double[] normal = new double[3];
    int around = 0;
    for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      for (int k = 0; k < 3; k++) {
        int u = corners[t + k];
        if (u != v) {
          if (!offset(u, theirs)) {
            return Double.NaN;
          }
          for (int d = 0; d < 3; d++) {
            sum[d] += theirs[d];
          }
          around++;
        }
      }
      Measures.cross(xyz, corners, t / 3, theirs);
      for (int d = 0; d < 3; d++) {
        normal[d] += theirs[d];
      }
    }
    double length = Vec.length(normal);
    if (!(length > 0)) {
      return Double.NaN;
    }
    double along = 0;
    for (int d = 0; d < 3; d++) {
      along += (own[d] - sum[d] / around) * normal[d] / length;
    }
    return Math.abs(along);
  }

  /**
   * A vertex's place less the mean of its neighbours. False where its triangles do not go all
   * round: each neighbour counts twice there only if both sides of its edge are there.
   */
  private boolean offset(int v, double[] out) {
    if (fans.count(v) < 3 || !goesRound(v)) {
      return false;
    }
    int n = fans.around(v, corners, xyz, out);
    for (int d = 0; d < 3; d++) {
      out[d] = xyz[3 * v + d] - out[d] / n;
    }
    return true;
  }

  private boolean goesRound(int v) {
    long odd = 0;
    for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      for (int k = 0; k < 3; k++) {
        odd ^= corners[t + k] == v ? 0 : scattered(corners[t + k]);
      }
    }
    return odd == 0;
  }

  /** Numbers that come twice cancel; others as good as never do. */
  private static long scattered(int u) {
    long h = (u + 1) * 0x9E3779B97F4A7C15L;
    return (h ^ h >>> 29) * 0xBF58476D1CE4E5B9L;
  }
}
