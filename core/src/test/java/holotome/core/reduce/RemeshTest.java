package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Material;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.LongLines;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class RemeshTest {
  private static Mesh made(Mesh in, Remesh step) {
    Mesh out = step.apply(Workpiece.of(in, Frame.PLAIN), Run.unwatched()).work().cast();
    Naive.assertSound(out);
    return out;
  }

  private static Remesh to(int triangles) {
    return new Remesh(triangles, null, null, Remesh.Sizes.EVEN, 60, Role.CAST);
  }

  private static long euler(Mesh m) {
    return m.vertexCount() - Adjacency.of(m).edgeCount() + m.triangleCount();
  }

  /** The smallest angle of each triangle in degrees, in rising order. */
  private static double[] smallestAngles(Mesh m) {
    double[] out = new double[m.triangleCount()];
    for (int t = 0; t < out.length; t++) {
      double[] side = new double[3];
      for (int k = 0; k < 3; k++) {
        side[k] = length(m, m.triangles()[3 * t + k], m.triangles()[3 * t + (k + 1) % 3]);
      }
      Arrays.sort(side);
      // The law of cosines, across from the shortest side.
      double c =
          (side[1] * side[1] + side[2] * side[2] - side[0] * side[0]) / (2 * side[1] * side[2]);
      out[t] = Math.toDegrees(Math.acos(Math.clamp(c, -1.0, 1.0)));
    }
    Arrays.sort(out);
    return out;
  }

  private static double length(Mesh m, int a, int b) {
    float[] p = m.xyz();
    return Math.hypot(
        Math.hypot(p[3 * a] - p[3 * b], p[3 * a + 1] - p[3 * b + 1]), p[3 * a + 2] - p[3 * b + 2]);
  }

  /** Fewer and more triangles than there are: all even, on the ring, which keeps its hole. */
  @ParameterizedTest
  @ValueSource(ints = {1500, 6000, 60_000})
  void aRingOfEvenTriangles(int triangles) {
    Mesh ring = Shapes.torus(3, 1, 200, 50);
    Mesh even = made(ring, to(triangles));
    assertThat(even.triangleCount()).isCloseTo(triangles, within(triangles / 8));
    assertThat(Naive.closedAndOriented(even)).isTrue();
    assertThat(euler(even)).isZero();
    double[] angles = smallestAngles(even);
    assertThat(angles[angles.length / 2]).isGreaterThan(51);
    assertThat(angles[angles.length / 100]).isGreaterThan(30);
    // A ring's volume and area in closed form; the mesh there was is 0.3 % short of it.
    assertThat(Measures.volume(even)).isCloseTo(Measures.volume(ring), within(0.25));
    assertThat(SurfaceDistance.of(even, ring, 4000, Work.unwatched()).max())
        .isLessThan(triangles < 2000 ? 0.04 : 0.015);
  }

  /** Side lengths as asked for: within what is cut above and collapsed below. */
  @Test
  void sidesAreAsLongAsAsked() {
    Mesh ball = Shapes.sphere(1, 6);
    Remesh step = new Remesh(null, new Length(0.06), null, Remesh.Sizes.EVEN, 60, Role.CAST);
    Mesh even = made(ball, step);
    int out = 0;
    double sum = 0;
    for (int h = 0; h < even.triangles().length; h++) {
      double l = length(even, even.triangles()[h], even.triangles()[Adjacency.next(h)]);
      sum += l;
      out += l < 0.06 * 0.7 || l > 0.06 * 1.4 ? 1 : 0;
    }
    assertThat(sum / even.triangles().length).isCloseTo(0.06, within(0.004));
    assertThat(out).isLessThan(even.triangles().length / 100);
  }

  /** A cube's edges stay lines: what is made is the same body, to the last bit of its volume. */
  @Test
  void sharpEdgesStay() {
    Mesh cube = Shapes.cube(2);
    Mesh even = made(cube, to(3000));
    assertThat(even.triangleCount()).isBetween(2400, 3600);
    assertThat(Measures.volume(even)).isCloseTo(8, within(1e-5));
    assertThat(Measures.area(even)).isCloseTo(24, within(1e-4));
    // Most triangles lie off the edges and are even.
    double[] angles = smallestAngles(even);
    assertThat(angles[angles.length / 2]).isGreaterThan(45);
  }

  @Test
  void bordersStay() {
    Mesh sheet = Shapes.sheet(10, 60);
    Mesh even = made(sheet, to(1000));
    assertThat(even.triangleCount()).isBetween(800, 1250);
    assertThat(Measures.area(even)).isCloseTo(100, within(1e-3));
    assertThat(Naive.islands(even)).isEqualTo(1);
    assertThat(euler(even)).isEqualTo(1);
  }

  /** A sheet of two materials that meet along a line: they still do. */
  @Test
  void bordersOfMaterialsStay() {
    Mesh sheet = Shapes.sheet(10, 40);
    short[] of = new short[sheet.triangleCount()];
    float[] p = sheet.xyz();
    double left = 0;
    for (int t = 0; t < of.length; t++) {
      float x = 0;
      for (int k = 0; k < 3; k++) {
        x += p[3 * sheet.triangles()[3 * t + k]] / 3;
      }
      of[t] = (short) (x < p[0] + 4 ? 0 : 1);
      left += of[t] == 0 ? 10.0 * 10 / of.length : 0;
    }
    Mesh two =
        sheet.withMaterials(
            of, List.of(new Material("a", 0xff112233, null), new Material("b", 0xff445566, null)));
    Mesh even = made(two, to(700));
    double area = 0;
    double[] cross = new double[3];
    for (int t = 0; t < even.triangleCount(); t++) {
      Measures.cross(even.xyz(), even.triangles(), t, cross);
      area += even.material()[t] == 0 ? Math.abs(cross[2]) / 2 : 0;
    }
    assertThat(area).isCloseTo(left, within(0.02));
  }

  @Test
  void coloursAreThoseAround() {
    Mesh ball = Shapes.coloured(Shapes.sphere(1, 5));
    Mesh even = made(ball, to(2000));
    int[] want = Shapes.coloured(even).colours();
    for (int v = 0; v < even.vertexCount(); v++) {
      for (int shift = 0; shift < 24; shift += 8) {
        assertThat(even.colours()[v] >> shift & 255).isCloseTo(want[v] >> shift & 255, within(12));
      }
    }
  }

  /** The inside of a ring is more curved around, its outside less: edges follow. */
  @Test
  void trianglesAreSmallerWhereTheSurfaceIsMoreCurved() {
    Mesh ring = Shapes.torus(6, 1, 300, 60);
    Mesh ball = Shapes.moved(Shapes.sphere(4, 6), 20, 0, 0);
    Mesh both = Shapes.together(ring, ball);
    Remesh step = new Remesh(4000, null, null, Remesh.Sizes.CURVATURE, 60, Role.CAST);
    Mesh even = made(both, step);
    assertThat(even.triangleCount()).isCloseTo(4000, within(500));
    int onBall = 0;
    for (int t = 0; t < even.triangleCount(); t++) {
      onBall += even.xyz()[3 * even.triangles()[3 * t]] > 12 ? 1 : 0;
    }
    // Triangles go with curvature (l^2 = 6 e / k): per area four times as many on the ring, whose
    // area is 237 to the ball's 201.
    assertThat((double) onBall / even.triangleCount()).isBetween(0.12, 0.28);
  }

  /** The tolerance against distances taken otherwise: many points, each to all triangles. */
  @ParameterizedTest
  @ValueSource(doubles = {0.02, 0.008})
  void aToleranceIsKept(double tolerance) {
    Mesh ring = Shapes.torus(3, 1, 120, 40);
    Remesh step = new Remesh(null, null, new Length(tolerance), Remesh.Sizes.EVEN, 60, Role.CAST);
    Mesh even = made(ring, step);
    assertThat(even.triangleCount()).isLessThan(ring.triangleCount());
    for (Mesh[] way : new Mesh[][] {{even, ring}, {ring, even}}) {
      float[] points = SurfaceDistance.sample(way[0], 500);
      for (int i = 0; i < points.length; i += 3) {
        double[] q = {points[i], points[i + 1], points[i + 2]};
        assertThat(Naive.distance(q, way[1])).isLessThanOrEqualTo(tolerance);
      }
    }
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh ring = Shapes.torus(3, 1, 400, 100);
    Mesh many = made(ring, to(20_000));
    Parallel.limitThreads(1);
    try {
      assertThat(made(ring, to(20_000)).sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(64);
    }
  }

  /** Crossing, torn, crowded: what is sound of it stays so, and nothing is lost on the way. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void aMessIsNoHarm(long seed) {
    Mesh mess = Shapes.mess(400, seed);
    Mesh tidy = Tidy.tidy(mess, new ArrayList<>(), Work.unwatched());
    for (Mesh m : List.of(mess, tidy)) {
      Mesh even = to(300).apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched()).work().cast();
      assertThat(even.triangleCount()).isPositive();
      for (float x : even.xyz()) {
        assertThat(Float.isFinite(x)).isTrue();
      }
    }
    assertThat(Naive.crowded(made(tidy, to(300)))).isZero();
  }

  @Test
  void roughnessIsNotTakenForCurvature() {
    Random r = new Random(5);
    Mesh ball = Shapes.sphere(1, 6);
    float[] p = ball.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] += (float) (0.001 * r.nextGaussian());
    }
    Mesh even =
        made(
            ball.withPositions(p),
            new Remesh(1000, null, null, Remesh.Sizes.CURVATURE, 60, Role.CAST));
    double[] lengths = new double[even.triangles().length];
    for (int h = 0; h < lengths.length; h++) {
      lengths[h] = length(even, even.triangles()[h], even.triangles()[Adjacency.next(h)]);
    }
    Arrays.sort(lengths);
    assertThat(lengths[lengths.length * 9 / 10] / lengths[lengths.length / 10]).isLessThan(2.2);
  }

  /** A sharp crumb on a large sheet is no line to large triangles; the sheet's fold is one. */
  @Test
  void linesThatAreSmallerThanTheTrianglesAreNotHeld() {
    Mesh both = Shapes.together(Shapes.cube(1), Shapes.moved(Shapes.cube(20), 40, 0, 0));
    byte[] lines = Wedges.of(both, false, false, 0.5, Work.unwatched()).lines();
    byte[] seen = LongLines.of(both, lines, 3);
    assertThat(seen).hasSameSizeAs(lines);
    for (int t = 0; t < 24; t++) {
      assertThat(lines[t]).isNotZero();
      assertThat(seen[t]).isEqualTo(t < 12 ? 0 : lines[t]);
    }
    assertThat(LongLines.of(both, null, 3)).isNull();
  }

  /** Vast and tiny meshes come out as usual ones do: squares neither overflow nor vanish. */
  @ParameterizedTest
  @ValueSource(ints = {100, -100})
  void vastAndTinyMeshesAreMadeAsUsualOnes(int power) {
    Mesh ring = Shapes.torus(3, 1, 100, 40);
    float[] p = ring.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] = Math.scalb(p[i], power);
    }
    Mesh other = ring.withPositions(p);
    double unit = Math.scalb(1.0, power);
    Remesh curved = new Remesh(2000, null, null, Remesh.Sizes.CURVATURE, 60, Role.CAST);
    assertThat(made(other, curved).triangleCount())
        .isCloseTo(made(ring, curved).triangleCount(), within(60));
    Remesh near = new Remesh(null, null, new Length(0.02 * unit), Remesh.Sizes.EVEN, 60, Role.CAST);
    Mesh even = made(other, near);
    assertThat(even.triangleCount()).isBetween(500, ring.triangleCount() - 1);
    float[] back = even.xyz().clone();
    for (int i = 0; i < back.length; i++) {
      back[i] = Math.scalb(back[i], -power);
    }
    Mesh usual = even.withPositions(back);
    float[] points = SurfaceDistance.sample(ring, 300);
    for (int i = 0; i < points.length; i += 3) {
      double[] q = {points[i], points[i + 1], points[i + 2]};
      assertThat(Naive.distance(q, usual)).isLessThanOrEqualTo(0.02);
    }
  }

  @Test
  void whatHasNoAreaStaysAsItIs() {
    Mesh line = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2});
    for (Remesh step :
        List.of(
            to(50), new Remesh(null, null, new Length(0.01), Remesh.Sizes.EVEN, 60, Role.CAST))) {
      Mesh out = step.apply(Workpiece.of(line, Frame.PLAIN), Run.unwatched()).work().cast();
      assertThat(out.triangles()).isEqualTo(line.triangles());
    }
  }

  /** As long as it is thin: the length that its area asks for would cut it into millions. */
  @Test
  void needlesAreNotCutToDust() {
    float[] p = new float[9 * 3];
    int[] tri = new int[3 * 3];
    for (int t = 0; t < 3; t++) {
      tri[3 * t] = 3 * t;
      tri[3 * t + 1] = 3 * t + 1;
      tri[3 * t + 2] = 3 * t + 2;
      p[9 * t + 3] = 1;
      p[9 * t + 6] = 2;
      p[9 * t + 7] = 1e-6f;
      for (int k = 0; k < 3; k++) {
        p[9 * t + 3 * k + 2] = 0.01f * t;
      }
    }
    Workpiece in = Workpiece.of(new Mesh(p, tri), Frame.PLAIN);
    for (Step step :
        List.of(
            to(200),
            new Remesh(200, null, null, Remesh.Sizes.CURVATURE, 60, Role.CAST),
            new Remesh(null, null, new Length(0.01), Remesh.Sizes.CURVATURE, 60, Role.CAST),
            new MakeFacets(200, false, Role.CAST))) {
      Mesh out = step.apply(in, Run.unwatched()).work().cast();
      assertThat(out.triangleCount()).isLessThan(20_000);
    }
  }

  /** So far from the origin that its points fall together: no endless cutting, nothing lost. */
  @Test
  void farFromTheOriginItEnds() {
    float[] p = Shapes.torus(2, 0.8, 60, 30).xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] += 5e6f;
    }
    Mesh far = new Mesh(p, Shapes.torus(2, 0.8, 60, 30).triangles());
    Mesh even = to(700).apply(Workpiece.of(far, Frame.PLAIN), Run.unwatched()).work().cast();
    assertThat(even.triangleCount()).isBetween(1, far.triangleCount());
  }

  @Test
  void oneOfTheThreeIsGiven() {
    assertThatThrownBy(() -> new Remesh(null, null, null, null, 60, Role.CAST))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("one of");
    Remesh tiny = new Remesh(null, new Length(1e-9), null, Remesh.Sizes.EVEN, 60, Role.CAST);
    assertThatThrownBy(() -> tiny.apply(Workpiece.of(Shapes.cube(1), Frame.PLAIN), Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("longer");
  }
}
