package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Outward;
import holotome.core.spatial.SelfIntersections;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.ShrinkingMode;
import net.jqwik.api.constraints.IntRange;

/** Mending on generated meshes, against counts by brute force. */
class MendPropertiesTest {
  private static final int TRIES = 200;

  /** Every run the same. */
  private static final String SEED = "20261129";

  private static Mesh apply(Step step, Mesh m) {
    return step.apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched()).work().scan();
  }

  private static Mesh onOneThread(Step step, Mesh m) {
    int before = Parallel.threads();
    Parallel.limitThreads(1);
    try {
      return apply(step, m);
    } finally {
      Parallel.limitThreads(before);
    }
  }

  private static void assertSame(Mesh a, Mesh b) {
    assertThat(a.xyz()).isEqualTo(b.xyz());
    assertThat(a.triangles()).isEqualTo(b.triangles());
  }

  /**
   * Triangles over points of a small grid: doubled points, needles, edges of many triangles and
   * triangles that lie in each other all come up.
   */
  @Provide
  static Arbitrary<Mesh> soups() {
    Arbitrary<float[]> points =
        Arbitraries.integers().between(0, 3).map(i -> (float) i).array(float[].class).ofSize(36);
    Arbitrary<int[]> corners =
        Arbitraries.integers().between(0, 11).array(int[].class).ofMinSize(3).ofMaxSize(60);
    return points.flatMap(
        p ->
            corners.map(
                c -> {
                  Mesh m = new Mesh(p, Arrays.copyOf(c, c.length / 3 * 3));
                  return Submesh.of(m, t -> hasThreeCorners(c, t), Work.unwatched());
                }));
  }

  private static boolean hasThreeCorners(int[] c, int t) {
    return c[3 * t] != c[3 * t + 1] && c[3 * t + 1] != c[3 * t + 2] && c[3 * t + 2] != c[3 * t];
  }

  /** Points anywhere in a small space, in rows and heaps, with a triangle for every three. */
  @Provide
  static Arbitrary<Mesh> clouds() {
    return Arbitraries.floats()
        .between(0, 1)
        .array(float[].class)
        .ofSize(180)
        .map(
            p -> {
              int[] corners = new int[60];
              Arrays.setAll(corners, i -> i);
              return new Mesh(p, corners);
            });
  }

  /** By the rule as it is written down: nearest pairs first, nobody farther than the distance. */
  private static int leftByBruteForce(Mesh m, double distance) {
    int n = m.vertexCount();
    List<double[]> pairs = new ArrayList<>();
    for (int a = 0; a < n; a++) {
      for (int b = a + 1; b < n; b++) {
        double d = Vec.distance(Vec.at(m.xyz(), a), Vec.at(m.xyz(), b));
        if (d <= distance) {
          pairs.add(new double[] {d, a, b});
        }
      }
    }
    pairs.sort(
        (x, y) ->
            x[0] != y[0]
                ? Double.compare(x[0], y[0])
                : x[1] != y[1] ? Double.compare(x[1], y[1]) : Double.compare(x[2], y[2]));
    int[] stays = new int[n];
    Arrays.setAll(stays, i -> i);
    for (double[] pair : pairs) {
      int low = Math.min(stays[(int) pair[1]], stays[(int) pair[2]]);
      int high = Math.max(stays[(int) pair[1]], stays[(int) pair[2]]);
      boolean may = low != high;
      for (int v = 0; v < n && may; v++) {
        may = stays[v] != high || Vec.distance(Vec.at(m.xyz(), v), Vec.at(m.xyz(), low)) <= pair[0];
      }
      for (int v = 0; v < n && may; v++) {
        stays[v] = stays[v] == high ? low : stays[v];
      }
    }
    return (int) Arrays.stream(stays).distinct().count();
  }

  @Property(tries = TRIES, seed = SEED, shrinking = ShrinkingMode.BOUNDED)
  void weldingLeavesAsManyPointsAsTheRuleSays(
      @ForAll("clouds") Mesh mesh, @ForAll @IntRange(min = 1, max = 12) int hundredths) {
    // Between the lengths that come up by themselves.
    double distance = hundredths / 100.0 + 0.00317;
    PointJoining joined = PointJoining.within(mesh, null, distance, Work.unwatched());
    if (joined == null) {
      return;
    }
    int left = 0;
    for (int v = 0; v < mesh.vertexCount(); v++) {
      int to = joined.find(v);
      left += to == v ? 1 : 0;
      assertThat(Vec.distance(Vec.at(mesh.xyz(), v), Vec.at(mesh.xyz(), to)))
          .isLessThanOrEqualTo(distance * (1 + 1e-6));
    }
    assertThat(left).isEqualTo(leftByBruteForce(mesh, distance));
  }

  @Property(tries = TRIES, seed = SEED, shrinking = ShrinkingMode.BOUNDED)
  void everythingBecomesManifoldAndNothingMoves(@ForAll("soups") Mesh soup) {
    Step step = new MakeManifold();
    Mesh out = apply(step, soup);
    assertThat(Naive.crowded(out)).isZero();
    assertThat(Naive.verticesWithSeveralFans(out)).isZero();
    for (int t = 0; t < out.triangleCount(); t++) {
      assertThat(spots(soup)).contains(spot(out, t));
    }
    assertSame(out, onOneThread(step, soup));
    assertSame(out, apply(step, out));
  }

  private static List<String> spots(Mesh m) {
    List<String> out = new ArrayList<>();
    for (int t = 0; t < m.triangleCount(); t++) {
      out.add(spot(m, t));
    }
    return out;
  }

  /** Where a triangle is, whichever corner it begins with and whichever way it faces. */
  private static String spot(Mesh m, int t) {
    String[] p = new String[3];
    for (int k = 0; k < 3; k++) {
      p[k] = Arrays.toString(Vec.at(m.xyz(), m.triangles()[3 * t + k]));
    }
    Arrays.sort(p);
    return String.join(" ", p);
  }

  @Property(tries = TRIES, seed = SEED, shrinking = ShrinkingMode.BOUNDED)
  void whateverIsTurnedOverFacesOutwardAgain(@ForAll("bits") BitSet turned, @ForAll boolean all) {
    Mesh sound = Shapes.together(Shapes.sphere(1, 1), Shapes.moved(Shapes.cube(1), 3, 0, 0));
    BitSet some = turned.get(0, sound.triangleCount());
    if (all) {
      some.flip(0, sound.triangleCount());
    }
    Mesh wrong = Outward.turned(sound, some, Work.unwatched());
    Mesh out = apply(new OrientOut(), wrong);
    assertThat(Naive.closedAndOriented(out)).isTrue();
    assertThat(Measures.volume(out)).isCloseTo(Measures.volume(sound), within(1e-6));
    assertThat(out.xyz()).isEqualTo(wrong.xyz());
  }

  @Provide
  static Arbitrary<BitSet> bits() {
    return Arbitraries.integers()
        .between(0, 200)
        .set()
        .ofMaxSize(90)
        .map(
            s -> {
              BitSet out = new BitSet();
              s.forEach(out::set);
              return out;
            });
  }

  /** Rings in each other's way or not: each has one handle, as thick as is said. */
  @Property(tries = 30, seed = SEED)
  void onlyHandlesThinnerThanAskedAreCut(
      @ForAll @IntRange(min = 1, max = 4) int thin, @ForAll @IntRange(max = 3) int thick) {
    Mesh[] rings = new Mesh[thin + thick];
    for (int i = 0; i < rings.length; i++) {
      rings[i] = Shapes.moved(Shapes.torus(1, i < thin ? 0.05 : 0.3, 60, 12), 4 * i, 0, 0);
    }
    Mesh all = Shapes.together(rings);
    Mesh out = apply(new CutHandles(new Length(0.6)), all);
    assertThat(Naive.closedAndOriented(out)).isTrue();
    // Euler: as many islands, each with a handle less.
    assertThat(euler(all)).isZero();
    assertThat(euler(out)).isEqualTo(2L * thin);
  }

  private static long euler(Mesh m) {
    Mesh used = Submesh.used(m);
    return used.vertexCount() - Naive.edges(used).size() + used.triangleCount();
  }

  /** Whether all at once or half of them after the others: the same triangles cross. */
  @Property(tries = TRIES, seed = SEED, shrinking = ShrinkingMode.BOUNDED)
  void crossingsAreTheSameHoweverTheyAreLookedFor(@ForAll("soups") Mesh soup) {
    boolean[] flat = Measures.withoutArea(soup);
    Mesh mesh = Submesh.of(soup, t -> !flat[t], Work.unwatched());
    int[] first = PointWeld.representatives(mesh.xyz(), Work.unwatched());
    SelfIntersections whole = SelfIntersections.of(mesh, first, Work.unwatched());
    BitSet later = new BitSet();
    later.set(mesh.triangleCount() / 2, Math.max(1, mesh.triangleCount()));
    Mesh early = Submesh.of(mesh, t -> !later.get(t), Work.unwatched());
    int[] earlySpots = PointWeld.representatives(early.xyz(), Work.unwatched());
    SelfIntersections before = SelfIntersections.of(early, earlySpots, Work.unwatched());
    later.clear(mesh.triangleCount(), later.length());
    SelfIntersections after =
        SelfIntersections.after(before, t -> t, later, mesh, Work.unwatched());
    assertThat(after.count()).isEqualTo(whole.count());
    assertThat(after.triangles()).isEqualTo(whole.triangles());
  }
}
