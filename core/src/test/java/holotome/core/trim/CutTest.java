package holotome.core.trim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Fence;
import holotome.core.select.Region;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Islands;
import holotome.core.unit.Length;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Cuts along planes, boxes and fences, against closed formulas. */
class CutTest {
  private static final double[] FLAT_ON = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};

  private static Mesh apply(Step step, Mesh m) {
    Mesh out = step.apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched()).work().scan();
    Naive.assertSound(out);
    return out;
  }

  private static int borders(Mesh m) {
    return Borders.of(Adjacency.of(m)).loops().length;
  }

  private static long euler(Mesh m) {
    return m.vertexCount() - Naive.edges(m).size() + m.triangleCount();
  }

  /** The area of triangles that lie in a plane. */
  private static double areaIn(Mesh m, double[] point, double[] normal) {
    double area = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      boolean in = true;
      for (int k = 0; k < 3; k++) {
        double[] p = Vec.at(m.xyz(), m.triangles()[3 * t + k]);
        in &= Math.abs(Vec.dot(Vec.sub(p, point), normal)) < 1e-5;
      }
      area += in ? Vec.length(Measures.cross(m, t)) / 2 : 0;
    }
    return area;
  }

  /** A sphere cut at height h: the cap is a disc of area pi (1 - h^2); closed, Euler 2. */
  @ParameterizedTest
  @EnumSource(
      value = PlaneCut.Close.class,
      names = {"FLAT", "EVEN"})
  void capsOfASphere(PlaneCut.Close close) {
    for (double h : new double[] {-0.7, -0.2, 0, 0.41}) {
      double[] n = Vec.unit(Vec.of(0.3, -0.2, 1));
      double[] p = Vec.mul(n, h);
      Mesh m = apply(new PlaneCut(p, n, close), Shapes.sphere(1, 5));
      assertThat(Naive.closedAndOriented(m)).isTrue();
      assertThat(euler(m)).isEqualTo(2);
      assertThat(areaIn(m, p, n)).isCloseTo(Math.PI * (1 - h * h), within(0.01));
      assertThat(Measures.volume(m))
          .isCloseTo(Math.PI * (1 - h) * (1 - h) * (2 + h) / 3, within(0.006));
    }
  }

  /**
   * A torus cut across its axis at height h: a ring of outer radius R + s and inner R - s with s =
   * sqrt(r^2 - h^2). Through its axis: two discs.
   */
  @ParameterizedTest
  @EnumSource(
      value = PlaneCut.Close.class,
      names = {"FLAT", "EVEN"})
  void capsOfATorusAreRingsOrDiscs(PlaneCut.Close close) {
    Mesh torus = Shapes.torus(2, 0.7, 240, 120);
    double h = 0.3;
    double s = Math.sqrt(0.49 - h * h);
    double[] up = {0, 0, 1};
    Mesh ring = apply(new PlaneCut(Vec.mul(up, h), up, close), torus);
    assertThat(areaIn(ring, Vec.mul(up, h), up)).isCloseTo(Math.PI * 8 * s, within(0.05));
    assertThat(Naive.closedAndOriented(ring)).isTrue();
    assertThat(euler(ring)).isZero();
    double[] x = {1, 0, 0};
    Mesh half = apply(new PlaneCut(new double[3], x, close), torus);
    assertThat(areaIn(half, new double[3], x)).isCloseTo(2 * Math.PI * 0.49, within(0.02));
    assertThat(Measures.volume(half)).isCloseTo(Math.PI * Math.PI * 0.49 * 2, within(0.05));
    assertThat(Naive.closedAndOriented(half)).isTrue();
    assertThat(euler(half)).isEqualTo(2);
  }

  /** A hollow shell is closed by a ring; its volume is that between two spheres, halved. */
  @ParameterizedTest
  @EnumSource(
      value = PlaneCut.Close.class,
      names = {"FLAT", "EVEN"})
  void aHollowShellIsClosedByARing(PlaneCut.Close close) {
    Mesh inner = Shapes.sphere(0.6, 5);
    int[] turned = inner.triangles().clone();
    for (int t = 0; t < turned.length; t += 3) {
      int swap = turned[t];
      turned[t] = turned[t + 1];
      turned[t + 1] = swap;
    }
    Mesh shell = Shapes.together(Shapes.sphere(1, 5), new Mesh(inner.xyz(), turned));
    double[] n = Vec.unit(Vec.of(0.1, 0.2, 0.9));
    Mesh m = apply(new PlaneCut(new double[3], n, close), shell);
    assertThat(Naive.closedAndOriented(m)).isTrue();
    assertThat(Measures.volume(m)).isCloseTo(2.0 / 3 * Math.PI * (1 - 0.216), within(0.01));
    assertThat(areaIn(m, new double[3], n)).isCloseTo(Math.PI * (1 - 0.36), within(0.01));
  }

  /** Planes through vertices, along edges, in faces, and just touching. */
  @Test
  void aCubeCutWhereItIsAwkward() {
    Mesh cube = Shapes.moved(Shapes.cube(1), 0.5, 0.5, 0.5);
    for (PlaneCut.Close close : new PlaneCut.Close[] {PlaneCut.Close.FLAT, PlaneCut.Close.EVEN}) {
      // Along two opposite edges: a prism of half the volume.
      double[] diagonal = Vec.unit(Vec.of(1, -1, 0));
      Mesh prism = apply(new PlaneCut(new double[3], diagonal, close), cube);
      assertThat(Measures.volume(prism)).isCloseTo(0.5, within(1e-6));
      assertThat(Naive.closedAndOriented(prism)).isTrue();
      assertThat(euler(prism)).isEqualTo(2);
      // Through three corners: a corner of a sixth goes.
      double[] corner = Vec.unit(Vec.of(1, 1, 1));
      Mesh rest = apply(new PlaneCut(Vec.of(1, 0, 0), corner, close), cube);
      assertThat(Measures.volume(rest)).isCloseTo(5.0 / 6, within(1e-6));
      assertThat(Naive.closedAndOriented(rest)).isTrue();
      // In a face: what lies before it is the whole cube.
      Mesh whole = apply(new PlaneCut(new double[3], Vec.of(0, 0, 1), close), cube);
      assertThat(Measures.volume(whole)).isCloseTo(1, within(1e-6));
      assertThat(Naive.closedAndOriented(whole)).isTrue();
      // Just touching an edge: nothing goes.
      Mesh touched = apply(new PlaneCut(new double[3], Vec.unit(Vec.of(1, 1, 0)), close), cube);
      assertThat(Measures.volume(touched)).isCloseTo(1, within(1e-6));
    }
    assertThatThrownBy(
            () -> apply(new PlaneCut(Vec.of(0, 0, 1), Vec.of(0, 0, 1), PlaneCut.Close.OPEN), cube))
        .isInstanceOf(Failure.class);
  }

  @Test
  void bothSidesAreKeptAsPieces() {
    Mesh m = Shapes.coloured(Shapes.sphere(1, 5));
    double[] n = Vec.unit(Vec.of(1, 0.5, 0.2));
    Mesh parted =
        apply(new PlaneCut(Vec.mul(n, 0.2), n, PlaneCut.Close.FLAT, PlaneCut.Keep.BOTH), m);
    assertThat(Naive.closedAndOriented(parted)).isTrue();
    assertThat(Islands.of(parted).count()).isEqualTo(2);
    assertThat(Measures.volume(parted)).isCloseTo(Measures.volume(m), within(1e-5));
    assertThat(parted.colours()).hasSize(parted.vertexCount());
  }

  /** An even cap's triangles are about as large as those of the sphere, and none is a sliver. */
  @Test
  void anEvenCapMatchesItsSurroundings() {
    Mesh sphere = Shapes.coloured(Shapes.sphere(1, 5));
    double[] n = {0, 0, 1};
    Mesh m = apply(new PlaneCut(new double[] {0, 0, 0.1}, n, PlaneCut.Close.EVEN), sphere);
    double mean = Measures.area(sphere) / sphere.triangleCount();
    int on = 0;
    int fair = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      double[] c = Measures.cross(m, t);
      double area = Vec.length(c) / 2;
      if (area > 0 && c[2] / (2 * area) < -0.9999) {
        on++;
        double longest = 0;
        for (int k = 0; k < 3; k++) {
          longest =
              Math.max(
                  longest,
                  Vec.distance(
                      Vec.at(m.xyz(), m.triangles()[3 * t + k]),
                      Vec.at(m.xyz(), m.triangles()[3 * t + (k + 1) % 3])));
        }
        fair += area > 0.2 * mean && area < 5 * mean && longest * longest < 8 * area ? 1 : 0;
      }
    }
    assertThat(on).isBetween((int) (Math.PI / mean / 3), (int) (Math.PI / mean * 3));
    assertThat((double) fair / on).isGreaterThan(0.8);
  }

  /** A box inside a sphere, closed: the box itself, its edges straight. */
  @ParameterizedTest
  @EnumSource(
      value = PlaneCut.Close.class,
      names = {"FLAT", "EVEN"})
  void aBoxOutOfASphereIsTheBox(PlaneCut.Close close) {
    Region box =
        new Region(
            new double[] {0.1, 0, 0}, new double[] {0.8, 0.6, 0.9}, new double[] {10, 25, 70});
    Mesh m =
        apply(
            new CutBox(box, CutFence.Keep.INSIDE, close),
            Shapes.together(Shapes.sphere(1, 5), Shapes.moved(Shapes.sphere(0.1, 2), 0.1, 0, 0)));
    assertThat(Naive.closedAndOriented(m)).isTrue();
    // The small ball lies wholly within and is kept as it is.
    double ball = Measures.volume(Shapes.sphere(0.1, 2));
    assertThat(Measures.volume(m)).isCloseTo(0.8 * 0.6 * 0.9 + ball, within(1e-5));
  }

  /** A slab between two planes of a box that is wider than the sphere otherwise. */
  @Test
  void aBoxCutsASlabOutOfASphere() {
    Region slab = new Region(new double[3], new double[] {4, 4, 0.6}, new double[] {0, 0, 33});
    Mesh sphere = Shapes.sphere(1, 6);
    // Between -0.3 and 0.3: pi (2 * 0.3 - 2 * 0.027 / 3).
    double v = Math.PI * (0.6 - 0.018);
    for (PlaneCut.Close close : new PlaneCut.Close[] {PlaneCut.Close.FLAT, PlaneCut.Close.EVEN}) {
      Mesh in = apply(new CutBox(slab, CutFence.Keep.INSIDE, close), sphere);
      assertThat(Measures.volume(in)).isCloseTo(v, within(0.003));
      assertThat(Naive.closedAndOriented(in)).isTrue();
    }
    Mesh open = apply(new CutBox(slab, CutFence.Keep.INSIDE, PlaneCut.Close.OPEN), sphere);
    Mesh out = apply(new CutBox(slab, CutFence.Keep.OUTSIDE, PlaneCut.Close.OPEN), sphere);
    assertThat(borders(open)).isEqualTo(2);
    assertThat(borders(out)).isEqualTo(2);
    assertThat(Islands.of(out).count()).isEqualTo(2);
    assertThat(Measures.area(open) + Measures.area(out))
        .isCloseTo(Measures.area(sphere), within(1e-5));
    // Archimedes: the zone's area.
    assertThat(Measures.area(open)).isCloseTo(2 * Math.PI * 0.6, within(0.005));
  }

  @Test
  void aBoxTakesABiteAlongItsFaces() {
    Region box =
        new Region(new double[] {5, 5, 0}, new double[] {3.3, 2.1, 1}, new double[] {0, 0, 27});
    Mesh sheet = Shapes.sheet(10, 23);
    Mesh out = apply(new CutBox(box, CutFence.Keep.OUTSIDE, PlaneCut.Close.OPEN), sheet);
    Mesh in = apply(new CutBox(box, CutFence.Keep.INSIDE, PlaneCut.Close.OPEN), sheet);
    assertThat(Measures.area(out)).isCloseTo(100 - 3.3 * 2.1, within(1e-4));
    assertThat(Measures.area(in)).isCloseTo(3.3 * 2.1, within(1e-4));
    assertThat(borders(out)).isEqualTo(2);
    assertThat(borders(in)).isEqualTo(1);
    assertThat(Islands.of(out).count()).isEqualTo(1);
  }

  private static double[] star(int corners, double inner, double outer, double x, double y) {
    double[] o = new double[2 * corners];
    for (int i = 0; i < corners; i++) {
      double r = i % 2 == 0 ? outer : inner;
      double a = 2 * Math.PI * i / corners + 0.1;
      o[2 * i] = x + r * Math.cos(a);
      o[2 * i + 1] = y + r * Math.sin(a);
    }
    return o;
  }

  private static double shoelace(double[] o) {
    double s = 0;
    for (int i = 0; i < o.length; i += 2) {
      int j = (i + 2) % o.length;
      s += o[i] * o[j + 1] - o[j] * o[i + 1];
    }
    return Math.abs(s) / 2;
  }

  /** Fences through flat sheets, coarse and fine: the area within is the outline's own. */
  @Test
  void aFenceCutsItsOwnAreaOutOfASheet() {
    for (int n : new int[] {1, 3, 10, 57, 200}) {
      for (int corners : new int[] {6, 20, 240}) {
        double[] star = star(corners, 1.7, 3.9, 4.9, 5.2);
        Mesh sheet = Shapes.sheet(10, n);
        Fence fence = new Fence(FLAT_ON, star);
        Mesh in = apply(new CutFence(fence, CutFence.Keep.INSIDE), sheet);
        Mesh out = apply(new CutFence(fence, CutFence.Keep.OUTSIDE), sheet);
        String as = n + " cells, " + corners + " corners";
        assertThat(Measures.area(in)).as(as).isCloseTo(shoelace(star), within(2e-4));
        assertThat(Measures.area(out)).as(as).isCloseTo(100 - shoelace(star), within(2e-4));
        assertThat(borders(in)).as(as).isEqualTo(1);
        assertThat(borders(out)).as(as).isEqualTo(2);
        assertThat(Islands.of(in).count()).as(as).isEqualTo(1);
        assertThat(Islands.of(out).count()).as(as).isEqualTo(1);
      }
    }
  }

  /** The border that a fence leaves lies on the outline, seen as it was drawn. */
  @Test
  void aFenceIsCleanAlongItsLineInPerspective() {
    // The eye at (0, 0, 4), looking down: seen at (x, y) / (4 - z).
    double[] view = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, -1, 4};
    double[] star = star(40, 0.12, 0.2, 0.02, -0.01);
    Mesh sphere = Shapes.coloured(Shapes.sphere(1, 5));
    Mesh out = apply(new CutFence(new Fence(view, star), CutFence.Keep.OUTSIDE), sphere);
    Mesh in = apply(new CutFence(new Fence(view, star), CutFence.Keep.INSIDE), sphere);
    assertThat(borders(out)).isEqualTo(2);
    assertThat(borders(in)).isEqualTo(2);
    assertThat(Islands.of(in).count()).isEqualTo(2);
    assertThat(Measures.area(in) + Measures.area(out))
        .isCloseTo(Measures.area(sphere), within(1e-4));
    assertThat(in.colours()).hasSize(in.vertexCount());
    for (int[] loop : Borders.of(Adjacency.of(out)).loops()) {
      for (int v : Borders.vertices(out, loop)) {
        double[] p = Vec.at(out.xyz(), v);
        double x = p[0] / (4 - p[2]);
        double y = p[1] / (4 - p[2]);
        double d = Double.MAX_VALUE;
        for (int i = 0; i < star.length; i += 2) {
          int j = (i + 2) % star.length;
          d =
              Math.min(
                  d,
                  java.awt.geom.Line2D.ptSegDist(star[i], star[i + 1], star[j], star[j + 1], x, y));
        }
        assertThat(d).isLessThan(1e-6);
      }
    }
  }

  /** An outline that crosses itself: by the even-odd rule, as it is filled on the view. */
  @Test
  void aFenceThatCrossesItselfCutsByEvenAndOdd() {
    double[] bow = {1, 1, 9, 9, 9, 1, 1, 9};
    Mesh in =
        apply(new CutFence(new Fence(FLAT_ON, bow), CutFence.Keep.INSIDE), Shapes.sheet(10, 17));
    assertThat(Measures.area(in)).isCloseTo(32, within(1e-3));
  }

  @Test
  void fencesThroughRandomTrianglesLoseNoArea() {
    Random r = new Random(31);
    for (int round = 0; round < 25; round++) {
      Mesh m = Shapes.coloured(Shapes.mess(400, round));
      double[] o = new double[2 * (3 + r.nextInt(30))];
      for (int i = 0; i < o.length; i++) {
        o[i] = r.nextGaussian() * 0.6;
      }
      Fence f = new Fence(FLAT_ON, o);
      try {
        double in = Measures.area(apply(new CutFence(f, CutFence.Keep.INSIDE), m));
        double out = Measures.area(apply(new CutFence(f, CutFence.Keep.OUTSIDE), m));
        assertThat(in + out).isCloseTo(Measures.area(m), within(1e-3 * Measures.area(m)));
      } catch (Failure e) {
        assertThat(e).hasMessageContaining("Nothing would be left");
      }
    }
  }

  @Test
  void cutsAreTheSameOnOneThreadAndMany() {
    Mesh m = Shapes.coloured(Shapes.mess(3_000, 9));
    Step[] steps = {
      new CutFence(new Fence(FLAT_ON, star(60, 0.2, 0.7, 0.3, 0.4)), CutFence.Keep.OUTSIDE),
      new CutBox(
          new Region(
              new double[] {0.4, 0.5, 0.5}, new double[] {0.5, 0.4, 0.6}, new double[] {9, 8, 7}),
          CutFence.Keep.OUTSIDE,
          PlaneCut.Close.OPEN),
      new PlaneCut(Vec.of(0.5, 0.5, 0.5), Vec.of(1, 2, 3), PlaneCut.Close.EVEN, PlaneCut.Keep.BOTH)
    };
    for (Step step : steps) {
      Mesh many = apply(step, m);
      Parallel.limitThreads(1);
      try {
        assertThat(apply(step, m).sameAs(many)).as("%s", step).isTrue();
      } finally {
        Parallel.limitThreads(64);
      }
    }
  }

  /**
   * A column on ground that runs up and down by more than the margin: cut straight, either ground
   * stays or the foot goes; along the ground, the seam follows it all around.
   */
  @Test
  void theCutFollowsUnevenGround() {
    Mesh flat = Shapes.moved(Shapes.sheet(6, 150), -3, -3, 0);
    float[] p = flat.xyz().clone();
    for (int v = 0; v < flat.vertexCount(); v++) {
      p[3 * v + 2] = (float) (0.03 * Math.sin(1.5 * p[3 * v]));
    }
    Mesh ground = new Mesh(p, flat.triangles());
    Mesh column = Shapes.torus(0.7, 0.3, 120, 60);
    float[] q = column.xyz().clone();
    for (int v = 0; v < column.vertexCount(); v++) {
      q[3 * v + 2] += 0.2f;
    }
    Mesh both = Shapes.together(ground, column.withPositions(q));
    Mesh out =
        apply(
            new CutGround(new Length(0.01), CutGround.Along.GROUND, PlaneCut.Close.OPEN, 1), both);
    assertThat(borders(out)).isEqualTo(2);
    for (int[] loop : Borders.of(Adjacency.of(out)).loops()) {
      for (int v : Borders.vertices(out, loop)) {
        double[] c = Vec.at(out.xyz(), v);
        assertThat(c[2] - 0.03 * Math.sin(1.5 * c[0])).isCloseTo(0.01, within(0.008));
      }
    }
  }

  @Test
  void anotherCandidateMayBeTheGround() {
    Mesh ground = Shapes.moved(Shapes.sheet(6, 30), -3, -3, 0);
    Mesh ball = Shapes.moved(Shapes.sphere(1, 4), 0, 0, 0.5);
    Mesh both = Shapes.together(ground, ball);
    assertThatThrownBy(
            () ->
                apply(
                    new CutGround(new Length(0.05), CutGround.Along.PLANE, PlaneCut.Close.OPEN, 4),
                    both))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("flat part");
  }
}
