package holotome.core.datum;

import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.spatial.ClusteredMesh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * The upright plane that a work is most nearly its own mirror image in: points of the surface are
 * mirrored and their distance from the surface taken (its mean, the worst fifth left out), for
 * planes in all directions, and the best refined by halving steps (a direct search in the manner of
 * Podolak and others, "A planar-reflective symmetry transform for 3D shapes", 2006). O(n log T) a
 * plane for n points; of a large mesh the distances are those from a light stand-in.
 *
 * @param alongX the direction in the plane and level that looks more nearly to the front, -Y
 * @param mean of the mirrored points' distances, in working space
 */
record SymmetryPlane(double alongX, double alongY, double mean) {
  private static final int POINTS = 1500;
  private static final int DIRECTIONS = 60;
  private static final double KEPT = 0.8;

  /** Distances are taken from a mesh of about so many triangles. */
  private static final int LIGHT = 400_000;

  private static final int LEAST = 20_000;

  static SymmetryPlane upright(Mesh mesh, Frame frame, Work work) {
    return new Search(mesh, frame, work).run();
  }

  private static final class Search {
    private final Frame frame;
    private final Work work;
    private final Bvh bvh;
    private final double[][] points;
    private final double size;
    private final double[] middle = new double[2];

    Search(Mesh mesh, Frame frame, Work work) {
      this.frame = frame;
      this.work = work;
      Mesh light =
          ClusteredMesh.of(mesh, LIGHT, work.part(0.3, CoreWords.of("work.looking-for-symmetry")));
      // With one vertex far off, or of crumbs alone, next to nothing of the form is left.
      Mesh form = light.triangleCount() < LEAST ? mesh : light;
      bvh = Bvh.of(form, work.part(0.2, CoreWords.of("work.looking-for-symmetry")));
      float[] p = SurfaceDistance.sample(mesh, POINTS);
      points = new double[POINTS][];
      for (int i = 0; i < POINTS; i++) {
        points[i] = frame.toWork().apply(p[3 * i], p[3 * i + 1], p[3 * i + 2]);
        middle[0] += points[i][0] / POINTS;
        middle[1] += points[i][1] / POINTS;
      }
      Box b = frame.workBounds(mesh);
      size = b.diagonal();
    }

    SymmetryPlane run() {
      double[] cost = new double[DIRECTIONS];
      for (int i = 0; i < DIRECTIONS; i++) {
        cost[i] = cost(Math.PI * i / DIRECTIONS, 0);
        work.advance(0.5 / DIRECTIONS);
      }
      int best = 0;
      for (int i = 1; i < DIRECTIONS; i++) {
        best = cost[i] < cost[best] ? i : best;
      }
      double[] sorted = cost.clone();
      Arrays.sort(sorted);
      double usual = sorted[DIRECTIONS / 2];
      if (usual < 0.005 * size || cost[best] > 0.6 * usual) {
        throw Failure.cannot(
            cost[best] < 0.01 * size
                ? CoreWords.of("symmetry-plane.it-is-as-symmetric-one")
                : CoreWords.of("symmetry-plane.no-plane-of-symmetry-was"));
      }
      double angle = Math.PI * best / DIRECTIONS;
      double shift = 0;
      double least = cost[best];
      double turn = Math.PI / DIRECTIONS;
      double move = 0.02 * size;
      while (turn > 1e-5) {
        double[][] tries = {
          {angle + turn, shift}, {angle - turn, shift}, {angle, shift + move}, {angle, shift - move}
        };
        boolean better = false;
        for (double[] t : tries) {
          double c = cost(t[0], t[1]);
          if (c < least) {
            least = c;
            angle = t[0];
            shift = t[1];
            better = true;
          }
        }
        if (!better) {
          turn /= 2;
          move /= 2;
        }
      }
      // The plane's normal stands at the angle; the front lies in the plane.
      double x = -Math.sin(angle);
      double y = Math.cos(angle);
      return y > 0 ? new SymmetryPlane(-x, -y, least) : new SymmetryPlane(x, y, least);
    }

    private double cost(double angle, double shift) {
      work.check();
      double nx = Math.cos(angle);
      double ny = Math.sin(angle);
      double offset = nx * middle[0] + ny * middle[1] + shift;
      double[] away = new double[POINTS];
      Parallel.range(
          POINTS,
          64,
          Work.unwatched(),
          (from, to) -> {
            BvhQuery q = new BvhQuery(bvh);
            for (int i = from; i < to; i++) {
              double[] p = points[i];
              double d = 2 * (nx * p[0] + ny * p[1] - offset);
              double[] m = frame.toBase(Vec.of(p[0] - d * nx, p[1] - d * ny, p[2]));
              q.closest((float) m[0], (float) m[1], (float) m[2], Float.POSITIVE_INFINITY);
              away[i] = q.distance * frame.toWork().scale();
            }
          });
      Arrays.sort(away);
      double sum = 0;
      int kept = (int) (KEPT * POINTS);
      for (int i = 0; i < kept; i++) {
        sum += away[i];
      }
      return sum / kept;
    }
  }
}
