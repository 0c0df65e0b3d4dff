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
import holotome.core.polygon.FaceLists;
import holotome.core.proxy.SettleProxy.Keep;
import holotome.core.proxy.SettleProxy.Shape;
import holotome.core.proxy.SettleProxy.Way;
import holotome.core.proxy.SettleProxy.When;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

/** A Cast laid on scans whose surface is a formula. */
class SettleProxyTest {
  private static SettleProxy along(Way way, double within) {
    return new SettleProxy(way, new Length(within), null, null, 0, null, null);
  }

  private static SettleProxy flat(double within) {
    return new SettleProxy(Way.NORMALS, new Length(within), Keep.FLAT, null, 0, null, null);
  }

  private static Outcome settled(Mesh scan, Mesh cast, SettleProxy step) {
    return step.apply(Workpiece.of(scan, Frame.PLAIN).withCast(cast), Run.unwatched());
  }

  private static Mesh cast(Mesh scan, Mesh cast, SettleProxy step) {
    return settled(scan, cast, step).work().cast();
  }

  /** A flat square of n x n quads about the middle, at a height. */
  private static Mesh sheet(double side, int n, double z) {
    double[] xyz = new double[3 * (n + 1) * (n + 1)];
    int[][] faces = new int[n * n][];
    for (int j = 0; j <= n; j++) {
      for (int i = 0; i <= n; i++) {
        int v = j * (n + 1) + i;
        xyz[3 * v] = side * (i / (double) n - 0.5);
        xyz[3 * v + 1] = side * (j / (double) n - 0.5);
        xyz[3 * v + 2] = z;
        if (i < n && j < n) {
          faces[j * n + i] = new int[] {v, v + 1, v + n + 2, v + n + 1};
        }
      }
    }
    return new FaceLists(xyz, faces).mesh();
  }

  @Test
  void aPlaneOntoASphereAlongZ() {
    Mesh scan = Shapes.sphere(1, 6);
    // Chords of a sphere of so many triangles lie below it by less than edge² / 8.
    double sag = 0.02 * 0.02 / 4 + 1e-6;
    Mesh out = cast(scan, sheet(1, 12, 1.2), along(Way.Z, 1));
    for (int v = 0; v < out.vertexCount(); v++) {
      double[] p = Vec.at(out.xyz(), v);
      double truth = Math.sqrt(1 - p[0] * p[0] - p[1] * p[1]);
      assertThat(p[2]).isCloseTo(truth, within(2 * sag));
      // Up and down alone.
      assertThat((p[0] + 0.5) * 12).isCloseTo(Math.rint((p[0] + 0.5) * 12), within(1e-5));
    }
  }

  @ParameterizedTest
  @EnumSource(
      value = Way.class,
      names = {"NORMALS", "NEAREST"})
  void aBallOntoACylinderOfTheSameAxis(Way way) {
    // Whose points then all lie at its radius, wherever they were before.
    Mesh scan = Shapes.moved(Shapes.tube(1, 6, 400, 40), 0, 0, -3);
    Mesh rings = Shapes.moved(Shapes.tube(0.8, 2, 24, 6), 0, 0, -1);
    Mesh bare = new Mesh(rings.xyz(), rings.triangles());
    Mesh out = cast(scan, bare, along(way, 0.5));
    double sag = 1 - Math.cos(Math.PI / 400);
    for (int v = 0; v < out.vertexCount(); v++) {
      double[] p = Vec.at(out.xyz(), v);
      assertThat(Math.hypot(p[0], p[1])).isBetween(1 - sag - 1e-5, 1 + 1e-5);
    }
  }

  @Test
  void nothingMovesFartherThanIsAllowed() {
    Mesh scan = Shapes.sphere(1, 4);
    Mesh before = Shapes.moved(Shapes.sphere(0.9, 3), 0.08, 0.05, -0.03);
    for (Length smooth : new Length[] {null, new Length(0.2)}) {
      SettleProxy s = new SettleProxy(Way.NEAREST, new Length(0.11), null, smooth, 0, null, null);
      Outcome o = settled(scan, before, s);
      Mesh after = o.work().cast();
      int far = 0;
      for (int v = 0; v < after.vertexCount(); v++) {
        double moved = Vec.distance(Vec.at(after.xyz(), v), Vec.at(before.xyz(), v));
        assertThat(moved).isLessThanOrEqualTo(0.11 + 1e-6);
        far += Vec.length(Vec.at(after.xyz(), v)) < 0.985 ? 1 : 0;
      }
      // What lay farther off found nothing, went with its neighbours, and is said.
      assertThat(far).isPositive();
      assertThat(o.notes()).anyMatch(n -> n.contains("found no Scan"));
    }
  }

  @Test
  void pointsOverAGapGoWithTheirNeighbours() {
    // A floor at 0.3 with a hole in its middle; all around moves up by 0.3, so the rest does too.
    WallsScan s = new WallsScan();
    for (double[] q :
        new double[][] {
          {-2, -2, 2, -0.4}, {-2, 0.4, 2, 2}, {-2, -0.4, -0.4, 0.4}, {0.4, -0.4, 2, 0.4}
        }) {
      s.wall(
          Vec.of(q[0], q[1], 0.3),
          Vec.of(q[2], q[1], 0.3),
          Vec.of(q[2], q[3], 0.3),
          Vec.of(q[0], q[3], 0.3));
    }
    Outcome o = settled(s.scan(0.1, 0, 1), sheet(2, 10, 0), along(Way.NORMALS, 0.5));
    Mesh out = o.work().cast();
    assertThat(o.notes()).anyMatch(n -> n.contains("9 points found no Scan"));
    for (int v = 0; v < out.vertexCount(); v++) {
      assertThat(out.xyz()[3 * v + 2]).isCloseTo(0.3f, within(1e-5f));
    }
  }

  @Test
  void smoothTakesTheSlopeAndNotTheBlades() {
    // Waves of 13 cm on a slope: evened out over 1 m they are gone, the slope is not.
    int n = 200;
    Mesh flat = sheet(4, n, 0);
    float[] xyz = flat.xyz().clone();
    for (int v = 0; v < flat.vertexCount(); v++) {
      xyz[3 * v + 2] =
          (float) (0.1 * xyz[3 * v] + 0.02 * Math.sin(2 * Math.PI * xyz[3 * v] / 0.13));
    }
    Mesh scan = flat.withPositions(xyz);
    SettleProxy smooth =
        new SettleProxy(Way.Z, new Length(1), null, new Length(0.3), 0, null, null);
    double rough = off(cast(scan, sheet(2, 40, 0.1), along(Way.Z, 1)));
    double even = off(cast(scan, sheet(2, 40, 0.1), smooth));
    assertThat(even).isLessThan(rough / 4);
  }

  /** Root of the mean square distance from the slope, a little away from the border. */
  private static double off(Mesh m) {
    double sum = 0;
    int n = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      double[] p = Vec.at(m.xyz(), v);
      if (Math.abs(p[0]) < 0.7 && Math.abs(p[1]) < 0.7) {
        sum += Math.pow(p[2] - 0.1 * p[0], 2);
        n++;
      }
    }
    return Math.sqrt(sum / n);
  }

  /** The house of seven planes, and one that is a little too small and stands beside it. */
  private static Mesh small() {
    double[] xyz = new double[30];
    for (int i = 0; i < 10; i++) {
      double[] c = WallsScan.CORNERS[i];
      xyz[3 * i] = 0.1 + c[0] * 0.97;
      xyz[3 * i + 1] = 0.08 + c[1] * 0.96;
      xyz[3 * i + 2] = 0.05 + c[2] * 0.96;
    }
    // With the roof's own slope, or its planes could not come to lie on the Scan by shifting.
    int[][] faces = {
      {3, 2, 1, 0},
      {0, 1, 5, 4},
      {2, 3, 7, 6},
      {1, 2, 6, 9, 5},
      {3, 0, 4, 8, 7},
      {4, 5, 9, 8},
      {6, 7, 8, 9}
    };
    return new FaceLists(xyz, faces).mesh();
  }

  @Test
  void flatFacesShiftOntoTheScanAndStayFlatAndSquare() {
    double noise = 0.002;
    Mesh scan = WallsScan.house().scan(0.03, noise, 1);
    Outcome o = settled(scan, small(), flat(0.4));
    Mesh out = o.work().cast();
    assertThat(o.notes().getFirst()).contains("7 flat faces");
    FaceLists f = FaceLists.of(out);
    assertThat(f.faces()).hasNumberOfRows(7);
    FaceLists before = FaceLists.of(small());
    for (int i = 0; i < 7; i++) {
      // Normals are what they were, faces as flat, to what a float holds of 6 m.
      assertThat(Vec.distance(f.normal(i), before.normal(i))).isLessThan(1e-6);
      for (double[] p : f.corners(i)) {
        assertThat(Math.abs(Vec.dot(Vec.sub(p, f.middle(i)), f.normal(i)))).isLessThan(1e-6);
      }
    }
    // 2000 places a plane say where it is to noise / √2000.
    double known = 6 * noise / Math.sqrt(2000);
    for (int v = 0; v < 10; v++) {
      double[] p = f.at(v);
      double[] truth = WallsScan.CORNERS[v];
      assertThat(Math.max(Math.abs(p[0] - truth[0]), Math.abs(p[1] - truth[1]))).isLessThan(known);
      assertThat(v > 3 || Math.abs(p[2]) < known).isTrue();
    }
    Naive.assertSound(out);
  }

  /** Planes, an edit and settling again, as a Log has them, on two scans of one place. */
  @Test
  void onAnotherScanOfThePlaceItSettlesThere() {
    double[] places = {3, 0, 1, 3, 4, 1, 0, 1, 1.5, 6, 1, 1.5, 3, 1, 3.75, 3, 3, 3.75, 3, 2, 0};
    ProxyEdit lift =
        new ProxyEdit(
            ProxyEdit.How.MOVE,
            null,
            new double[] {3, 2, 4.5},
            null,
            new double[] {0, 0, 0.1},
            null,
            null);
    FaceLists[] made = new FaceLists[2];
    for (int i = 0; i < 2; i++) {
      Workpiece w = Workpiece.of(WallsScan.house().scan(0.05, 0.002, 20 + i), Frame.PLAIN);
      w = new FromPlanes(places, null, 3, null).apply(w, Run.unwatched()).work();
      w = new EditProxy(List.of(lift)).apply(w, Run.unwatched()).work();
      assertThat(w.cast().bounds().maxZ()).isGreaterThan(4.59);
      // The lifted ridge falls back onto the roof, point by point.
      w = along(Way.NEAREST, 0.3).apply(w, Run.unwatched()).work();
      made[i] = FaceLists.of(w.cast());
    }
    for (int v = 0; v < 10; v++) {
      double least = Double.POSITIVE_INFINITY;
      double truth = Double.POSITIVE_INFINITY;
      for (int u = 0; u < 10; u++) {
        least = Math.min(least, Vec.distance(made[0].at(v), made[1].at(u)));
        truth = Math.min(truth, Vec.distance(made[0].at(v), WallsScan.CORNERS[u]));
      }
      // A single point goes where the noise is.
      assertThat(least).isLessThan(0.015);
      assertThat(truth).isLessThan(0.015);
    }
  }

  @Test
  void aSideThatFindsNothingGoesAsTheOthersHaveIt() {
    // The scan has no floor; the box stands 0.1 to the side and 0.1 too low in the roof.
    WallsScan s = new WallsScan().block(new double[] {0, 0, 0}, new double[] {2, 2, 2}, true);
    Mesh box = Shapes.moved(Shapes.cube(2), 1.1, 1.06, 0.9);
    Outcome o = settled(s.scan(0.05, 0, 1), box, flat(0.3));
    assertThat(o.notes()).anyMatch(n -> n.contains("One flat face found no Scan"));
    Mesh out = o.work().cast();
    float[] p = out.xyz();
    for (int v = 0; v < 8; v++) {
      assertThat(Math.abs(p[3 * v] - 1)).isCloseTo(1, within(1e-4f));
      assertThat(Math.abs(p[3 * v + 1] - 1)).isCloseTo(1, within(1e-4f));
      // Top at the Scan's; the floor where it was.
      boolean isTop = p[3 * v + 2] > 1;
      assertThat(p[3 * v + 2]).isCloseTo(isTop ? 2 : -0.1f, within(1e-4f));
    }
  }

  @Test
  void aTipOfFourPlanesHoldsTogether() {
    // A pyramid's tip: four planes, and each finds another shift. It stays one point, all flat.
    double[] xyz = {-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0, 0, 0, 1};
    int[][] faces = {{3, 2, 1, 0}, {0, 1, 4}, {1, 2, 4}, {2, 3, 4}, {3, 0, 4}};
    Mesh small = new FaceLists(xyz, faces).mesh();
    WallsScan s = new WallsScan();
    double[] tip = {0.1, 0.05, 1.2};
    double[][] foot = {{-1.2, -1.1, 0}, {1.1, -1.2, 0}, {1.2, 1.2, 0}, {-1.1, 1.15, 0}};
    for (int i = 0; i < 4; i++) {
      double[] a = foot[i];
      double[] b = foot[(i + 1) % 4];
      s.wall(a, b, tip, Vec.add(tip, Vec.mul(Vec.sub(a, b), 1e-3)));
    }
    Mesh out = cast(s.scan(0.03, 0, 2), small, flat(0.5));
    FaceLists f = FaceLists.of(out);
    FaceLists before = FaceLists.of(small);
    for (int i = 0; i < 5; i++) {
      assertThat(Vec.distance(f.normal(i), before.normal(i))).isLessThan(1e-5);
    }
    for (int v = 0; v < 5; v++) {
      assertThat(Vec.distance(f.at(v), before.at(v))).isLessThanOrEqualTo(0.5);
    }
  }

  @Test
  void dividedBeforeAndAfter() {
    Mesh scan = Shapes.sphere(1, 5);
    Mesh cube = Shapes.cube(1.2);
    SettleProxy fine =
        new SettleProxy(Way.NORMALS, new Length(0.6), null, null, 3, Shape.ROUND, When.BEFORE);
    Mesh out = cast(scan, cube, fine);
    for (int v = 0; v < out.vertexCount(); v++) {
      assertThat(Vec.length(Vec.at(out.xyz(), v))).isCloseTo(1, within(2e-3));
    }
    Naive.assertSound(out);
    assertThat(Naive.closedAndOriented(out)).isTrue();
    SettleProxy after =
        new SettleProxy(Way.NORMALS, new Length(0.6), null, null, 2, Shape.FLAT, When.AFTER);
    Outcome o = settled(scan, cube, after);
    // Corners on the ball, and the rest on the flat faces of the cube that is in it.
    assertThat(Measures.volume(o.work().cast())).isCloseTo(8 / Math.pow(3, 1.5), within(0.01));
    assertThat(o.notes()).anyMatch(n -> n.contains("faces now"));
  }

  @Test
  void chartsStayWhereFacesDoAndElseItIsSaid() {
    Mesh scan = Shapes.sphere(1, 4);
    Mesh cast = Shapes.laden(Shapes.sphere(0.95, 2));
    assertThat(cast.uv()).isNotNull();
    Outcome moved = settled(scan, cast, along(Way.NORMALS, 0.2));
    assertThat(moved.work().cast().uv().coords()).isEqualTo(cast.uv().coords());
    SettleProxy fine = new SettleProxy(Way.NORMALS, new Length(0.2), null, null, 1, null, null);
    assertThat(settled(scan, cast, fine).notes()).anyMatch(n -> n.contains("charts are gone"));
  }

  @Test
  void itStandsWhereTheFrameHasItsAxes() {
    // Working space lies on its side, twice as large: its z is the scan's x.
    Similarity side =
        Similarity.turning(new double[] {0, 1, 0}, -Math.PI / 2).then(Similarity.scaling(2));
    Mesh sheet = sheet(1, 4, 0);
    float[] xyz = sheet.xyz().clone();
    for (int v = 0; v < sheet.vertexCount(); v++) {
      float x = xyz[3 * v];
      xyz[3 * v] = 1.2f;
      xyz[3 * v + 2] = -x;
    }
    Workpiece w =
        Workpiece.of(Shapes.sphere(1, 6), Frame.PLAIN.placed(side))
            .withCast(sheet.withPositions(xyz));
    Mesh out = along(Way.Z, 2).apply(w, Run.unwatched()).work().cast();
    for (int v = 0; v < out.vertexCount(); v++) {
      assertThat(Vec.length(Vec.at(out.xyz(), v))).isCloseTo(1, within(1e-3));
    }
    // 0.3 of working space is 0.15 here, and the Scan is 0.2 away and more.
    assertThatThrownBy(() -> along(Way.Z, 0.3).apply(w, Run.unwatched()))
        .hasMessageContaining("nowhere");
  }

  static Stream<Mesh> rough() {
    return Stream.of(
        Shapes.mess(80, 3),
        new Mesh(new float[0], new int[0]),
        new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {0, 0, 0, Float.NaN, 0, 0, 0, 1, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {0, 0, 0, 3e38f, 0, 0, 0, 3e38f, 0}, new int[] {0, 1, 2}),
        Shapes.sheet(1, 3),
        Shapes.together(Shapes.cube(1), Shapes.cube(1)),
        new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 9, 9, 9}, new int[] {0, 1, 2, 0, 0, 1}));
  }

  @ParameterizedTest
  @MethodSource("rough")
  void aSoundCastOrALine(Mesh cast) {
    Mesh scan = Shapes.sphere(1, 3);
    for (Way way : Way.values()) {
      for (Keep keep : Keep.values()) {
        for (int divide : new int[] {0, 1}) {
          SettleProxy s =
              new SettleProxy(way, new Length(0.5), keep, null, divide, Shape.ROUND, null);
          try {
            Mesh out = cast(scan, cast, s);
            for (float x : out.xyz()) {
              assertThat(Float.isFinite(x)).isTrue();
            }
          } catch (Failure f) {
            assertThat(f.getMessage()).isNotBlank().doesNotContain("\n");
          }
        }
      }
    }
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh scan = Shapes.sphere(1, 5);
    Mesh cast = Shapes.moved(Shapes.sphere(0.9, 4), 0.03, 0, 0);
    SettleProxy s =
        new SettleProxy(Way.NORMALS, new Length(0.2), null, new Length(0.1), 0, null, null);
    Mesh many = cast(scan, cast, s);
    int threads = Parallel.threads();
    try {
      Parallel.limitThreads(1);
      assertThat(Arrays.equals(cast(scan, cast, s).xyz(), many.xyz())).isTrue();
    } finally {
      Parallel.limitThreads(threads);
    }
  }

  @Test
  void whatIsWrongIsSaid() {
    Mesh scan = Shapes.sphere(1, 3);
    assertThatThrownBy(() -> along(Way.X, 0)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new SettleProxy(Way.X, null, Keep.FLAT, new Length(1), 0, null, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(
            () -> along(Way.X, 1).apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no Cast");
    Mesh far = Shapes.moved(Shapes.cube(1), 50, 0, 0);
    assertThatThrownBy(() -> settled(scan, far, along(Way.NEAREST, 1)))
        .hasMessageContaining("nowhere");
    assertThatThrownBy(() -> settled(scan, far, flat(1))).hasMessageContaining("nowhere");
    assertThatThrownBy(() -> settled(scan, Shapes.sphere(1, 4), flat(1)))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(
            () ->
                settled(
                    scan,
                    Shapes.sphere(1, 6),
                    new SettleProxy(Way.X, null, null, null, 6, null, null)))
        .hasMessageContaining("divide less");
    Work work = new Work();
    work.cancel();
    Workpiece w = Workpiece.of(scan, Frame.PLAIN).withCast(Shapes.cube(1));
    assertThatThrownBy(() -> along(Way.NEAREST, 1).apply(w, Run.of(work)))
        .hasMessageContaining("Cancelled");
  }
}
