package holotome.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** Measurements beside closed formulas. */
class MeasureTest {
  private static Measurement.Pin pin(double x, double y, double z, double reach) {
    return new Measurement.Pin(Vec.of(x, y, z), reach);
  }

  private static Measured take(
      Mesh mesh, Frame frame, Measurement.Kind kind, Measurement.Pin... pins) {
    return Measuring.of(new Measurement("m", kind, List.of(pins)), mesh, frame, Work.unwatched());
  }

  /** Metres are hundred times as many file units, the work is turned, the file far off. */
  private static final Frame PLACED =
      new Frame(
          Similarity.translation(Vec.of(5000, -300, 20)),
          Similarity.scaling(0.01).then(Similarity.turning(Vec.of(1, 0, 0), 0.4)),
          true);

  private static Measurement.Pin file(double x, double y, double z, double reach) {
    return pin(5000 + x, -300 + y, 20 + z, reach);
  }

  @Test
  void distancesStandInTheWorkingSpace() {
    Measured d =
        take(
            Shapes.cube(10),
            PLACED,
            Measurement.Kind.DISTANCE,
            file(0, 0, 0, 0),
            file(3, 4, 12, 0));
    assertThat(d.value()).isCloseTo(0.13, within(1e-12));
    assertThat(d.text(true)).isEqualTo("130.0 mm");
    assertThat(d.more().getFirst()).startsWith("X 30.00 mm");
  }

  @Test
  void aWayAlongAPlaneIsStraightAndRoundACornerUnfolds() {
    Mesh sheet = Shapes.sheet(10, 37);
    Measured m =
        take(
            sheet, Frame.PLAIN, Measurement.Kind.SURFACE, pin(0.7, 0.9, 0, 0), pin(9.1, 6.3, 0, 0));
    assertThat(m.value()).isCloseTo(Math.hypot(8.4, 5.4), within(1e-9));
    // Over the edge of a cube: from the middle of a side to the middle of the next, 1 + 1.
    Mesh cube = Shapes.cube(2);
    double[] c = cube.bounds().centre();
    SurfacePath edge =
        SurfacePath.between(
            cube, Vec.add(c, Vec.of(1, 0, 0.4)), Vec.add(c, Vec.of(0, 1, -0.3)), Work.unwatched());
    assertThat(edge.length()).isCloseTo(Math.hypot(2, 0.7), within(1e-6));
  }

  @Test
  void aWayOverABallIsAGreatCircle() {
    Mesh ball = Shapes.sphere(1, 6);
    SplittableRandom random = new SplittableRandom(4);
    for (int i = 0; i < 12; i++) {
      double[] a =
          Vec.unit(Vec.of(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()));
      double[] b =
          Vec.unit(Vec.of(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()));
      double arc = Math.atan2(Vec.length(Vec.cross(a, b)), Vec.dot(a, b));
      SurfacePath p = SurfacePath.between(ball, a, b, Work.unwatched());
      assertThat(p.length()).isCloseTo(arc, within(2e-3 * arc + 1e-4));
    }
  }

  @Test
  void aWayRoundATubeIsAHelix() {
    // A tube unrolled is a sheet: a helix is as long as the sheet's diagonal.
    Mesh tube = tube(1, 4, 400, 40);
    double turn = 1.9;
    SurfacePath p =
        SurfacePath.between(
            tube, Vec.of(1, 0, 0.3), Vec.of(Math.cos(turn), Math.sin(turn), 3.2), Work.unwatched());
    assertThat(p.length()).isCloseTo(Math.hypot(turn, 2.9), within(1e-3));
  }

  private static Mesh tube(double radius, double height, int around, int up) {
    float[] xyz = new float[3 * around * (up + 1)];
    int[] tri = new int[6 * around * up];
    for (int j = 0; j <= up; j++) {
      for (int i = 0; i < around; i++) {
        double a = 2 * Math.PI * i / around;
        int v = j * around + i;
        xyz[3 * v] = (float) (radius * Math.cos(a));
        xyz[3 * v + 1] = (float) (radius * Math.sin(a));
        xyz[3 * v + 2] = (float) (height * j / up);
      }
    }
    for (int j = 0; j < up; j++) {
      for (int i = 0; i < around; i++) {
        int a = j * around + i;
        int b = j * around + (i + 1) % around;
        int[] two = {a, b, b + around, a, b + around, a + around};
        System.arraycopy(two, 0, tri, 6 * a, 6);
      }
    }
    return new Mesh(xyz, tri);
  }

  @Test
  void partsThatDoNotHangTogetherHaveNoWay() {
    Mesh two = Shapes.together(Shapes.sphere(1, 3), Shapes.moved(Shapes.sphere(1, 3), 5, 0, 0));
    assertThatThrownBy(
            () -> SurfacePath.between(two, Vec.of(1, 0, 0), Vec.of(4, 0, 0), Work.unwatched()))
        .isInstanceOf(Failure.class);
  }

  @Test
  void fitsOnPatchesGiveRadiiAndAngles() {
    Mesh ball = Shapes.sphere(3, 6);
    Measured s = take(ball, Frame.PLAIN, Measurement.Kind.SPHERE, pin(0, 0, 3, 1.2));
    assertThat(s.value()).isCloseTo(3, within(2e-3));
    assertThat(s.residual()).isLessThan(1e-3);
    Mesh tube = tube(2, 10, 200, 100);
    Measured c = take(tube, Frame.PLAIN, Measurement.Kind.CYLINDER, pin(2, 0, 5, 1.5));
    assertThat(c.value()).isCloseTo(2, within(2e-3));
    assertThat(c.more().get(1)).contains("axis leans 0.0");
    double[] m = Shapes.cube(2).bounds().centre();
    Measured a =
        take(
            Shapes.cube(2),
            Frame.PLAIN,
            Measurement.Kind.ANGLE,
            pin(m[0] + 1, m[1], m[2], 0.9),
            pin(m[0], m[1], m[2] + 1, 0.9));
    assertThat(a.value()).isCloseTo(90, within(1e-6));
    Measured f =
        take(
            Shapes.sheet(10, 50),
            Frame.PLAIN,
            Measurement.Kind.FROM_PLANE,
            pin(5, 5, 0, 2),
            pin(1, 1, 3.25, 0));
    assertThat(f.value()).isCloseTo(3.25, within(1e-9));
    double r = 4;
    Measured o =
        take(
            ball,
            Frame.PLAIN,
            Measurement.Kind.CIRCLE,
            pin(r, 0, 1, 0),
            pin(0, r, 1, 0),
            pin(-r, 0, 1, 0));
    assertThat(o.value()).isCloseTo(4, within(1e-9));
  }

  @Test
  void aPlaneIsNotTiltedByWhatStandsOnIt() {
    Mesh scene =
        Shapes.together(Shapes.sheet(10, 60), Shapes.moved(Shapes.sphere(0.8, 4), 6.5, 5, 0.5));
    Patch all = Patch.of(scene, allOf(scene));
    assertThat(Math.abs(all.plane().normal()[2])).isCloseTo(1, within(1e-9));
    // The patch about a point of the sheet does not take the ball in: it is no neighbour.
    Patch near = Patch.around(scene, Vec.of(5, 5, 0), 3, Work.unwatched());
    assertThat(near.triangles()[near.size() - 1]).isLessThan(2 * 60 * 60);
  }

  private static java.util.BitSet allOf(Mesh m) {
    java.util.BitSet s = new java.util.BitSet();
    s.set(0, m.triangleCount());
    return s;
  }

  @Test
  void theHullHoldsEveryPointAndIsClosed() {
    for (Mesh m :
        List.of(
            Shapes.sphere(1, 4),
            Shapes.cube(2),
            Shapes.torus(1, 0.3, 60, 20),
            Shapes.mess(3000, 8),
            MeshReader.read(Datasets.file("bunny.obj"), Work.unwatched()).mesh())) {
      Hull h = Hull.of(m.xyz());
      // Euler: V - E + F = 2, with 2 E = 3 F.
      assertThat(2 * h.cornerCount() - h.faceCount()).isEqualTo(4);
      double size = m.bounds().diagonal();
      for (int f = 0; f < h.faceCount(); f++) {
        double[] n = Vec.unit(h.cross(f));
        double offset = Vec.dot(n, h.corner(h.triangles()[3 * f]));
        for (int v = 0; v < m.vertexCount(); v += 7) {
          assertThat(Vec.dot(n, Vec.at(m.xyz(), v)) - offset).isLessThan(1e-5 * size);
        }
      }
    }
    assertThat(Hull.of(Shapes.sheet(1, 5).xyz()).faceCount()).isZero();
  }

  @Test
  void theSmallestBoxOfATurnedBoxIsTheBox() {
    Mesh cube = Shapes.cube(2);
    float[] p = cube.xyz().clone();
    for (int i = 0; i < p.length; i += 3) {
      p[i] *= 2;
      p[i + 1] *= 0.7f;
    }
    Similarity turn = Similarity.turning(Vec.unit(Vec.of(1, 2, 3)), 0.8);
    SmallestBox b = SmallestBox.of(Hull.of(Placing.apply(p, turn)));
    assertThat(b.size()).containsExactly(new double[] {4, 2, 1.4}, within(1e-5));
    // A regular tetrahedron with its corners at those of a cube: no smaller box than the cube, and
    // none of its faces lies flat on it (O'Rourke 1985).
    float[] corners = {1, 1, 1, 1, -1, -1, -1, 1, -1, -1, -1, 1};
    SmallestBox t = SmallestBox.of(Hull.of(Placing.apply(corners, turn)));
    assertThat(t.volume()).isCloseTo(8, within(1e-4));
    double[] axes = t.axes();
    assertThat(
            Vec.dot(
                Vec.cross(Vec.of(axes[0], axes[1], axes[2]), Vec.of(axes[3], axes[4], axes[5])),
                Vec.of(axes[6], axes[7], axes[8])))
        .isCloseTo(1, within(1e-9));
  }

  @Test
  void areaVolumeAndSizeFollowTheScale() {
    Mesh ball = Shapes.sphere(10, 5);
    assertThat(take(ball, PLACED, Measurement.Kind.AREA).value())
        .isCloseTo(Measures.area(ball) * 1e-4, within(1e-9));
    Measured v = take(ball, PLACED, Measurement.Kind.VOLUME);
    assertThat(v.value()).isCloseTo(4.0 / 3 * Math.PI * 1e-3, within(2e-5));
    assertThat(v.more()).isEmpty();
    assertThat(v.text(true)).endsWith(" l");
    assertThat(take(Shapes.sheet(1, 3), Frame.PLAIN, Measurement.Kind.VOLUME).more()).hasSize(1);
    assertThat(take(ball, PLACED, Measurement.Kind.SIZE).value()).isCloseTo(0.2, within(1e-4));
    assertThat(take(ball, PLACED, Measurement.Kind.SMALLEST_BOX).value())
        .isCloseTo(0.2, within(1e-3));
  }

  @Test
  void theTableIsReadableByOthers() {
    Measured d =
        take(Shapes.cube(1), PLACED, Measurement.Kind.DISTANCE, file(0, 0, 0, 0), file(1, 0, 0, 0));
    String csv =
        Measured.csv(
            List.of(
                new Measured(
                    new Measurement("rim, \"outer\"", d.of().kind(), d.of().pins()),
                    d.value(),
                    d.quantity(),
                    0.0005,
                    List.of(),
                    List.of(),
                    d.label())),
            true);
    assertThat(csv.lines().toList().get(1))
        .isEqualTo("\"rim, \"\"outer\"\"\",distance,10.0000000,mm,0.500000000,\"\"");
    assertThatThrownBy(() -> new Measurement("x", Measurement.Kind.DISTANCE, List.of()))
        .isInstanceOf(Failure.class);
  }
}
