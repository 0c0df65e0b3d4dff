package holotome.core.reduce;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.spatial.UsualSize;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.List;

/**
 * What decimating to each number of triangles would cost in shape, foretold from a sample.
 *
 * <p>The sample is the mesh itself or, where that is large, some round pieces of it; it is halved
 * over and over, and points of the surface are measured to what is left. Between what was measured
 * the curve is straight on logarithmic scales, and goes on so beyond: for a smooth surface the
 * error falls with the number itself (Gruber, "Asymptotic estimates for best and stepwise
 * approximation of convex bodies I", 1993). The larger the sample, the smaller the numbers it tells
 * of.
 *
 * @param points from many triangles to few, the deviation not falling
 * @param seconds what decimating the mesh would take, by the quickest of the halvings
 */
public record DeviationCurve(List<Point> points, double seconds) {
  /** About so many triangles are a sample that is there in a moment... */
  public static final int QUICK = 50_000;

  /** ... and so many one that tells of small numbers too. */
  public static final int THOROUGH = 400_000;

  private static final int LEAST_PIECES = 6;

  /** A large sample is of pieces of about so many triangles. */
  private static final int PIECE = 25_000;

  /** Points within this share of a piece's radius are measured: the rest is its rim. */
  private static final double WITHIN = 0.8;

  private static final int MEASURED = 6000;

  /** Below so many triangles a piece is shaped by its rim, and a whole mesh is nothing any more. */
  private static final int FEWEST = 80;

  private static final int FEWEST_OF_A_PIECE = 160;

  /** Taking fewer triangles away tells nothing of the time. */
  private static final int TIMED = 10_000;

  private static final int GRAIN = 1 << 16;

  /**
   * A number of triangles and what it costs.
   *
   * @param rms root of the mean square distance from the mesh to what is left, in its units
   * @param p95 what 95 % of the points stay under
   */
  public record Point(double triangles, double rms, double p95) {}

  public DeviationCurve {
    points = List.copyOf(points);
  }

  /**
   * Foretells the curve: for {@link #QUICK} about a quarter of a second, for {@link #THOROUGH} one,
   * and a pass over the mesh.
   *
   * @param size about how many triangles of the mesh are tried
   */
  public static DeviationCurve of(Mesh given, int size, Work work) {
    work.check();
    UsualSize usual = UsualSize.of(given);
    Mesh mesh = usual.to(new Mesh(given.xyz(), given.triangles()));
    int n = mesh.triangleCount();
    boolean isWhole = n <= size;
    int pieces = Math.max(LEAST_PIECES, size / PIECE);
    double radius = Math.sqrt(Measures.area(mesh) * size / Math.max(1, n) / pieces / Math.PI);
    double[] seeds = seeds(mesh, pieces);
    Mesh sample = isWhole ? mesh : around(mesh, seeds, radius);
    float[] points = SurfaceDistance.sample(sample, sample.isEmpty() ? 0 : MEASURED);
    if (!isWhole) {
      points = within(points, seeds, WITHIN * radius);
    }
    List<Point> found = new ArrayList<>();
    int fewest = isWhole ? FEWEST : FEWEST_OF_A_PIECE * pieces;
    double seconds = 0;
    double left = 1;
    Mesh light = sample;
    while (points.length > 0 && light.triangleCount() / 2 >= fewest) {
      long began = System.nanoTime();
      Mesh next =
          Decimation.run(
              light,
              light.triangleCount() / 2,
              Double.POSITIVE_INFINITY,
              work.part(left / 2, CoreWords.of("curve.sampling")));
      left /= 2;
      int cut = light.triangleCount() - next.triangleCount();
      if (cut < light.triangleCount() / 10 || next.isEmpty()) {
        break;
      }
      if (cut > TIMED || found.isEmpty()) {
        double each = (System.nanoTime() - began) * 1e-9 / cut;
        seconds = found.isEmpty() ? each * n : Math.min(seconds, each * n);
      }
      light = next;
      double share = (double) light.triangleCount() / sample.triangleCount();
      Point p = measured(light, share * n, points);
      found.add(new Point(p.triangles, usual.back(p.rms), usual.back(p.p95)));
    }
    return new DeviationCurve(risen(found), seconds);
  }

  private static double[] seeds(Mesh mesh, int pieces) {
    double[] out = new double[3 * pieces];
    for (int i = 0; i < pieces && !mesh.isEmpty(); i++) {
      int t = (int) ((i + 0.5) / pieces * mesh.triangleCount());
      System.arraycopy(Vec.at(mesh.xyz(), mesh.triangles()[3 * t]), 0, out, 3 * i, 3);
    }
    return out;
  }

  private static Mesh around(Mesh mesh, double[] seeds, double radius) {
    int chunks = Parallel.chunks(mesh.triangleCount(), GRAIN);
    BitSet[] parts = new BitSet[chunks];
    Parallel.chunked(
        mesh.triangleCount(),
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          BitSet set = new BitSet();
          for (int t = from; t < to; t++) {
            if (isNear(mesh.xyz(), mesh.triangles()[3 * t], seeds, radius)) {
              set.set(t);
            }
          }
          parts[c] = set;
        });
    BitSet all = new BitSet(mesh.triangleCount());
    for (BitSet p : parts) {
      all.or(p);
    }
    return Submesh.of(mesh, all, Work.unwatched());
  }

  private static boolean isNear(float[] xyz, int v, double[] seeds, double radius) {
    for (int i = 0; i < seeds.length; i += 3) {
      double x = xyz[3 * v] - seeds[i];
      double y = xyz[3 * v + 1] - seeds[i + 1];
      double z = xyz[3 * v + 2] - seeds[i + 2];
      if (x * x + y * y + z * z <= radius * radius) {
        return true;
      }
    }
    return false;
  }

  /** Those of the points that lie within a radius of the seeds. */
  private static float[] within(float[] points, double[] seeds, double radius) {
    float[] out = new float[points.length];
    int n = 0;
    for (int i = 0; i < points.length / 3; i++) {
      if (isNear(points, i, seeds, radius)) {
        System.arraycopy(points, 3 * i, out, n, 3);
        n += 3;
      }
    }
    return Arrays.copyOf(out, n);
  }

  private static Point measured(Mesh light, double triangles, float[] points) {
    SurfaceDistance off =
        SurfaceDistance.of(
            SurfaceDistance.distances(points, Bvh.of(light, Work.unwatched()), Work.unwatched()));
    return new Point(triangles, off.rms(), off.p95());
  }

  /** In order; fewer triangles are never nearer. */
  private static List<Point> risen(List<Point> found) {
    found.sort(Comparator.comparingDouble(Point::triangles).reversed());
    List<Point> out = new ArrayList<>();
    double rms = 0;
    double p95 = 0;
    for (Point p : found) {
      rms = Math.max(rms, p.rms);
      p95 = Math.max(p95, p.p95);
      out.add(new Point(p.triangles, rms, p95));
    }
    return out;
  }

  /**
   * What a number of triangles costs: null where nothing is known. Beyond the ends as the curve
   * goes there.
   */
  public Point at(double triangles) {
    int n = points.size();
    if (n < 2 || !(triangles > 0)) {
      return null;
    }
    int i = 1;
    while (i < n - 1 && points.get(i).triangles > triangles) {
      i++;
    }
    Point many = points.get(i - 1);
    Point few = points.get(i);
    if (triangles < few.triangles) {
      // As of a smooth surface, where what was measured rises faster still: that was the rims.
      double most = few.triangles / triangles;
      Point p = on(many, few, triangles);
      return new Point(triangles, Math.min(p.rms, most * few.rms), Math.min(p.p95, most * few.p95));
    }
    return on(many, few, triangles);
  }

  private static Point on(Point many, Point few, double triangles) {
    double s = Math.log(triangles / many.triangles) / Math.log(few.triangles / many.triangles);
    return new Point(triangles, between(many.rms, few.rms, s), between(many.p95, few.p95, s));
  }

  private static double between(double a, double b, double s) {
    return a > 0 && b > 0 ? a * Math.pow(b / a, s) : Math.max(0, a + s * (b - a));
  }
}
