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
import holotome.core.proxy.MakeBlock.Form;
import holotome.core.proxy.MakeBlock.Where;
import holotome.core.select.Pick;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.unit.Length;
import java.util.BitSet;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Simple bodies fitted to scans that were made up from them. */
class MakeBlockTest {
  private static final double NOISE = 0.002;

  private static MakeBlock a(Form form, int sides) {
    return new MakeBlock(form, sides, null, null, null, null);
  }

  private static Outcome made(Mesh scan, MakeBlock step) {
    return step.apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched());
  }

  private static FaceLists faces(Mesh scan, MakeBlock step) {
    return FaceLists.of(made(scan, step).work().cast());
  }

  private static double off(FaceLists f, double[] place) {
    double least = Double.POSITIVE_INFINITY;
    for (int v = 0; v < f.vertexCount(); v++) {
      least = Math.min(least, Vec.distance(f.at(v), place));
    }
    return least;
  }

  private static Mesh placed(Mesh mesh, Similarity place) {
    float[] xyz = mesh.xyz().clone();
    for (int v = 0; v < mesh.vertexCount(); v++) {
      double[] p = place.apply(Vec.at(mesh.xyz(), v));
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (float) p[k];
      }
    }
    return mesh.withPositions(xyz);
  }

  private static WallsScan crate() {
    return new WallsScan().block(new double[] {0, 0, 0}, new double[] {1.2, 0.8, 0.6}, true);
  }

  @ParameterizedTest
  @ValueSource(doubles = {0, 0.3, 0.7, 1.1, 2})
  void aBoxHoweverItLies(double turn) {
    Similarity place =
        Similarity.turning(Vec.unit(new double[] {0.4, -0.3, 1}), turn)
            .then(Similarity.translation(new double[] {20, -7, 3}));
    Mesh scan = placed(crate().floor(0, 0, 1.2, 0.8).scan(0.02, NOISE, 3), place);
    Outcome o = made(scan, a(Form.BOX, 12));
    Mesh cast = o.work().cast();
    Naive.assertSound(cast);
    assertThat(Naive.closedAndOriented(cast)).isTrue();
    FaceLists f = FaceLists.of(cast);
    assertThat(f.faces()).hasNumberOfRows(6);
    // The smallest side has 0.8 m x 0.6 m of points 20 mm apart.
    double known = 8 * NOISE / Math.sqrt(0.8 * 0.6 / (0.02 * 0.02));
    for (int i = 0; i < 8; i++) {
      double[] corner = {(i & 1) * 1.2, (i >> 1 & 1) * 0.8, (i >> 2) * 0.6};
      assertThat(off(f, place.apply(corner))).isLessThan(known);
    }
    assertThat(o.notes()).noneMatch(n -> n.contains("not seen"));
  }

  /** Its slopes say nothing of how it stands; its walls do. */
  @Test
  void aHouseStandsUprightUnderItsRoof() {
    FaceLists f = faces(WallsScan.house().scan(0.03, NOISE, 3), a(Form.BOX, 12));
    for (int i = 0; i < 6; i++) {
      double[] n = f.normal(i);
      double most = Math.max(Math.abs(n[0]), Math.max(Math.abs(n[1]), Math.abs(n[2])));
      assertThat(most).isCloseTo(1, within(1e-6));
    }
  }

  @Test
  void aSideThatWasNotSeenIsWhereTheScanEnds() {
    Outcome o = made(crate().scan(0.02, 0, 1), a(Form.BOX, 12));
    assertThat(o.notes()).anyMatch(n -> n.contains("One side was not seen"));
    assertThat(Measures.volume(o.work().cast())).isCloseTo(1.2 * 0.8 * 0.6, within(0.01));
  }

  @Test
  void whatIsSelectedCounts() {
    // Beside the crate stands another one; the selection is of the first.
    WallsScan two = crate().block(new double[] {5, 5, 0}, new double[] {6, 6, 1}, true);
    Mesh scan = two.scan(0.05, 0, 1);
    BitSet set = new BitSet();
    for (int t = 0; t < scan.triangleCount(); t++) {
      set.set(t, scan.xyz()[3 * scan.triangles()[3 * t]] < 3);
    }
    MakeBlock step =
        new MakeBlock(
            Form.BOX,
            12,
            null,
            null,
            null,
            List.of(Pick.of(Pick.Join.REPLACE, set, scan.triangleCount())));
    assertThat(Measures.volume(made(scan, step).work().cast())).isCloseTo(0.576, within(0.02));
    // The other one, put beside it.
    Workpiece w = Workpiece.of(scan, Frame.PLAIN).withCast(made(scan, step).work().cast());
    set.flip(0, scan.triangleCount());
    MakeBlock beside =
        new MakeBlock(
            Form.BOX,
            12,
            null,
            null,
            Where.BESIDE,
            List.of(Pick.of(Pick.Join.REPLACE, set, scan.triangleCount())));
    Mesh both = beside.apply(w, Run.unwatched()).work().cast();
    assertThat(FaceLists.of(both).faces()).hasNumberOfRows(12);
    assertThat(Measures.volume(both)).isCloseTo(1.576, within(0.04));
    assertThat(Naive.closedAndOriented(both)).isTrue();
  }

  @Test
  void aCylinder() {
    Mesh tube =
        placed(
            Shapes.tube(0.5, 2, 120, 60),
            Similarity.turning(Vec.unit(new double[] {1, 1, 0}), 0.4));
    SplittableRandom random = new SplittableRandom(4);
    float[] xyz = tube.xyz().clone();
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] += (float) (NOISE * random.nextGaussian());
    }
    Mesh scan = new Mesh(xyz, tube.triangles());
    Mesh cast = made(scan, a(Form.CYLINDER, 24)).work().cast();
    assertThat(Naive.closedAndOriented(cast)).isTrue();
    // As large as the round one, whose ends were not seen.
    assertThat(Measures.volume(cast)).isCloseTo(Math.PI * 0.25 * 2, within(0.02));
    assertThat(FaceLists.of(cast).faces()).hasNumberOfRows(26);
  }

  @ParameterizedTest
  @ValueSource(ints = {5, 6, 8})
  void aPrismOfSoManySides(int n) {
    WallsScan s = new WallsScan();
    double[][] foot = new double[n][];
    for (int i = 0; i < n; i++) {
      foot[i] =
          Vec.of(
              2 * Math.cos(0.2 + 2 * Math.PI * i / n), 2 * Math.sin(0.2 + 2 * Math.PI * i / n), 0);
    }
    double[] up = {0, 0, 3};
    for (int i = 0; i < n; i++) {
      double[] b = foot[(i + 1) % n];
      s.wall(foot[i], b, Vec.add(b, up), Vec.add(foot[i], up));
    }
    FaceLists f = faces(s.scan(0.03, NOISE, 2), a(Form.PRISM, n));
    assertThat(f.faces()).hasNumberOfRows(n + 2);
    for (double[] c : foot) {
      // Across it lies to the noise over the root of the count; how high only to the noise.
      assertThat(off(f, c)).isLessThan(4 * NOISE);
    }
  }

  @Test
  void aDrawnOutlinePulledUp() {
    Mesh scan = WallsScan.house().scan(0.05, 0, 1);
    // An L, drawn clockwise; as high as the ridge within it.
    double[] l = {0, 0, 0, 0, 4, 0, 6, 4, 0, 6, 2, 0, 3, 2, 0, 3, 0, 0};
    MakeBlock drawn = new MakeBlock(Form.PRISM, 12, l, null, null, null);
    Mesh cast = made(scan, drawn).work().cast();
    assertThat(Naive.closedAndOriented(cast)).isTrue();
    assertThat(Measures.volume(cast)).isCloseTo(18 * 4.5, within(1.0));
    MakeBlock high = new MakeBlock(Form.PRISM, 12, l, new Length(2), null, null);
    assertThat(Measures.volume(made(scan, high).work().cast())).isCloseTo(36, within(1e-4));
    assertThat(high.with(null).outline()).isNull();
    double[] crossed = {0, 0, 0, 4, 4, 0, 4, 0, 0, 0, 4, 0};
    assertThatThrownBy(() -> made(scan, high.with(crossed))).hasMessageContaining("crosses");
    double[] away = {50, 50, 0, 51, 50, 0, 51, 51, 0};
    assertThatThrownBy(() -> made(scan, drawn.with(away))).hasMessageContaining("state a height");
  }

  @Test
  void aPlaneAndAStrip() {
    WallsScan s = new WallsScan();
    s.wall(Vec.of(0, 0, 1), Vec.of(3, 0, 1.3), Vec.of(3, 1, 1.3), Vec.of(0, 1, 1));
    Mesh scan = s.scan(0.02, NOISE, 2);
    FaceLists plane = faces(scan, a(Form.PLANE, 12));
    assertThat(plane.faces()).hasNumberOfRows(1);
    assertThat(plane.normal(0)[2]).isPositive();
    assertThat(off(plane, Vec.of(3, 1, 1.3))).isLessThan(8 * NOISE);
    // A path that bends: its strip follows, a plane cannot.
    float[] xyz = scan.xyz().clone();
    for (int v = 0; v < scan.vertexCount(); v++) {
      xyz[3 * v + 2] += (float) (0.2 * Math.sin(xyz[3 * v]));
    }
    FaceLists strip = faces(scan.withPositions(xyz), a(Form.STRIP, 16));
    assertThat(strip.faces()).hasNumberOfRows(16);
    for (int v = 0; v < strip.vertexCount(); v++) {
      double[] p = strip.at(v);
      assertThat(p[2]).isCloseTo(1 + 0.1 * p[0] + 0.2 * Math.sin(p[0]), within(0.01));
    }
    assertThat(strip.normal(3)[2]).isPositive();
  }

  static Stream<Mesh> rough() {
    return Stream.of(
        Shapes.mess(500, 3),
        new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {0, 0, 0, Float.NaN, 0, 0, 0, 1, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {0, 0, 0, 3e38f, 0, 0, 0, 3e38f, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {5, 5, 5, 5, 5, 5, 5, 5, 5}, new int[] {0, 1, 2}),
        Shapes.sheet(1, 3),
        Shapes.cube(2),
        Shapes.sphere(1, 3),
        new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 9, 9, 9}, new int[] {0, 1, 2, 0, 0, 1}));
  }

  @ParameterizedTest
  @MethodSource("rough")
  void aSoundCastOrALine(Mesh scan) {
    for (Form form : Form.values()) {
      try {
        Mesh cast = made(scan, a(form, 7)).work().cast();
        Naive.assertSound(cast);
        assertThat(form == Form.PLANE || form == Form.STRIP || Naive.closedAndOriented(cast))
            .isTrue();
      } catch (Failure f) {
        assertThat(f.getMessage()).isNotBlank().doesNotContain("\n");
      }
    }
  }

  @Test
  void oneThreadAndManyMakeTheSame() {
    Mesh scan = crate().scan(0.02, NOISE, 9);
    int threads = Parallel.threads();
    for (Form form : Form.values()) {
      Mesh many = made(scan, a(form, 7)).work().cast();
      try {
        Parallel.limitThreads(1);
        assertThat(made(scan, a(form, 7)).work().cast().sameAs(many)).isTrue();
      } finally {
        Parallel.limitThreads(threads);
      }
    }
  }

  @Test
  void whatIsWrongIsSaid() {
    assertThatThrownBy(() -> a(Form.PRISM, 5).with(new double[] {1, 2, 3}))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> a(Form.BOX, 5).with(new double[9])).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new MakeBlock(Form.PRISM, 5, null, new Length(0), null, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> made(new Mesh(new float[0], new int[0]), a(Form.BOX, 5)))
        .isInstanceOf(Failure.class);
  }
}
