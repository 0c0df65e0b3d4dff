package holotome.core.spatial;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * How far a surface lies from another one, everywhere: the distance of each vertex to the nearest
 * point of the other, above nought where it lies outside of it.
 *
 * <p>What all of the surface comes to is summed up over its area by vertices and middles of
 * triangles (a twelfth each, three quarters: exact for polynomials of the second degree; Hammer and
 * Stroud, "Numerical integration over simplexes", 1956); no points are left to chance. The middles
 * of triangles that are no larger than those of the other surface are not looked at: there it is
 * the mean of the corners. Outside is where the normal of the other surface points, between its
 * vertices as on its triangles; beside its borders that says nothing.
 *
 * <p>A closest point a vertex and one a large triangle, each looked for no farther than the
 * triangles of those of its neighbours: about 1 µs on one core between surfaces that lie close. 4
 * bytes a vertex are kept, 8 a vertex and 12 a triangle taken meanwhile.
 *
 * @param signed one per vertex of the surface, in the meshes' units
 * @param summary over all of the surface
 * @param spread of its area over the distances
 */
public record DeviationField(float[] signed, Summary summary, Spread spread) {
  private static final int GRAIN = 1 << 11;

  /**
   * Within triangles of up to so many times the area of the other surface's, distances bend less.
   */
  private static final double SMALL = 2;

  /**
   * What a surface comes to.
   *
   * @param mean of the distance, whichever side
   * @param rms root of the mean square
   * @param p95 what 95 % of the area stay under, to a 256th of itself
   * @param max the largest met
   * @param bias the mean with its sign: above nought where the surface lies outside
   * @param at where the largest is, 3 coordinates of a point of the surface
   */
  public record Summary(double mean, double rms, double p95, double max, double bias, double[] at) {
    private Summary scaled(int power) {
      double[] place = {
        Math.scalb(at[0], power), Math.scalb(at[1], power), Math.scalb(at[2], power)
      };
      return new Summary(
          Math.scalb(mean, power),
          Math.scalb(rms, power),
          Math.scalb(p95, power),
          Math.scalb(max, power),
          Math.scalb(bias, power),
          place);
    }

    /** The worse of the two directions, figure by figure. */
    public Summary worse(Summary o) {
      return new Summary(
          Math.max(mean, o.mean),
          Math.max(rms, o.rms),
          Math.max(p95, o.p95),
          Math.max(max, o.max),
          Math.abs(bias) >= Math.abs(o.bias) ? bias : o.bias,
          max >= o.max ? at : o.at);
    }
  }

  /**
   * From one surface to another; both must have triangles. Points that are nowhere (not a number)
   * are passed over.
   *
   * @throws Failure if no point of the surface is anywhere
   */
  public static DeviationField of(Mesh from, Mesh to, Work work) {
    boolean isLarger = from.bounds().diagonal() > to.bounds().diagonal();
    UsualSize size = UsualSize.of(isLarger ? from : to);
    Mesh near = size.to(to);
    Bvh bvh = Bvh.of(near, work.part(0.3, CoreWords.of("work.indexing-the-surface")));
    Work measuring = work.part(0.7, CoreWords.of("work.measuring-distances"));
    return of(size.to(from), near, bvh, measuring).scaled(-size.power());
  }

  private static DeviationField of(Mesh from, Mesh to, Bvh bvh, Work work) {
    float[] normals = Measures.vertexNormals(to);
    int n = from.vertexCount();
    float[] signed = new float[n];
    int[] nearest = new int[n];
    String label = CoreWords.of("work.measuring-distances");
    Parallel.range(
        n,
        GRAIN,
        work.part(0.4, label),
        (a, b) -> {
          Probe probe = new Probe(to, normals, bvh);
          for (int v = a; v < b; v++) {
            probe.near(probe.triangle());
            signed[v] =
                probe.signed(from.xyz()[3 * v], from.xyz()[3 * v + 1], from.xyz()[3 * v + 2]);
            nearest[v] = probe.triangle();
          }
        });
    int m = from.triangleCount();
    float[] middle = new float[m];
    double small = 2 * SMALL * Measures.area(to) / to.triangleCount();
    Parallel.range(
        m,
        GRAIN,
        work.part(0.5, label),
        (a, b) -> {
          Probe probe = new Probe(to, normals, bvh);
          double[] cross = new double[3];
          for (int t = a; t < b; t++) {
            int[] tri = from.triangles();
            Measures.cross(from.xyz(), tri, t, cross);
            if (Vec.dot(cross, cross) <= small * small) {
              middle[t] =
                  (signed[tri[3 * t]] + signed[tri[3 * t + 1]] + signed[tri[3 * t + 2]]) / 3;
              continue;
            }
            for (int k = 0; k < 3; k++) {
              probe.near(nearest[tri[3 * t + k]]);
            }
            middle[t] = probe.signed(mid(from, t, 0), mid(from, t, 1), mid(from, t, 2));
          }
        });
    return summed(from, signed, middle, work.part(0.1, label));
  }

  /** The same in units so many powers of two larger. */
  private DeviationField scaled(int power) {
    if (power == 0) {
      return this;
    }
    float[] d = signed.clone();
    for (int i = 0; i < d.length; i++) {
      d[i] = Math.scalb(d[i], power);
    }
    return new DeviationField(d, summary.scaled(power), spread.scaled(power));
  }

  private static float mid(Mesh m, int t, int k) {
    int[] tri = m.triangles();
    float[] p = m.xyz();
    return (float)
        (((double) p[3 * tri[3 * t] + k] + p[3 * tri[3 * t + 1] + k] + p[3 * tri[3 * t + 2] + k])
            / 3);
  }

  /** Asks for one place after the other, each no farther than triangles that may be near it. */
  private static final class Probe {
    private final Mesh to;
    private final float[] normals;
    private final BvhQuery query;
    private final TrianglePoint point = new TrianglePoint();
    private final int[] candidates = new int[3];
    private int count;

    Probe(Mesh to, float[] normals, Bvh bvh) {
      this.to = to;
      this.normals = normals;
      query = new BvhQuery(bvh);
    }

    /** The triangle of the last answer; -1 for none. */
    int triangle() {
      return query.triangle;
    }

    /** Names a triangle that may be near the next place; -1 for none. */
    void near(int triangle) {
      if (triangle >= 0) {
        candidates[count++] = triangle;
      }
    }

    float signed(float x, float y, float z) {
      float least = Float.POSITIVE_INFINITY;
      int[] tri = to.triangles();
      for (int i = 0; i < count; i++) {
        int t = 3 * candidates[i];
        if (i == 0 || candidates[i] != candidates[i - 1]) {
          least =
              Math.min(
                  least,
                  point.square(to.xyz(), 3 * tri[t], 3 * tri[t + 1], 3 * tri[t + 2], x, y, z));
        }
      }
      count = 0;
      // A little more: what is known was rounded.
      float reach = (float) (Math.sqrt(least) * 1.0001 + Float.MIN_NORMAL);
      query.closest(x, y, z, reach);
      if (query.triangle < 0) {
        query.closest(x, y, z, Float.POSITIVE_INFINITY);
      }
      return query.triangle >= 0 ? side(x, y, z) * query.distance : Float.NaN;
    }

    private float side(float x, float y, float z) {
      int[] tri = to.triangles();
      int t = 3 * query.triangle;
      float b = query.u;
      float c = query.v;
      float a = 1 - b - c;
      double dot = 0;
      float[] at = {x, y, z};
      for (int k = 0; k < 3; k++) {
        float near =
            a * to.xyz()[3 * tri[t] + k]
                + b * to.xyz()[3 * tri[t + 1] + k]
                + c * to.xyz()[3 * tri[t + 2] + k];
        double n =
            a * normals[3 * tri[t] + k]
                + b * normals[3 * tri[t + 1] + k]
                + c * normals[3 * tri[t + 2] + k];
        dot += n * ((double) at[k] - near);
      }
      return dot < 0 ? -1 : 1;
    }
  }

  /** Sums of one chunk of triangles. */
  private static final class Sums {
    private double area;
    private double mean;
    private double square;
    private double bias;
    private float max = -1;
    private int worst = -1;
    private boolean isMiddle;

    void add(float d, double weight, int index, boolean middle) {
      if (d != d) {
        return;
      }
      float off = Math.abs(d);
      area += weight;
      mean += weight * off;
      square += weight * off * off;
      bias += weight * d;
      if (off > max) {
        max = off;
        worst = index;
        isMiddle = middle;
      }
    }
  }

  private static DeviationField summed(Mesh from, float[] signed, float[] middle, Work work) {
    int m = middle.length;
    Sums[] parts = new Sums[Parallel.chunks(m, GRAIN)];
    double[] weights = new double[m];
    // What has no area at all is summed up as if each triangle had the same.
    boolean isFlat = !(Measures.area(from) > 0);
    Parallel.chunked(
        m,
        GRAIN,
        work.part(0.6, CoreWords.of("work.measuring-distances")),
        (c, a, b) -> {
          Sums s = new Sums();
          double[] cross = new double[3];
          for (int t = a; t < b; t++) {
            Measures.cross(from.xyz(), from.triangles(), t, cross);
            double w =
                isFlat
                    ? 1
                    : Math.sqrt(cross[0] * cross[0] + cross[1] * cross[1] + cross[2] * cross[2])
                        / 2;
            weights[t] = w;
            for (int k = 0; k < 3; k++) {
              int v = from.triangles()[3 * t + k];
              s.add(signed[v], w / 12, v, false);
            }
            s.add(middle[t], 0.75 * w, t, true);
          }
          parts[c] = s;
        });
    Sums all = new Sums();
    for (Sums s : parts) {
      all.area += s.area;
      all.mean += s.mean;
      all.square += s.square;
      all.bias += s.bias;
      if (s.max > all.max) {
        all.max = s.max;
        all.worst = s.worst;
        all.isMiddle = s.isMiddle;
      }
    }
    if (all.worst < 0) {
      throw Failure.cannot(CoreWords.of("deviation.nowhere"));
    }
    Spread spread = new Spread(all.max);
    for (int t = 0; t < m; t++) {
      for (int k = 0; k < 3; k++) {
        spread.add(signed[from.triangles()[3 * t + k]], weights[t] / 12);
      }
      spread.add(middle[t], 0.75 * weights[t]);
    }
    work.advance(0.4);
    double[] at = new double[3];
    for (int k = 0; k < 3; k++) {
      at[k] = all.isMiddle ? mid(from, all.worst, k) : from.xyz()[3 * all.worst + k];
    }
    Summary summary =
        new Summary(
            all.mean / all.area,
            Math.sqrt(all.square / all.area),
            spread.upTo(0.95),
            all.max,
            all.bias / all.area,
            at);
    return new DeviationField(signed, summary, spread);
  }
}
