package holotome.core.measure;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.solve.PlaneFit;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * The surface around a point: the triangles that reach into a ball and hang together with the one
 * nearest its middle, so that the far side of a thin wall stays out. O(T) for the mesh.
 *
 * @param triangles of the mesh, in order
 * @param points the middles of the triangles, 3 doubles each
 * @param normals unit, 3 doubles each
 * @param weights the triangles' areas
 */
public record Patch(int[] triangles, double[] points, double[] normals, double[] weights) {
  private static final int GRAIN = 1 << 16;
  private static final int ROUNDS = 6;

  /** More than so many points tell a fit nothing new. */
  private static final int MOST = 60_000;

  /**
   * Gathers the patch around a point.
   *
   * @param at in the mesh's coordinates
   * @param reach the ball's radius; where no triangle's middle lies in it, the nearest triangle is
   *     the patch
   */
  public static Patch around(Mesh mesh, double[] at, double reach, Work work) {
    if (mesh.isEmpty()) {
      throw Failure.cannot(CoreWords.of("patch.there-is-no-surface-to"));
    }
    int n = mesh.triangleCount();
    BitSet[] near = new BitSet[Parallel.chunks(n, GRAIN)];
    int[] closest = new int[near.length];
    double[] least = new double[near.length];
    Parallel.chunked(
        n,
        GRAIN,
        work,
        (c, from, to) -> {
          BitSet set = new BitSet();
          least[c] = Double.POSITIVE_INFINITY;
          for (int t = from; t < to; t++) {
            double d = Vec.distance(middle(mesh, t), at);
            if (d <= reach) {
              set.set(t - from);
            }
            if (d < least[c]) {
              least[c] = d;
              closest[c] = t;
            }
          }
          near[c] = set;
        });
    int best = 0;
    BitSet all = new BitSet();
    for (int c = 0; c < near.length; c++) {
      best = least[c] < least[best] ? c : best;
      for (int i = near[c].nextSetBit(0); i >= 0; i = near[c].nextSetBit(i + 1)) {
        all.set(c * GRAIN + i);
      }
    }
    all.set(closest[best]);
    return of(mesh, connected(mesh, all, closest[best], work));
  }

  /** The patch that is a set of triangles. */
  public static Patch of(Mesh mesh, BitSet set) {
    int[] t = set.stream().toArray();
    double[] p = new double[3 * t.length];
    double[] n = new double[3 * t.length];
    double[] w = new double[t.length];
    for (int i = 0; i < t.length; i++) {
      double[] cross = Measures.cross(mesh, t[i]);
      System.arraycopy(middle(mesh, t[i]), 0, p, 3 * i, 3);
      System.arraycopy(Vec.unit(cross), 0, n, 3 * i, 3);
      w[i] = Vec.length(cross) / 2;
    }
    return new Patch(t, p, n, w);
  }

  private static double[] middle(Mesh mesh, int t) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    return Vec.of(
        ((double) p[a] + p[b] + p[c]) / 3,
        ((double) p[a + 1] + p[b + 1] + p[c + 1]) / 3,
        ((double) p[a + 2] + p[b + 2] + p[c + 2]) / 3);
  }

  /** Of some triangles those that hang together with one of them. */
  private static BitSet connected(Mesh mesh, BitSet all, int seed, Work work) {
    Mesh part = Submesh.of(mesh, all::get, work);
    int[] island = Islands.of(part, work).ofTriangle();
    int mine = island[all.get(0, seed).cardinality()];
    BitSet out = new BitSet();
    for (int i = 0, t = all.nextSetBit(0); t >= 0; i++, t = all.nextSetBit(t + 1)) {
      out.set(t, island[i] == mine);
    }
    return out;
  }

  public int size() {
    return triangles.length;
  }

  /** At most {@link #MOST} of the points, evenly taken: first their places, then their normals. */
  public double[][] thinned() {
    int step = Math.max(1, (size() + MOST - 1) / MOST);
    int n = (size() + step - 1) / step;
    double[] p = new double[3 * n];
    double[] d = new double[3 * n];
    for (int i = 0; i < n; i++) {
      System.arraycopy(points, 3 * i * step, p, 3 * i, 3);
      System.arraycopy(normals, 3 * i * step, d, 3 * i, 3);
    }
    return new double[][] {p, d};
  }

  /**
   * The plane that most of the patch lies in: least squares, weighted by area, over and over
   * without what is farther off than three standard deviations (told by the median), so that what
   * stands on a floor does not tilt it.
   *
   * @return the plane, its normal to the patch's outside
   */
  public PlaneFit plane() {
    PlaneFit fit = fitted(null, 0);
    for (int round = 0; round < ROUNDS; round++) {
      double[] off = new double[size()];
      for (int i = 0; i < off.length; i++) {
        off[i] = off(fit, i);
      }
      double[] sorted = off.clone();
      Arrays.sort(sorted);
      // 1.4826 medians of the distances are a standard deviation, where they are normal.
      double limit = 3 * 1.4826 * sorted[sorted.length / 2];
      fit = fitted(fit, limit);
    }
    double facing = 0;
    for (int i = 0; i < size(); i++) {
      facing += weights[i] * Vec.dot(fit.normal(), normal(i));
    }
    return facing < 0 ? new PlaneFit(fit.point(), Vec.mul(fit.normal(), -1), fit.rms()) : fit;
  }

  private double[] normal(int i) {
    return Arrays.copyOfRange(normals, 3 * i, 3 * i + 3);
  }

  private double off(PlaneFit fit, int i) {
    return Math.abs(
        Vec.dot(fit.normal(), Vec.sub(Arrays.copyOfRange(points, 3 * i, 3 * i + 3), fit.point())));
  }

  private PlaneFit fitted(PlaneFit near, double limit) {
    PlaneFit.Sum sum = new PlaneFit.Sum();
    int used = 0;
    for (int i = 0; i < size(); i++) {
      if (near == null || off(near, i) <= limit) {
        sum.add(points[3 * i], points[3 * i + 1], points[3 * i + 2], Math.max(weights[i], 1e-300));
        used++;
      }
    }
    if (used < 3) {
      if (near != null) {
        return near;
      }
      // One or two triangles: their own plane.
      double[] n = Vec.unit(normal(0));
      return new PlaneFit(Arrays.copyOf(points, 3), n, 0);
    }
    return sum.fit();
  }
}
