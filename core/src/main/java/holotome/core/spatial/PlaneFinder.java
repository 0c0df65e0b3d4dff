package holotome.core.spatial;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.solve.PlaneFit;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;

/**
 * The largest flat parts of a mesh, by random sample consensus (Fischler and Bolles, CACM 24(6),
 * 1981) over points spread evenly on the surface, refined by least squares. The seed is fixed: the
 * same mesh gives the same planes.
 */
public final class PlaneFinder {
  private static final int SAMPLES = 20_000;
  private static final int TRIALS = 1_500;

  private PlaneFinder() {}

  /**
   * A flat part.
   *
   * @param point on the plane, in base coordinates
   * @param normal unit; towards the side where more of the mesh lies
   * @param share of the mesh's area that lies within the tolerance, 0 to 1
   * @param rms of the distances of that part
   */
  public record Flat(double[] point, double[] normal, double share, double rms) {}

  /**
   * Up to {@code most} flat parts, the largest first; each next one is looked for in what the
   * others leave.
   *
   * @param tolerance how far from the plane a point may lie, in base units
   */
  public static List<Flat> find(Mesh mesh, double tolerance, int most, Work work) {
    if (mesh.isEmpty()) {
      return List.of();
    }
    float[] points =
        SurfaceDistance.sample(mesh, (int) Math.min(SAMPLES, 20L * mesh.triangleCount() + 100));
    int n = points.length / 3;
    boolean[] used = new boolean[n];
    int left = n;
    SplittableRandom random = new SplittableRandom(20_261_124);
    List<Flat> found = new ArrayList<>();
    while (found.size() < most && left > n / 50) {
      work.check();
      Flat best = search(points, used, left, tolerance, random);
      if (best == null) {
        break;
      }
      double above = 0;
      for (int i = 0; i < n; i++) {
        double d = distance(points, i, best.point, best.normal);
        if (Math.abs(d) <= tolerance) {
          left -= used[i] ? 0 : 1;
          used[i] = true;
        } else {
          above += Math.signum(d);
        }
      }
      found.add(
          above >= 0 ? best : new Flat(best.point, Vec.mul(best.normal, -1), best.share, best.rms));
      work.advance(1.0 / most);
    }
    found.sort((a, b) -> Double.compare(b.share, a.share));
    return found;
  }

  private static double distance(float[] p, int i, double[] o, double[] n) {
    return (p[3 * i] - o[0]) * n[0] + (p[3 * i + 1] - o[1]) * n[1] + (p[3 * i + 2] - o[2]) * n[2];
  }

  private static Flat search(
      float[] points, boolean[] used, int left, double tolerance, SplittableRandom random) {
    int n = points.length / 3;
    int[] free = new int[left];
    int count = 0;
    for (int i = 0; i < n; i++) {
      if (!used[i]) {
        free[count++] = i;
      }
    }
    if (count < 3) {
      return null;
    }
    // A coarse vote over every tenth point picks the plane; the fit then uses all.
    int stride = Math.max(1, count / 2000);
    int bestVotes = 0;
    double[] bestPoint = null;
    double[] bestNormal = null;
    for (int trial = 0; trial < TRIALS; trial++) {
      double[] a = Vec.at(points, free[random.nextInt(count)]);
      double[] b = Vec.at(points, free[random.nextInt(count)]);
      double[] c = Vec.at(points, free[random.nextInt(count)]);
      double[] normal = Vec.unit(Vec.cross(Vec.sub(b, a), Vec.sub(c, a)));
      if (Vec.length(normal) < 0.5) {
        continue;
      }
      int votes = 0;
      for (int i = 0; i < count; i += stride) {
        votes += Math.abs(distance(points, free[i], a, normal)) <= tolerance ? 1 : 0;
      }
      if (votes > bestVotes) {
        bestVotes = votes;
        bestPoint = a;
        bestNormal = normal;
      }
    }
    if (bestPoint == null) {
      return null;
    }
    PlaneFit fit = null;
    int inside = 0;
    for (int pass = 0; pass < 6; pass++) {
      PlaneFit.Sum sum = new PlaneFit.Sum();
      inside = 0;
      for (int i : free) {
        if (Math.abs(distance(points, i, bestPoint, bestNormal)) <= tolerance) {
          sum.add(points[3 * i], points[3 * i + 1], points[3 * i + 2], 1);
          inside++;
        }
      }
      if (inside < 3) {
        return null;
      }
      fit = sum.fit();
      bestPoint = fit.point();
      bestNormal = fit.normal();
    }
    return new Flat(bestPoint, bestNormal, (double) inside / n, fit.rms());
  }
}
