package holotome.core.spatial;

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
      // The R2 sequence (Roberts, "The unreasonable effectiveness of quasirandom sequences", 2018).
      double a = (0.5 + i * 0.7548776662466927) % 1;
      double b = (0.5 + i * 0.5698402909980532) % 1;
      if (a + b > 1) {
        a = 1 - a;
        b = 1 - b;
      }
      for (int k = 0; k < 3; k++) {
        double p = mesh.xyz()[3 * mesh.triangles()[3 * t] + k];
        double q = mesh.xyz()[3 * mesh.triangles()[3 * t + 1] + k];
        double r = mesh.xyz()[3 * mesh.triangles()[3 * t + 2] + k];
        out[3 * i + k] = (float) (p + a * (q - p) + b * (r - p));
      }
    }
    return out;
  }

  /** The triangle that each point of {@link #sample} lies on. */
  public static int[] sampledTriangles(Mesh mesh, int samples) {
    int n = mesh.triangleCount();
    double[] upTo = new double[n + 1];
    for (int t = 0; t < n; t++) {
      upTo[t + 1] = upTo[t] + Vec.length(Measures.cross(mesh, t));
    }
    int[] of = new int[samples];
    int t = 0;
    for (int i = 0; i < samples; i++) {
      double at = (i + 0.5) / samples * upTo[n];
      while (t < n - 1 && upTo[t + 1] < at) {
        t++;
      }
      of[i] = t;
    }
    return of;
  }
}
