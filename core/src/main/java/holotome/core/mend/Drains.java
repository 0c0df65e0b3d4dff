package holotome.core.mend;

import holotome.core.cut.KnifeSplit;
import holotome.core.cut.PrismKnife;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Holes through the wall of a hollow solid, by which what is inside runs out: each is cut along a
 * prism of {@link #SIDES} sides, and its two rims are joined by a tube.
 */
final class Drains {
  private static final int SIDES = 24;

  /** How far a prism reaches beyond the wall, of its radius, as surfaces are not flat. */
  private static final double BEYOND = 1.5;

  /** What is nearer than this to a prism's end, of its radius, lies on it. */
  private static final double SHORT = 1e-3;

  /** Further holes at the lowest places are so many diameters apart. */
  private static final double APART = 4;

  private final Frame frame;
  private final Mesh solid;
  private final Bvh outside;
  private final Mesh cavity;
  private final Bvh inside;
  private final double radius;
  private int made;

  /** A hole: where it begins on the outside, and the way through the wall, of length 1. */
  private record Drill(double[] from, double[] in, double wall) {}

  /**
   * @param solid the outer surface
   * @param cavity the inner surface, looking out of the cavity as a body of its own
   * @param radius in base units
   */
  Drains(Frame frame, Mesh solid, Bvh outside, Mesh cavity, double radius, Work work) {
    this.frame = frame;
    this.solid = solid;
    this.outside = outside;
    this.cavity = cavity;
    this.inside = Bvh.of(cavity, work);
    this.radius = radius;
  }

  /**
   * @param hollow outside and inside as one mesh
   * @param at where holes are wanted, 3 doubles each in working space; null for the lowest places
   * @param count how many there then are
   */
  Mesh cut(Mesh hollow, double[] at, int count, Work work) {
    List<Drill> drills = placed(at == null ? lowest(count) : at);
    made = drills.size();
    Mesh now = hollow;
    for (Drill d : drills) {
      now = cut(now, d, work.part(1.0 / drills.size(), CoreWords.of("work.cutting")));
    }
    return now;
  }

  /** How many holes were cut. */
  int made() {
    return made;
  }

  private Mesh cut(Mesh mesh, Drill d, Work work) {
    double beyond = BEYOND * radius;
    double[] foot = Vec.sub(d.from, Vec.mul(d.in, beyond));
    PrismKnife knife = new PrismKnife(foot, d.in, d.wall + 2 * beyond, radius, SIDES);
    Mesh open = KnifeSplit.of(mesh, knife, false, work.part(0.5, CoreWords.of("work.cutting")));
    Adjacency adjacency =
        Adjacency.of(open, work.part(0.3, CoreWords.of("work.finding-the-borders")));
    int[][] loops = Borders.of(adjacency).loops();
    boolean through = loops.length == 2;
    for (int[] loop : loops) {
      through &= loop.length >= SIDES && isBetween(open, loop, foot, d.in, d.wall + 2 * beyond);
    }
    if (!through) {
      double[] p = frame.toWork().apply(d.from);
      throw Failure.cannot(CoreWords.of("drains.not-through", p[0], p[1], p[2]));
    }
    return Patching.add(
        open,
        Bridge.between(open, loops[0], loops[1]),
        work.part(0.2, CoreWords.of("work.filling-holes")));
  }

  /** Whether a rim lies on the sides of the prism, and nowhere on its foot or its top. */
  private boolean isBetween(Mesh mesh, int[] loop, double[] foot, double[] up, double length) {
    for (int v : Borders.vertices(mesh, loop)) {
      double h = Vec.dot(Vec.sub(Vec.at(mesh.xyz(), v), foot), up);
      if (h < SHORT * radius || h > length - SHORT * radius) {
        return false;
      }
    }
    return true;
  }

  /** From the outside nearest to each place to the cavity nearest to that. */
  private List<Drill> placed(double[] at) {
    List<Drill> out = new ArrayList<>();
    BvhQuery o = new BvhQuery(outside);
    BvhQuery i = new BvhQuery(inside);
    for (int k = 0; k < at.length; k += 3) {
      double[] p = frame.toBase(Arrays.copyOfRange(at, k, k + 3));
      double[] from = nearest(o, solid, p);
      double[] to = nearest(i, cavity, from);
      double wall = Vec.distance(from, to);
      out.add(new Drill(from, Vec.mul(Vec.sub(to, from), 1 / wall), wall));
    }
    return out;
  }

  private static double[] nearest(BvhQuery q, Mesh mesh, double[] p) {
    q.closest((float) p[0], (float) p[1], (float) p[2], Float.POSITIVE_INFINITY);
    double[] out = new double[3];
    double[] weights = {1 - q.u - q.v, q.u, q.v};
    for (int k = 0; k < 3; k++) {
      double[] corner = Vec.at(mesh.xyz(), mesh.triangles()[3 * q.triangle + k]);
      out = Vec.add(out, Vec.mul(corner, weights[k]));
    }
    return out;
  }

  /** The lowest places of the cavity, 3 doubles each in working space, well apart. */
  private double[] lowest(int count) {
    double apart = 2 * APART * radius * frame.toWork().scale();
    List<double[]> taken = new ArrayList<>();
    double[] low = lowest(taken, apart);
    while (low != null && taken.size() < count) {
      taken.add(low);
      low = lowest(taken, apart);
    }
    return taken.stream().flatMapToDouble(Arrays::stream).toArray();
  }

  /** The lowest vertex of the cavity that is far enough from others, in working space. */
  private double[] lowest(List<double[]> others, double apart) {
    double[] best = null;
    for (int v = 0; v < cavity.vertexCount(); v++) {
      double[] p = frame.toWork().apply(Vec.at(cavity.xyz(), v));
      boolean lower = best == null || p[2] < best[2];
      if (lower && others.stream().noneMatch(q -> Math.hypot(q[0] - p[0], q[1] - p[1]) < apart)) {
        best = p;
      }
    }
    return best;
  }
}
