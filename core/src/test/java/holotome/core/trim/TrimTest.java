package holotome.core.trim;

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
import holotome.core.select.Fence;
import holotome.core.select.StoredSelection;
import holotome.core.step.Blob;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Islands;
import holotome.core.unit.Length;
import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TrimTest {
  private static Mesh cut(Mesh m, double[] point, double[] normal, PlaneCut.Close close) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN);
    Mesh out = new PlaneCut(point, normal, close).apply(in, Run.unwatched()).work().scan();
    Naive.assertSound(out);
    return out;
  }

  @ParameterizedTest
  @ValueSource(doubles = {-0.9, -0.5, -0.1, 0, 0.30001, 0.7, 0.95})
  void capOfASphereHasItsVolume(double h) {
    Mesh m = cut(Shapes.sphere(1, 5), Vec.of(0, 0, h), Vec.of(0, 0, 1), PlaneCut.Close.FLAT);
    // Spherical cap of height 1 - h: pi (1 - h)^2 (2 + h) / 3.
    double v = Math.PI * (1 - h) * (1 - h) * (2 + h) / 3;
    assertThat(Naive.closedAndOriented(m)).isTrue();
    assertThat(Measures.volume(m)).isCloseTo(v, within(0.006));
    double cap = Math.PI * (1 - h * h);
    assertThat(Measures.area(m)).isCloseTo(2 * Math.PI * (1 - h) + cap, within(0.012));
  }

  @Test
  void bothHalvesMakeTheWhole() {
    Random r = new Random(2);
    Mesh m = Shapes.torus(2, 0.7, 60, 30);
    for (int i = 0; i < 40; i++) {
      double[] n = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
      double[] p = Vec.of(r.nextGaussian() * 0.5, r.nextGaussian() * 0.5, r.nextGaussian() * 0.2);
      Mesh a = cut(m, p, n, PlaneCut.Close.FLAT);
      Mesh b = cut(m, p, Vec.mul(n, -1), PlaneCut.Close.FLAT);
      assertThat(Naive.border(a)).isZero();
      assertThat(Naive.crowded(a)).isZero();
      assertThat(Measures.volume(a) + Measures.volume(b))
          .isCloseTo(Measures.volume(m), within(1e-4));
    }
  }

  @Test
  void torusCutAcrossIsTwoTubesOrARing() {
    Mesh half =
        cut(Shapes.torus(2, 0.5, 64, 32), Vec.of(0, 0, 0), Vec.of(1, 0, 0), PlaneCut.Close.FLAT);
    assertThat(euler(half)).isEqualTo(2);
    // Cut along its plane the two outlines lie within each other: the cap is a ring.
    Mesh lid =
        cut(Shapes.torus(2, 0.5, 64, 32), Vec.of(0, 0, 0.1), Vec.of(0, 0, 1), PlaneCut.Close.FLAT);
    assertThat(Naive.closedAndOriented(lid)).isTrue();
    assertThat(euler(lid)).isZero();
  }

  private static long euler(Mesh m) {
    return m.vertexCount() - Adjacency.of(m).edgeCount() + m.triangleCount();
  }

  @Test
  void cubeCutThroughVerticesEdgesAndFaces() {
    Mesh m = Shapes.cube(2);
    Mesh diagonal = cut(m, Vec.of(0, 0, 0), Vec.of(1, 1, 0), PlaneCut.Close.FLAT);
    assertThat(Naive.closedAndOriented(diagonal)).isTrue();
    assertThat(Measures.volume(diagonal)).isCloseTo(4, within(1e-5));
    Mesh corner = cut(m, Vec.of(1, 1, 0), Vec.of(1, 1, 1), PlaneCut.Close.FLAT);
    assertThat(Measures.volume(corner)).isCloseTo(1 / 6.0, within(1e-5));
    Mesh touching = cut(m, Vec.of(0, 0, -1), Vec.of(0, 0, 1), PlaneCut.Close.FLAT);
    assertThat(Measures.volume(touching)).isCloseTo(8, within(1e-5));
    assertThat(Naive.closedAndOriented(touching)).isTrue();
    assertThatThrownBy(() -> cut(m, Vec.of(0, 0, 1), Vec.of(0, 0, 1), PlaneCut.Close.OPEN))
        .isInstanceOf(Failure.class);
  }

  @Test
  void openCutLiesExactlyOnThePlane() {
    Mesh m =
        cut(
            Shapes.coloured(Shapes.sphere(1, 4)),
            Vec.of(0, 0, 0.25),
            Vec.of(0, 0, 1),
            PlaneCut.Close.OPEN);
    assertThat(Naive.border(m)).isPositive();
    int[] twin = Adjacency.of(m).twin();
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] < 0) {
        assertThat(m.xyz()[3 * m.triangles()[h] + 2]).isCloseTo(0.25f, within(1e-6f));
      }
    }
    assertThat(m.colours()).hasSize(m.vertexCount());
  }

  @Test
  void cutIsInWorkingSpaceWhateverTheFrame() {
    Similarity place =
        Similarity.turning(Vec.of(0, 1, 0), Math.PI / 2)
            .then(Similarity.scaling(10))
            .then(Similarity.translation(Vec.of(5, 0, 0)));
    Workpiece in = Workpiece.of(Shapes.sphere(1, 4), Frame.PLAIN.placed(place));
    Workpiece out =
        new PlaneCut(Vec.of(8, 0, 0), Vec.of(1, 0, 0), PlaneCut.Close.OPEN)
            .apply(in, Run.unwatched())
            .work();
    assertThat(out.frame().workBounds(out.scan()).minX()).isCloseTo(8, within(1e-4));
    assertThat(out.frame().workBounds(out.scan()).maxX()).isCloseTo(15, within(1e-4));
  }

  @Test
  void islandsBySizeAndByRank() {
    Mesh m =
        Shapes.together(
            Shapes.sphere(1, 3),
            Shapes.moved(Shapes.cube(0.2), 3, 0, 0),
            Shapes.moved(Shapes.sphere(0.05, 2), -3, 0, 0));
    Workpiece in = Workpiece.of(m, Frame.PLAIN);
    assertThat(
            new KeepIslands(KeepIslands.Keep.LARGEST, 1, new Length(0))
                .apply(in, Run.unwatched())
                .work()
                .scan()
                .triangleCount())
        .isEqualTo(1280);
    Mesh byCount =
        new KeepIslands(KeepIslands.Keep.LARGER, 100, new Length(0))
            .apply(in, Run.unwatched())
            .work()
            .scan();
    assertThat(Islands.of(byCount).sizes()).containsExactly(1280, 320);
    Mesh bySize =
        new KeepIslands(KeepIslands.Keep.LARGER, 1, new Length(0.3))
            .apply(in, Run.unwatched())
            .work()
            .scan();
    assertThat(Islands.of(bySize).sizes()).containsExactly(1280, 12);
    assertThatThrownBy(
            () ->
                new KeepIslands(KeepIslands.Keep.LARGER, 5000, new Length(0))
                    .apply(in, Run.unwatched()))
        .isInstanceOf(Failure.class);
  }

  @Test
  void storedSelectionsComeBackAsTheyWere() {
    Random r = new Random(5);
    for (int round = 0; round < 100; round++) {
      int n = 1 + r.nextInt(5000);
      BitSet s = new BitSet();
      for (int i = 0; i < n; i += 1 + r.nextInt(1 + round)) {
        s.set(i, Math.min(n, i + 1 + r.nextInt(1 + round)));
      }
      assertThat(StoredSelection.decode(StoredSelection.encode(s, n), n)).isEqualTo(s);
    }
    Blob text = StoredSelection.encode(new BitSet(), 10);
    assertThatThrownBy(() -> StoredSelection.decode(text, 11)).hasMessageContaining("10 triangles");
    assertThatThrownBy(() -> StoredSelection.decode(Blob.parse("AAAA"), 11))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> StoredSelection.decode(Blob.parse("*"), 11))
        .isInstanceOf(Failure.class);
  }

  @Test
  void fenceSelectsWhatItsOutlineHoldsAllTheWayThrough() {
    Mesh m = Shapes.sphere(1, 4);
    double[] view = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};
    Fence f = new Fence(view, new double[] {0, -2, 2, -2, 2, 2, 0, 2});
    BitSet s = f.select(m, Frame.PLAIN, Work.unwatched());
    for (int t = 0; t < m.triangleCount(); t++) {
      double x = 0;
      for (int k = 0; k < 3; k++) {
        x += m.xyz()[3 * m.triangles()[3 * t + k]] / 3.0;
      }
      if (Math.abs(x) > 1e-6) {
        assertThat(s.get(t)).isEqualTo(x > 0);
      }
    }
    Workpiece in = Workpiece.of(m, Frame.PLAIN);
    int kept =
        new CutSelection(null, f, null, CutSelection.Then.KEEP)
            .apply(in, Run.unwatched())
            .work()
            .scan()
            .triangleCount();
    int left =
        new CutSelection(null, f, null, CutSelection.Then.REMOVE)
            .apply(in, Run.unwatched())
            .work()
            .scan()
            .triangleCount();
    assertThat(kept).isEqualTo(s.cardinality());
    assertThat(kept + left).isEqualTo(m.triangleCount());
  }

  @Test
  void groundIsCutAwayUnderWhatStandsOnIt() {
    Mesh ground = Shapes.moved(Shapes.sheet(6, 30), -3, -3, 0);
    Mesh body = Shapes.moved(Shapes.sphere(1, 4), 0, 0, 0.5);
    Workpiece in = Workpiece.of(Shapes.together(ground, body), Frame.PLAIN);
    Mesh out =
        new CutGround(new Length(0.05), PlaneCut.Close.FLAT)
            .apply(in, Run.unwatched())
            .work()
            .scan();
    assertThat(out.bounds().minZ()).isCloseTo(0.05, within(1e-4));
    assertThat(Naive.closedAndOriented(out)).isTrue();
    assertThatThrownBy(
            () ->
                new CutGround(new Length(0), PlaneCut.Close.OPEN)
                    .apply(Workpiece.of(body, Frame.PLAIN), Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("No ground");
  }
}
