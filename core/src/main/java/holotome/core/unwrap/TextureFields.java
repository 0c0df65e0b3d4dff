package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * What a texture does to each triangle of a mesh with texture coordinates, one number each, as
 * powers of two: 0 is as it should be, 1 twice as much. NaN for triangles without area on the
 * surface or in the texture. O(T) on all cores.
 */
public final class TextureFields {
  private static final int GRAIN = 1 << 14;
  private static final double LOG2 = Math.log(2);

  private TextureFields() {}

  /** By how much each is longer one way than the other than it was: the ratio of the two. */
  public static float[] stretch(Mesh mesh, Work work) {
    return each(
        mesh,
        work,
        (own, flat) -> {
          // The map from the surface to the texture, by its columns; its singular values.
          double det = own[0] * own[2];
          double a = flat[0] / own[0];
          double c = flat[1] / own[0];
          double b = (flat[2] * own[0] - flat[0] * own[1]) / det;
          double d = (flat[3] * own[0] - flat[1] * own[1]) / det;
          double sum = a * a + b * b + c * c + d * d;
          double area = Math.abs(a * d - b * c);
          double far = Math.sqrt(Math.max(0, sum * sum - 4 * area * area));
          return Math.sqrt((sum + far) / (sum - far));
        });
  }

  /** How many texels each has along a line, beside the mean of all. */
  public static float[] density(Mesh mesh, Work work) {
    double all = 0;
    double allFlat = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      all += Vec.length(Measures.cross(mesh, t));
      double[] e = flat(mesh, t);
      allFlat += Math.abs(e[0] * e[3] - e[1] * e[2]);
    }
    double mean = allFlat / all;
    return each(
        mesh,
        work,
        (own, flat) ->
            Math.sqrt(Math.abs(flat[0] * flat[3] - flat[1] * flat[2]) / (own[0] * own[2]) / mean));
  }

  private interface Figure {
    /**
     * @param own the triangle's own shape: its second corner at x 0, its third at x y
     * @param flat its two sides from the first corner in the texture, x y each
     */
    double of(double[] own, double[] flat);
  }

  private static float[] each(Mesh mesh, Work work, Figure figure) {
    float[] out = new float[mesh.triangleCount()];
    Parallel.range(
        out.length,
        GRAIN,
        work,
        (from, to) -> {
          for (int t = from; t < to; t++) {
            double[] own = Piece.rest(mesh, new int[] {t}, 0);
            double of = figure.of(own, flat(mesh, t));
            boolean isKnown = of > 0 && of < Double.POSITIVE_INFINITY;
            boolean hasArea = Vec.length(Measures.cross(mesh, t)) > 0;
            out[t] = isKnown && hasArea ? (float) (Math.log(of) / LOG2) : Float.NaN;
          }
        });
    return out;
  }

  private static double[] flat(Mesh mesh, int t) {
    float[] p = mesh.uv().coords();
    int[] k = mesh.uv().corners();
    int a = 2 * k[3 * t];
    int b = 2 * k[3 * t + 1];
    int c = 2 * k[3 * t + 2];
    return new double[] {
      (double) p[b] - p[a],
      (double) p[b + 1] - p[a + 1],
      (double) p[c] - p[a],
      (double) p[c + 1] - p[a + 1]
    };
  }
}
