package holotome.core.spatial;

import holotome.core.geometry.Vec;
import holotome.core.mesh.InRange;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * Which triangles can be seen from afar: from places spread over each, small ones from their
 * middle, rays leave towards given directions on the outside of the triangle, and one is seen where
 * two of them meet nothing. O(T log T) for the index; a triangle that is seen costs a few rays, a
 * hidden one all of them.
 */
public final class SeenFrom {
  private static final int GRAIN = 512;

  /** So many rays must be free. */
  private static final int ENOUGH = 2;

  /** Rays start so far above the surface, beside the diagonal. */
  private static final double ABOVE = 1e-5;

  /** A direction so flat along a triangle, by the cosine, sees nothing of it. */
  private static final double GRAZING = 0.05;

  /** A triangle of a share of the surface is asked from the root of this many times it, squared. */
  private static final double PLACES = 4000;

  private static final int MOST_PLACES = 8;

  private final Mesh mesh;
  private final double[] directions;
  private final Bvh bvh;
  private final double above;
  private final double all;

  private SeenFrom(Mesh mesh, double[] directions, Bvh bvh) {
    this.mesh = mesh;
    this.directions = directions;
    this.bvh = bvh;
    above = ABOVE * mesh.bounds().diagonal();
    all = Measures.area(mesh);
  }

  /**
   * The triangles that are seen.
   *
   * @param directions towards those who look, 3 numbers each, unit length, in base coordinates
   */
  public static BitSet of(Mesh mesh, double[] directions, Work work) {
    Mesh near = InRange.of(mesh).mesh();
    Bvh bvh = Bvh.of(near, work.part(0.2, CoreWords.of("work.indexing-the-surface")));
    return new SeenFrom(near, directions, bvh)
        .run(work.part(0.8, CoreWords.of("work.looking-from-all-sides")));
  }

  /**
   * Directions spread evenly over the ball by the golden angle, or over its part above a height.
   *
   * @param up of unit length
   * @param lowest the least rise of a direction, -1 for all
   */
  public static double[] around(int count, double[] up, double lowest) {
    double[] out = new double[3 * count];
    double[] x =
        Vec.unit(
            Vec.cross(up, Math.abs(up[0]) < 0.7 ? new double[] {1, 0, 0} : new double[] {0, 1, 0}));
    double[] y = Vec.cross(up, x);
    double golden = Math.PI * (3 - Math.sqrt(5));
    for (int i = 0; i < count; i++) {
      double z = 1 - (1 - lowest) * (i + 0.5) / count;
      double r = Math.sqrt(Math.max(0, 1 - z * z));
      double a = i * golden;
      for (int k = 0; k < 3; k++) {
        out[3 * i + k] = r * Math.cos(a) * x[k] + r * Math.sin(a) * y[k] + z * up[k];
      }
    }
    return out;
  }

  private BitSet run(Work work) {
    int n = mesh.triangleCount();
    boolean[] seen = new boolean[n];
    Parallel.range(
        n,
        GRAIN,
        work,
        (from, to) -> {
          BvhQuery query = new BvhQuery(bvh);
          for (int t = from; t < to; t++) {
            seen[t] = isSeen(query, t);
          }
        });
    BitSet out = new BitSet(n);
    for (int t = 0; t < n; t++) {
      out.set(t, seen[t]);
    }
    return out;
  }

  private boolean isSeen(BvhQuery query, int t) {
    double[] normal = Measures.cross(mesh, t);
    double area = Vec.length(normal) / 2;
    if (!(area > 0)) {
      return true;
    }
    normal = Vec.mul(normal, 1 / (2 * area));
    int rows = Math.clamp(Math.round(Math.sqrt(PLACES * area / all)), 1, MOST_PLACES);
    int free = 0;
    for (int i = 0; i < rows; i++) {
      for (int j = 0; i + j < rows; j++) {
        float[] at = place(t, (i + 1.0 / 3) / rows, (j + 1.0 / 3) / rows, normal);
        free += free(query, at, normal, ENOUGH - free);
        if (free >= ENOUGH) {
          return true;
        }
      }
    }
    return false;
  }

  private int free(BvhQuery query, float[] at, double[] normal, int wanted) {
    int free = 0;
    for (int d = 0; d < directions.length && free < wanted; d += 3) {
      double rise =
          normal[0] * directions[d] + normal[1] * directions[d + 1] + normal[2] * directions[d + 2];
      if (rise > GRAZING
          && !query.isBlocked(
              at[0],
              at[1],
              at[2],
              (float) directions[d],
              (float) directions[d + 1],
              (float) directions[d + 2],
              0,
              Float.POSITIVE_INFINITY,
              BvhQuery.Facing.ANY)) {
        free++;
      }
    }
    return free;
  }

  /** A place of a triangle by the weights of its second and third corner, a little above it. */
  private float[] place(int t, double u, double v, double[] normal) {
    float[] p = mesh.xyz();
    int[] tri = mesh.triangles();
    float[] out = new float[3];
    for (int k = 0; k < 3; k++) {
      out[k] =
          (float)
              ((1 - u - v) * p[3 * tri[3 * t] + k]
                  + u * p[3 * tri[3 * t + 1] + k]
                  + v * p[3 * tri[3 * t + 2] + k]
                  + above * normal[k]);
    }
    return out;
  }
}
