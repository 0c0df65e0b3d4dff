package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Outward;
import holotome.core.spatial.SelfIntersections;
import holotome.core.spatial.SolidProof;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Handles;
import holotome.core.unit.Length;
import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** What makes a surface sound piece by piece: outsides, shells, spikes, crossings, handles. */
class SoundTest {
  private static Outcome apply(Step step, Mesh m) {
    return step.apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched());
  }

  private static Mesh over(Mesh m) {
    BitSet all = new BitSet();
    all.set(0, m.triangleCount());
    return Outward.turned(m, all, Work.unwatched());
  }

  /** The number of handles of a closed surface in one piece: 1 - chi / 2. */
  private static long genus(Mesh m) {
    Mesh used = Submesh.used(m);
    return 1 - (used.vertexCount() - Naive.edges(used).size() + used.triangleCount()) / 2;
  }

  @Test
  void islandsInsideOutAreTurnedAndHollowsStay() {
    Mesh hollow = Shapes.together(Shapes.sphere(1, 3), over(Shapes.sphere(0.5, 3)));
    Mesh wrong = Shapes.moved(over(Shapes.torus(1, 0.3, 30, 14)), 4, 0, 0);
    Random random = new Random(6);
    BitSet some = new BitSet();
    for (int t = 0; t < wrong.triangleCount(); t++) {
      some.set(t, random.nextInt(3) == 0);
    }
    Mesh mixed = Outward.turned(wrong, some, Work.unwatched());
    Mesh out = apply(new OrientOut(), Shapes.together(hollow, mixed)).work().scan();
    assertThat(SolidProof.of(out, Work.unwatched()).holds()).isTrue();
    double torus = Measures.volume(Shapes.torus(1, 0.3, 30, 14));
    assertThat(Measures.volume(out))
        .isCloseTo(
            Measures.volume(Shapes.sphere(1, 3)) - Measures.volume(Shapes.sphere(0.5, 3)) + torus,
            within(1e-4));
    assertThat(apply(new OrientOut(), out).work().scan()).isSameAs(out);
  }

  @Test
  void whatIsShutInGoesAndWhatIsSeenStays() {
    Mesh inner = Shapes.moved(Shapes.sphere(0.2, 2), 0.3, 0, 0);
    Mesh all =
        Shapes.together(
            Shapes.sphere(1, 3), inner, over(Shapes.sphere(0.1, 2)), Shapes.moved(inner, 3, 0, 0));
    Outcome out = apply(new DropShells(null), all);
    assertThat(out.amount()).isEqualTo(2);
    assertThat(out.work().scan().triangleCount())
        .isEqualTo(Shapes.sphere(1, 3).triangleCount() + inner.triangleCount());
    assertThat(apply(new DropShells(new Length(0.5)), all).amount()).isEqualTo(1);
  }

  /** Vertices pulled far out of a ball come down again; the others do not move at all. */
  @Test
  void spikesAreLaidDownAndNothingElseMoves() {
    Mesh ball = Shapes.sphere(1, 4);
    float[] xyz = ball.xyz().clone();
    int[] pulled = {10, 500, 1500, 2000};
    for (int v : pulled) {
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] *= 2;
      }
    }
    Outcome out = apply(new TakeSpikes(Spikes.SHARP), ball.withPositions(xyz));
    float[] now = out.work().scan().xyz();
    BitSet spiked = new BitSet();
    for (int v : pulled) {
      spiked.set(v);
      double r =
          Math.sqrt(
              now[3 * v] * now[3 * v]
                  + now[3 * v + 1] * now[3 * v + 1]
                  + now[3 * v + 2] * now[3 * v + 2]);
      assertThat(r).isCloseTo(1, within(0.02));
    }
    for (int v = 0; v < now.length / 3; v++) {
      if (!spiked.get(v)) {
        for (int k = 0; k < 3; k++) {
          assertThat(now[3 * v + k]).isEqualTo(ball.xyz()[3 * v + k]);
        }
      }
    }
    assertThat(out.stated().getFirst()).startsWith("4 spikes");
    assertThat(apply(new TakeSpikes(Spikes.SHARP), ball).stated().getFirst()).contains("No spikes");
    assertThat(apply(new TakeSpikes(Spikes.SHARP), Shapes.cube(1)).amount()).isZero();
  }

  /** A dent pushed through the other side of a thin body: the crossing goes, the rest stays. */
  @Test
  void crossingsAreResolvedAndTheRestStays() {
    Mesh ball = Shapes.sphere(1, 5);
    float[] xyz = ball.xyz().clone();
    for (int v = 0; v < ball.vertexCount(); v++) {
      // The tip of a cap is pulled to the side, across its neighbours.
      if (xyz[3 * v + 2] > 0.985) {
        xyz[3 * v] += 0.35f;
        xyz[3 * v + 2] -= 0.08f;
      }
    }
    Mesh crossed = ball.withPositions(xyz);
    long before = SelfIntersections.count(crossed, Work.unwatched());
    assertThat(before).isPositive();
    Outcome out = apply(new CutCrossings(), crossed);
    Mesh now = out.work().scan();
    assertThat(SelfIntersections.count(now, Work.unwatched())).isZero();
    assertThat(Naive.border(now)).isZero();
    assertThat(SolidProof.of(now, Work.unwatched()).holds()).isTrue();
    assertThat(now.triangleCount()).isBetween(ball.triangleCount() / 2, 2 * ball.triangleCount());
    assertThat(Measures.volume(now)).isCloseTo(Measures.volume(ball), within(0.1));
    assertThat(apply(new CutCrossings(), ball).work().scan()).isSameAs(ball);
  }

  @Test
  void whatCrossesEverywhereIsRefused() {
    Mesh sheet = Shapes.sheet(1, 2);
    Mesh twice =
        Shapes.together(
            sheet, sheet.withPositions(sheet.xyz().clone()), Shapes.moved(sheet, 0.01, 0.01, 0));
    assertThatThrownBy(() -> apply(new CutCrossings(), twice))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("mend.solid");
  }

  /** The loops of a torus are as long as its tube is around; cut there it is a ball. */
  @Test
  void handlesAreFoundAndCut() {
    Mesh torus = Shapes.torus(1, 0.1, 120, 24);
    Handles all = Handles.of(Adjacency.of(torus), 100, Work.unwatched());
    assertThat(all.genus()).isEqualTo(1);
    assertThat(all.loops().length).isEqualTo(2);
    // A regular polygon of 24 sides in a circle of radius 0.1.
    assertThat(all.girths()[0]).isCloseTo(2 * 24 * 0.1 * Math.sin(Math.PI / 24), within(0.03));
    assertThat(genus(torus)).isEqualTo(1);
    Outcome cut = apply(new CutHandles(new Length(1)), torus);
    assertThat(cut.amount()).isEqualTo(1);
    assertThat(Naive.closedAndOriented(cut.work().scan())).isTrue();
    assertThat(genus(cut.work().scan())).isZero();
    Outcome none = apply(new CutHandles(new Length(0.2)), torus);
    assertThat(none.work().scan()).isSameAs(torus);
    // A ball has none, nor has one with holes, whose borders are no handles.
    Mesh ball = Shapes.sphere(1, 4);
    Mesh holed = Submesh.of(ball, t -> t % 200 != 0, Work.unwatched());
    assertThat(Handles.of(Adjacency.of(ball), 100, Work.unwatched()).genus()).isZero();
    assertThat(Handles.of(Adjacency.of(holed), 100, Work.unwatched()).genus()).isZero();
  }

  @Test
  void whatTouchesIsParted() {
    Mesh ball = Shapes.sphere(1, 2);
    Mesh two = Shapes.together(ball, Shapes.moved(ball, 5, 0, 0));
    int[] tri = two.triangles().clone();
    for (int c = 3 * ball.triangleCount(); c < tri.length; c++) {
      tri[c] = tri[c] == ball.vertexCount() ? 0 : tri[c];
    }
    Mesh touching = new Mesh(two.xyz(), tri);
    assertThat(Naive.verticesWithSeveralFans(touching)).isEqualTo(1);
    Mesh parted = apply(new MakeManifold(), touching).work().scan();
    assertThat(Naive.verticesWithSeveralFans(parted)).isZero();
    assertThat(apply(new MakeManifold(), parted).work().scan()).isSameAs(parted);
  }
}
