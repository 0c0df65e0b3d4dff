package holotome.core.proxy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.quad.FacesOf;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Buildings made of planes, held against the planes that their scans were made up from. */
class FromPlanesTest {
  private static final FromPlanes FOUND = new FromPlanes(null, null, 3, null);
  private static final double NOISE = 0.002;

  private static Outcome made(Mesh scan, FromPlanes step) {
    return step.apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched());
  }

  private static Mesh cast(Mesh scan, FromPlanes step) {
    return made(scan, step).work().cast();
  }

  /** How far the corner of a mesh nearest to a place is. */
  private static double off(Mesh mesh, double[] place) {
    double least = Double.POSITIVE_INFINITY;
    for (int v = 0; v < mesh.vertexCount(); v++) {
      least = Math.min(least, Vec.distance(Vec.at(mesh.xyz(), v), place));
    }
    return least;
  }

  private static int faces(Mesh mesh) {
    return FacesOf.mesh(mesh).length;
  }

  private static FromPlanes at(double... places) {
    return new FromPlanes(places, null, 3, null);
  }

  @Test
  void aHouseHasItsTenCornersWithinTheNoiseOverTheRootOfTheCount() {
    Mesh scan = WallsScan.house().scan(0.03, NOISE, 1);
    Mesh cast = cast(scan, FOUND);
    Naive.assertSound(cast);
    assertThat(Naive.closedAndOriented(cast)).isTrue();
    assertThat(faces(cast)).isEqualTo(7);
    assertThat(cast.vertexCount()).isEqualTo(10);
    // The smallest plane, a gable's, has 4 m x 3.75 m of points 30 mm apart. By closed form the
    // offset of a plane of n points is known to noise / √n in its middle and, by the two turns that
    // are fitted too, to twice or thrice that at its ends; three of them meet in a corner.
    double known = NOISE / Math.sqrt(4 * 3.75 / (0.03 * 0.03));
    for (double[] corner : WallsScan.CORNERS) {
      assertThat(off(cast, corner)).isLessThan(8 * known);
    }
  }

  @Test
  void turnedMovedAndLargeItIsTheSame() {
    Mesh plain = WallsScan.house().scan(0.05, NOISE, 2);
    Similarity place =
        Similarity.scaling(40)
            .then(Similarity.turning(Vec.unit(new double[] {1, 2, 3}), 0.7))
            .then(Similarity.translation(new double[] {900, -400, 250}));
    float[] xyz = plain.xyz().clone();
    for (int v = 0; v < plain.vertexCount(); v++) {
      double[] p = place.apply(Vec.at(plain.xyz(), v));
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (float) p[k];
      }
    }
    Mesh cast = cast(plain.withPositions(xyz), FOUND);
    assertThat(faces(cast)).isEqualTo(7);
    assertThat(cast.vertexCount()).isEqualTo(10);
    for (double[] corner : WallsScan.CORNERS) {
      assertThat(off(cast, place.apply(corner))).isLessThan(40 * 3e-4);
    }
  }

  @Test
  void nearlySquareIsMadeSquareAndElseLeftAsItIs() {
    double lean = Math.tan(Math.toRadians(1));
    WallsScan s = new WallsScan().floor(0, 0, 3, 2);
    double[] a = {0, 0, 2};
    double[] b = {3, 0, 2};
    double[] c = {3 + 2 * lean, 2, 2};
    double[] d = {0, 2, 2};
    s.wall(Vec.of(0, 0, 0), Vec.of(3, 0, 0), b, a).wall(Vec.of(3, 2, 0), Vec.of(0, 2, 0), d, c);
    s.wall(Vec.of(0, 2, 0), Vec.of(0, 0, 0), a, d).wall(a, b, c, d);
    s.wall(Vec.of(3, 0, 0), Vec.of(3 + 2 * lean, 2, 0), c, b);
    Mesh scan = s.scan(0.03, 0.0005, 3);
    Outcome square = made(scan, FOUND);
    assertThat(leastAngle(square.work().cast())).isCloseTo(90, within(1e-4));
    assertThat(square.notes()).anyMatch(n -> n.contains("parallel or square"));
    Outcome free = made(scan, new FromPlanes(null, null, 0, null));
    assertThat(leastAngle(free.work().cast())).isCloseTo(89, within(0.02));
    assertThat(free.notes()).noneMatch(n -> n.contains("parallel or square"));
  }

  /** Between planes that are square but for less than ten degrees, the least. */
  private static double leastAngle(Mesh mesh) {
    double least = 90;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      for (int u = 0; u < t; u++) {
        double c =
            Math.abs(Vec.dot(Vec.unit(Measures.cross(mesh, t)), Vec.unit(Measures.cross(mesh, u))));
        double angle = Math.toDegrees(Math.acos(Math.min(1, c)));
        least = angle > 80 ? Math.min(least, angle) : least;
      }
    }
    return least;
  }

  @Test
  void anInnerCornerAndAShaftThroughTheRoof() {
    WallsScan s = new WallsScan();
    s.wall(Vec.of(0, 0, 0), Vec.of(6, 0, 0), Vec.of(6, 0, 3), Vec.of(0, 0, 3));
    s.wall(Vec.of(6, 0, 0), Vec.of(6, 2, 0), Vec.of(6, 2, 3), Vec.of(6, 0, 3));
    s.wall(Vec.of(6, 2, 0), Vec.of(3, 2, 0), Vec.of(3, 2, 3), Vec.of(6, 2, 3));
    s.wall(Vec.of(3, 2, 0), Vec.of(3, 5, 0), Vec.of(3, 5, 3), Vec.of(3, 2, 3));
    s.wall(Vec.of(3, 5, 0), Vec.of(0, 5, 0), Vec.of(0, 5, 3), Vec.of(3, 5, 3));
    s.wall(Vec.of(0, 5, 0), Vec.of(0, 0, 0), Vec.of(0, 0, 3), Vec.of(0, 5, 3));
    s.wall(Vec.of(0, 0, 3), Vec.of(6, 0, 3), Vec.of(6, 2, 3), Vec.of(0, 2, 3));
    s.wall(Vec.of(0, 2, 3), Vec.of(3, 2, 3), Vec.of(3, 5, 3), Vec.of(0, 5, 3));
    s.block(new double[] {1, 1, 2.8}, new double[] {1.6, 1.5, 4}, true);
    Mesh cast = cast(s.scan(0.03, 0.001, 4), FOUND);
    assertThat(Naive.closedAndOriented(cast)).isTrue();
    assertThat(Naive.verticesWithSeveralFans(cast)).isZero();
    // The floor was not seen; it closes where the walls end.
    double truth = (6 * 2 + 3 * 3) * 3 + 0.6 * 0.5 * 1;
    assertThat(Measures.volume(cast)).isCloseTo(truth, within(1e-3 * truth));
    // Six walls, a floor, five of the shaft; the roof has a hole, so two edges part it.
    assertThat(faces(cast)).isEqualTo(14);
    assertThat(cast.vertexCount()).isEqualTo(12 + 8);
  }

  @Test
  void sidesThatNobodySawAreClosedOrLeftOpen() {
    WallsScan s = new WallsScan();
    s.wall(Vec.of(0, 0, 0), Vec.of(4, 0, 0), Vec.of(4, 0, 2), Vec.of(0, 0, 2));
    s.wall(Vec.of(4, 0, 0), Vec.of(4, 3, 0), Vec.of(4, 3, 2), Vec.of(4, 0, 2));
    s.wall(Vec.of(0, 0, 2), Vec.of(4, 0, 2), Vec.of(4, 3, 2), Vec.of(0, 3, 2));
    Mesh scan = s.scan(0.03, 0.001, 5);
    Outcome closed = made(scan, at(2, 0, 1, 4, 1.5, 1, 2, 1.5, 2));
    assertThat(Measures.volume(closed.work().cast())).isCloseTo(24, within(0.05));
    assertThat(Naive.closedAndOriented(closed.work().cast())).isTrue();
    assertThat(closed.notes()).anyMatch(n -> n.contains("3 faces close sides"));
    Outcome open =
        made(
            scan,
            new FromPlanes(
                new double[] {2, 0, 1, 4, 1.5, 1, 2, 1.5, 2}, null, 3, FromPlanes.Missing.OPEN));
    assertThat(faces(open.work().cast())).isEqualTo(3);
    assertThat(Measures.area(open.work().cast())).isCloseTo(8 + 6 + 12, within(0.05));
    assertThat(Naive.border(open.work().cast())).isEqualTo(6);
    assertThat(open.notes()).anyMatch(n -> n.contains("3 sides that nobody saw are left open"));
  }

  @Test
  void theSamePlacesOnAnotherScanOfThePlaceMakeTheSameHouse() {
    FromPlanes step =
        at(3, 0, 1, 3, 4, 1, 0, 1, 1.5, 6, 1, 1.5, 3, 1, 3.75, 3, 3, 3.75, 3, 2, 0, 3.5, 0, 1.5);
    Outcome one = made(WallsScan.house().scan(0.05, NOISE, 6), step);
    Outcome other = made(WallsScan.house().scan(0.041, NOISE, 7), step);
    assertThat(one.notes().get(0)).isEqualTo(other.notes().get(0)).contains("7 faces");
    for (double[] corner : WallsScan.CORNERS) {
      assertThat(off(one.work().cast(), corner)).isLessThan(5e-4);
      assertThat(off(other.work().cast(), corner)).isLessThan(5e-4);
    }
  }

  @Test
  void jointsAndLedgesDoNotMoveAWall() {
    Mesh scan = WallsScan.house().scan(0.03, 0.0005, 8);
    float[] xyz = scan.xyz().clone();
    for (int v = 0; v < scan.vertexCount(); v++) {
      boolean isFront = Math.abs(xyz[3 * v + 1]) < 0.01 && xyz[3 * v + 2] < 2.9;
      if (isFront && xyz[3 * v] % 0.5 < 0.05) {
        xyz[3 * v + 1] += 0.006f;
      }
    }
    Mesh cast = cast(scan.withPositions(xyz), FOUND);
    for (double[] corner : WallsScan.CORNERS) {
      assertThat(off(cast, corner)).isLessThan(4e-4);
    }
  }

  @Test
  void oneThreadAndManyMakeTheSame() {
    Mesh scan = WallsScan.house().scan(0.03, NOISE, 9);
    Mesh many = cast(scan, FOUND);
    int threads = Parallel.threads();
    Mesh one;
    try {
      Parallel.limitThreads(1);
      one = cast(scan, FOUND);
    } finally {
      Parallel.limitThreads(threads);
    }
    assertThat(one.sameAs(many)).isTrue();
  }

  static Stream<Mesh> rough() {
    Mesh house = WallsScan.house().scan(0.2, NOISE, 10);
    float[] torn = house.xyz().clone();
    for (int v = 0; v < house.vertexCount(); v += 41) {
      torn[3 * v + v % 3] = v % 2 == 0 ? Float.NaN : Float.POSITIVE_INFINITY;
    }
    return Stream.of(
        Shapes.mess(400, 5),
        house.withPositions(torn),
        Shapes.moved(house, 3e6, 0, 0),
        Shapes.together(house, house),
        Shapes.sphere(1, 3),
        Shapes.sheet(2, 20),
        Shapes.cube(1),
        new Mesh(new float[] {0, 0, 0, 4, 0, 0, 0, 4, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[9], new int[] {0, 1, 2}),
        new Mesh(new float[0], new int[0]));
  }

  @ParameterizedTest
  @MethodSource("rough")
  void aSoundProxyOrALine(Mesh scan) {
    for (double[] places : new double[][] {null, {0.1, 0.1, 0.1, 3, 0, 1}, {1e9, 0, 0}}) {
      Mesh cast;
      try {
        cast = cast(scan, new FromPlanes(places, null, 3, null));
      } catch (Failure f) {
        assertThat(f.getMessage()).isNotBlank().doesNotContain("\n");
        continue;
      }
      Naive.assertSound(cast);
      assertThat(Naive.closedAndOriented(cast)).isTrue();
    }
  }

  @Test
  void aCubeOfTwelveTrianglesIsItself() {
    Mesh cast = cast(Shapes.cube(2), FOUND);
    assertThat(faces(cast)).isEqualTo(6);
    assertThat(Measures.volume(cast)).isCloseTo(8, within(1e-6));
  }

  @Test
  void whatIsWrongIsSaid() {
    Mesh scan = WallsScan.house().scan(0.2, 0, 11);
    assertThatThrownBy(() -> at(1, 2)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> at(1, 2, Double.NaN)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> at(new double[3 * 61]))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("60");
    assertThatThrownBy(() -> new FromPlanes(null, new Length(0), 3, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> cast(scan, at(3, 0, 1)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("bound no solid");
    assertThatThrownBy(() -> cast(new Mesh(new float[0], new int[0]), FOUND))
        .isInstanceOf(Failure.class);
  }

  @Test
  void itCanBeCancelled() {
    Mesh scan = WallsScan.house().scan(0.05, NOISE, 12);
    Work work = new Work();
    work.cancel();
    assertThatThrownBy(() -> FOUND.apply(Workpiece.of(scan, Frame.PLAIN), Run.of(work)))
        .isInstanceOfAny(CancellationException.class, Failure.class);
  }

  @Test
  void whatIsPointedAtTwiceIsOneWall() {
    Mesh scan = WallsScan.house().scan(0.05, NOISE, 13);
    double[] once = {3, 0, 1, 3, 4, 1, 0, 1, 1.5, 6, 1, 1.5, 3, 1, 3.75, 3, 3, 3.75, 3, 2, 0};
    double[] twice = Arrays.copyOf(once, once.length + 3);
    System.arraycopy(new double[] {1, 0, 2}, 0, twice, once.length, 3);
    List<String> a = made(scan, at(once)).notes();
    List<String> b = made(scan, at(twice)).notes();
    assertThat(b.get(0)).isEqualTo(a.get(0)).contains("7 planes");
  }
}
