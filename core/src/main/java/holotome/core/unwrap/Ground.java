package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;

/**
 * The surface that charts are cut from.
 *
 * @param twin opposite half-edges; below 0 where charts must end. Of more than two triangles at an
 *     edge those go on into each other that {@link CrowdedPairs} says
 * @param crowded half-edges of such edges, those of one edge one after the other
 * @param normal 3 per triangle, of length 1, or 0 where it has no area
 * @param area one per triangle
 * @param seam one per half-edge: what a seam there costs, its length, less along creases
 * @param least length below which nothing is told apart
 */
record Ground(
    Mesh mesh,
    int[] twin,
    int[] crowded,
    double[] normal,
    double[] area,
    float[] seam,
    double least) {
  private static final int GRAIN = 1 << 14;

  /** What a seam costs along a crease of a right angle, beside one where it is flat. */
  private static final double CREASED = 0.3;

  /** Beside the root of the area. */
  private static final double LEAST = 1e-6;

  static Ground of(Mesh mesh, Work work) {
    int n = mesh.triangleCount();
    int[] twin = Adjacency.of(mesh, work).twin().clone();
    double[] normal = new double[3 * n];
    double[] area = new double[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0, work.label()),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            double[] c = Measures.cross(mesh, t);
            area[t] = Vec.length(c) / 2;
            for (int k = 0; k < 3; k++) {
              normal[3 * t + k] = area[t] > 0 ? c[k] / (2 * area[t]) : 0;
            }
          }
        });
    int[] crowded = CrowdedPairs.join(mesh.triangles(), twin, normal);
    double all = 0;
    for (double a : area) {
      all += a;
    }
    float[] seam = new float[3 * n];
    Ground g = new Ground(mesh, twin, crowded, normal, area, seam, LEAST * Math.sqrt(all));
    Parallel.range(
        3 * n,
        GRAIN,
        work.part(0, work.label()),
        (from, to) -> {
          for (int h = from; h < to; h++) {
            seam[h] = (float) (g.length(h) * (1 - (1 - CREASED) * g.crease(h)));
          }
        });
    return g;
  }

  /** Makes every edge that turns by more than an angle in degrees one where charts end. */
  void endAtCreases(double angle) {
    if (angle >= 180) {
      return;
    }
    double least = Math.cos(Math.toRadians(angle));
    for (int h = 0; h < twin.length; h++) {
      int g = twin[h];
      if (g > h && dot(h) < least) {
        twin[h] = Adjacency.BORDER;
        twin[g] = Adjacency.BORDER;
      }
    }
  }

  /** Makes every edge one where charts end across which the surface matters more or less. */
  void endWhereImportanceChanges() {
    float[] of = Importance.of(mesh);
    for (int h = 0; of != null && h < twin.length; h++) {
      int g = twin[h];
      if (g > h && Importance.differ(of[h / 3], of[g / 3])) {
        twin[h] = Adjacency.BORDER;
        twin[g] = Adjacency.BORDER;
      }
    }
  }

  double length(int h) {
    float[] p = mesh.xyz();
    int a = 3 * mesh.triangles()[h];
    int b = 3 * mesh.triangles()[Adjacency.next(h)];
    double x = (double) p[a] - p[b];
    double y = (double) p[a + 1] - p[b + 1];
    double z = (double) p[a + 2] - p[b + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** 0 where the surface is flat across an edge or ends there, 1 where it turns by 90 degrees. */
  double crease(int h) {
    return twin[h] < 0 ? 0 : Math.clamp(1 - dot(h), 0, 1);
  }

  /** The cosine of the angle by which the surface turns across an edge; 1 where it ends there. */
  double turn(int h) {
    return twin[h] < 0 ? 1 : dot(h);
  }

  private double dot(int h) {
    int t = h / 3 * 3;
    int u = twin[h] / 3 * 3;
    return normal[t] * normal[u] + normal[t + 1] * normal[u + 1] + normal[t + 2] * normal[u + 2];
  }
}
