package holotome.core.spatial;

import holotome.core.geometry.TrianglePlaces;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * How far one surface lies from another, by samples spread evenly over the first.
 *
 * <p>The samples follow a low-discrepancy sequence over the triangles in order, each triangle in
 * proportion to its area (stratified, so every run gives the same points); the measure is that of
 * Cignoni, Rocchini and Scopigno, "Metro: measuring error on simplified surfaces" (1998).
 *
 * @param rms root of the mean square distance
 * @param mean mean distance
 * @param p95 the distance that 95 % of samples stay under
 * @param max largest distance found
 */
public record SurfaceDistance(double rms, double mean, double p95, double max) {
  private static final int GRAIN = 4096;

  /** Triangles whose areas are summed one after the other. */
  private static final int AREA_GRAIN = 1 << 16;

  /** From {@code from} to {@code to}, over {@code samples} points. */
  public static SurfaceDistance of(Mesh from, Mesh to, int samples, Work work) {
    if (from.isEmpty() || to.isEmpty()) {
      return new SurfaceDistance(Double.NaN, Double.NaN, Double.NaN, Double.NaN);
    }
    Bvh bvh = Bvh.of(to, work.part(0.3, CoreWords.of("work.indexing-the-surface")));
    float[] points = sample(from, samples);
    float[] d = distances(points, bvh, work.part(0.7, CoreWords.of("work.measuring-distances")));
    return of(d);
  }

  /** The distance of each point (3 floats) to the surface. */
  public static float[] distances(float[] points, Bvh bvh, Work work) {
    float[] d = new float[points.length / 3];
    Parallel.range(
        d.length,
        GRAIN,
        work,
        (a, b) -> {
          BvhQuery q = new BvhQuery(bvh);
          for (int i = a; i < b; i++) {
            q.closest(points[3 * i], points[3 * i + 1], points[3 * i + 2], Float.POSITIVE_INFINITY);
            d[i] = q.distance;
          }
        });
    return d;
  }

  public static SurfaceDistance of(float[] distances) {
    double sum = 0;
    double squares = 0;
    for (float x : distances) {
      sum += x;
      squares += (double) x * x;
    }
    float[] sorted = distances.clone();
    Arrays.sort(sorted);
    int n = sorted.length;
    return new SurfaceDistance(
        Math.sqrt(squares / n), sum / n, sorted[(int) Math.min(n - 1, 0.95 * n)], sorted[n - 1]);
  }

  /** The worse of the two directions, figure by figure. */
  public SurfaceDistance worse(SurfaceDistance o) {
    return new SurfaceDistance(
        Math.max(rms, o.rms), Math.max(mean, o.mean), Math.max(p95, o.p95), Math.max(max, o.max));
  }

  /** Points spread over the surface in proportion to area, 3 floats each. */
  public static float[] sample(Mesh mesh, int samples) {
    int[] of = sampledTriangles(mesh, samples);
    float[] out = new float[3 * of.length];
    for (int i = 0; i < of.length; i++) {
      int t = of[i];
      double[] ab = TrianglePlaces.weights(i, 0.5);
      for (int k = 0; k < 3; k++) {
        double p = mesh.xyz()[3 * mesh.triangles()[3 * t] + k];
        double q = mesh.xyz()[3 * mesh.triangles()[3 * t + 1] + k];
        double r = mesh.xyz()[3 * mesh.triangles()[3 * t + 2] + k];
        out[3 * i + k] = (float) (p + ab[0] * (q - p) + ab[1] * (r - p));
      }
    }
    return out;
  }

  /** The triangle that each point of {@link #sample} lies on. */
  public static int[] sampledTriangles(Mesh mesh, int samples) {
    int n = mesh.triangleCount();
    int chunks = Parallel.chunks(n, AREA_GRAIN);
    double[] upTo = new double[chunks + 1];
    Parallel.chunked(
        n,
        AREA_GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          double[] cross = new double[3];
          double sum = 0;
          for (int t = from; t < to; t++) {
            sum += twiceArea(mesh, t, cross);
          }
          upTo[c + 1] = sum;
        });
    for (int c = 0; c < chunks; c++) {
      upTo[c + 1] += upTo[c];
    }
    int[] of = new int[samples];
    Parallel.range(
        chunks,
        1,
        Work.unwatched(),
        (from, to) -> {
          for (int c = from; c < to; c++) {
            sampled(mesh, c, upTo, of);
          }
        });
    return of;
  }

  /** Those points whose share of the area falls into one chunk. */
  private static void sampled(Mesh mesh, int chunk, double[] upTo, int[] of) {
    double all = upTo[upTo.length - 1];
    int samples = of.length;
    boolean isLast = chunk == upTo.length - 2;
    int i = first(upTo[chunk], all, samples);
    int end = isLast ? samples : first(upTo[chunk + 1], all, samples);
    double[] cross = new double[3];
    int t = chunk * AREA_GRAIN;
    int last = (int) Math.min(mesh.triangleCount(), (long) t + AREA_GRAIN) - 1;
    double reached = upTo[chunk] + twiceArea(mesh, t, cross);
    for (; i < end; i++) {
      while (t < last && reached < (i + 0.5) / samples * all) {
        reached += twiceArea(mesh, ++t, cross);
      }
      of[i] = t;
    }
  }

  /** The first point whose share is not below a sum of areas. */
  private static int first(double sum, double all, int samples) {
    int i = all > 0 ? (int) Math.clamp(sum / all * samples - 0.5, 0, samples) : samples;
    while (i > 0 && (i - 0.5) / samples * all >= sum) {
      i--;
    }
    while (i < samples && (i + 0.5) / samples * all < sum) {
      i++;
    }
    return i;
  }

  private static double twiceArea(Mesh mesh, int t, double[] cross) {
    Measures.cross(mesh.xyz(), mesh.triangles(), t, cross);
    return Vec.length(cross);
  }
}
