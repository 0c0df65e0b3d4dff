package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.Outward;
import holotome.core.spatial.SolidProof;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.spatial.WindingNumber;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.io.IOException;
import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Solids: proved, of the volume that formulas give, and as near to the scan as asked. */
class SolidTest {
  private static Outcome solid(Mesh m, double detail) {
    return new MakeSolid(MakeSolid.How.NEW, new Length(detail), null, null, MakeSolid.As.SCAN)
        .apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched());
  }

  private static void assertProved(Mesh m) {
    SolidProof proof = SolidProof.of(m, Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(Naive.closedAndOriented(m)).isTrue();
    assertThat(Naive.verticesWithSeveralFans(m)).isZero();
    assertThat(Measures.volume(m)).isPositive();
  }

  private static Mesh without(Mesh m, int... triangles) {
    BitSet gone = new BitSet();
    for (int t : triangles) {
      gone.set(t);
    }
    return Submesh.of(m, t -> !gone.get(t), Work.unwatched());
  }

  /** Around a ball 1 within and 0 outside; before a flat square what its solid angle says. */
  @Test
  void windingNumbersAreThoseOfTheSolidAngle() {
    WindingNumber.Query ball = WindingNumber.of(Bvh.of(Shapes.sphere(1, 5))).query();
    Random random = new Random(2);
    for (int i = 0; i < 2000; i++) {
      double x = 4 * random.nextDouble() - 2;
      double y = 4 * random.nextDouble() - 2;
      double z = 4 * random.nextDouble() - 2;
      double r = Math.sqrt(x * x + y * y + z * z);
      if (Math.abs(r - 1) > 0.02) {
        assertThat(ball.at(x, y, z)).isCloseTo(r < 1 ? 1 : 0, within(0.02));
      }
    }
    // The solid angle of a square of side a seen from a height h over its middle (Khadjavi, 1968):
    // 4 asin(a^2 / (a^2 + 4 h^2)), here with the square's front above.
    Mesh sheet = Shapes.moved(Shapes.sheet(2, 40), 0, 0, 0);
    double cx = sheet.bounds().centre()[0];
    double cy = sheet.bounds().centre()[1];
    WindingNumber.Query square = WindingNumber.of(Bvh.of(sheet)).query();
    for (double h : new double[] {0.1, 0.5, 1, 3}) {
      double expected = Math.asin(4 / (4 + 4 * h * h)) / Math.PI;
      assertThat(Math.abs(square.at(cx, cy, h))).isCloseTo(expected, within(0.02));
      assertThat(square.at(cx, cy, h)).isCloseTo(-square.at(cx, cy, -h), within(0.02));
    }
  }

  @Test
  void aBallWithHolesBecomesABall() {
    Mesh ball = Shapes.sphere(1, 5);
    Mesh holed = without(ball, 0, 1, 2, 3, 100, 101, 4000, 4001, 9000);
    Outcome out = solid(holed, 0.05);
    Mesh made = out.work().scan();
    assertProved(made);
    assertThat(Measures.volume(made)).isCloseTo(4 * Math.PI / 3, within(0.01));
    assertThat(SurfaceDistance.of(made, ball, 20_000, Work.unwatched()).rms()).isLessThan(0.004);
    assertThat(out.stated().getFirst()).contains("proved");
  }

  /** Sharp edges stay: a cube's volume and corners. */
  @Test
  void aCubeStaysACube() {
    Mesh cube = Shapes.cube(2);
    Mesh made = solid(cube, 0.09).work().scan();
    assertProved(made);
    assertThat(Measures.volume(made)).isCloseTo(8, within(0.002));
    assertThat(SurfaceDistance.of(made, cube, 20_000, Work.unwatched()).max()).isLessThan(0.01);
    assertThat(SurfaceDistance.of(cube, made, 20_000, Work.unwatched()).max()).isLessThan(0.03);
  }

  /** Two balls that cross, one of them inside out, every triangle by itself: their union. */
  @Test
  void crossingBallsInPiecesBecomeTheirUnion() {
    Mesh a = Shapes.sphere(1, 4);
    Mesh b = Shapes.moved(Shapes.sphere(1, 4), 1.03, 0.02, 0.01);
    int[] over = b.triangles().clone();
    for (int t = 0; t < over.length; t += 3) {
      int s = over[t];
      over[t] = over[t + 1];
      over[t + 1] = s;
    }
    Mesh both = Shapes.together(a, new Mesh(b.xyz(), over));
    float[] xyz = new float[9 * both.triangleCount()];
    int[] tri = new int[3 * both.triangleCount()];
    for (int c = 0; c < tri.length; c++) {
      tri[c] = c;
      System.arraycopy(both.xyz(), 3 * both.triangles()[c], xyz, 3 * c, 3);
    }
    Outcome out = solid(new Mesh(xyz, tri), 0.04);
    Mesh made = out.work().scan();
    assertProved(made);
    // Two unit balls at distance d less their lens: 2 (4/3 pi) - pi (4 + d) (2 - d)^2 / 12.
    double d = Math.sqrt(1.03 * 1.03 + 0.02 * 0.02 + 0.01 * 0.01);
    double union = 8 * Math.PI / 3 - Math.PI * (4 + d) * (2 - d) * (2 - d) / 12;
    assertThat(Measures.volume(made)).isCloseTo(union, within(0.03));
    assertThat(out.stated()).anyMatch(n -> n.contains("turned outwards"));
  }

  /** A hollow keeps its hollow; a torus its hole. */
  @Test
  void hollowsAndHandlesStay() {
    Mesh inner = Shapes.sphere(0.6, 4);
    int[] over = inner.triangles().clone();
    for (int t = 0; t < over.length; t += 3) {
      int s = over[t];
      over[t] = over[t + 1];
      over[t + 1] = s;
    }
    Mesh hollow = Shapes.together(Shapes.sphere(1, 4), new Mesh(inner.xyz(), over));
    Mesh made = solid(hollow, 0.06).work().scan();
    assertProved(made);
    assertThat(Measures.volume(made)).isCloseTo(4 * Math.PI / 3 * (1 - 0.216), within(0.05));
    Mesh torus = solid(Shapes.torus(2, 0.5, 80, 40), 0.08).work().scan();
    assertProved(torus);
    assertThat(torus.vertexCount() - torus.triangleCount() / 2).isZero();
    assertThat(Measures.volume(torus)).isCloseTo(2 * Math.PI * Math.PI * 2 * 0.25, within(0.1));
  }

  @Test
  void anyMessGivesAProvedSolidOrIsRefusedWithAReason() {
    int made = 0;
    for (int seed = 0; seed < Datasets.times(12, 200); seed++) {
      Mesh mess = Shapes.mess(60 + 20 * seed % 400, seed);
      try {
        Mesh m = solid(mess, mess.bounds().diagonal() / 40).work().scan();
        assertProved(m);
        made++;
      } catch (Failure f) {
        assertThat(f.getMessage()).contains("no volume");
      }
    }
    assertThat(made).isPositive();
  }

  @Test
  void aSheetIsRefusedAndAWideGapIsToo() {
    assertThatThrownBy(() -> solid(Shapes.sheet(1, 10), 0.05))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no volume");
    Mesh ball = Shapes.sphere(1, 4);
    Mesh bowl =
        Submesh.of(ball, t -> ball.xyz()[3 * ball.triangles()[3 * t] + 2] < 0.5, Work.unwatched());
    Workpiece w = Workpiece.of(bowl, Frame.PLAIN);
    MakeSolid narrow =
        new MakeSolid(
            MakeSolid.How.NEW, new Length(0.05), null, new Length(0.2), MakeSolid.As.SCAN);
    assertThatThrownBy(() -> narrow.apply(w, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("opening");
    MakeSolid wide =
        new MakeSolid(MakeSolid.How.NEW, new Length(0.05), null, new Length(2), MakeSolid.As.CAST);
    Workpiece out = wide.apply(w, Run.unwatched()).work();
    assertProved(out.cast());
    assertThat(out.scan()).isSameAs(bowl);
  }

  /** What is a solid but for holes is mended as it is; what is none is made anew. */
  @Test
  void theWayIsChosenByWhatCanBeProved() {
    Mesh holed = without(Shapes.sphere(1, 4), 5, 6, 7);
    MakeSolid auto = new MakeSolid(MakeSolid.How.AUTO, null, null, null, MakeSolid.As.SCAN);
    Outcome kept = auto.apply(Workpiece.of(holed, Frame.PLAIN), Run.unwatched());
    assertThat(kept.stated().getFirst()).contains("was kept");
    assertProved(kept.work().scan());
    Mesh crossing =
        Shapes.together(Shapes.sphere(1, 4), Shapes.moved(Shapes.sphere(1, 4), 1, 0.1, 0.05));
    Outcome made = auto.apply(Workpiece.of(crossing, Frame.PLAIN), Run.unwatched());
    assertThat(made.stated().getFirst()).contains("new surface");
    assertProved(made.work().scan());
    MakeSolid keep = new MakeSolid(MakeSolid.How.KEEP, null, null, null, MakeSolid.As.SCAN);
    assertThatThrownBy(() -> keep.apply(Workpiece.of(crossing, Frame.PLAIN), Run.unwatched()))
        .hasMessageContaining("cross");
  }

  @Test
  void aCountOfTrianglesIsNearlyMet() {
    MakeSolid some = new MakeSolid(MakeSolid.How.NEW, null, 5000, null, MakeSolid.As.SCAN);
    Mesh m =
        some.apply(Workpiece.of(Shapes.sphere(1, 5), Frame.PLAIN), Run.unwatched()).work().scan();
    assertThat(m.triangleCount()).isBetween(4400, 5600);
  }

  @Test
  void threadsDoNotMatter() {
    Mesh mess = Shapes.mess(300, 4);
    Mesh many = solid(mess, mess.bounds().diagonal() / 50).work().scan();
    Parallel.limitThreads(1);
    try {
      assertThat(solid(mess, mess.bounds().diagonal() / 50).work().scan().sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(64);
    }
  }

  /** Each hand-made fault is what the proof fails for. */
  @Test
  void theProofFindsEachFaultMadeByHand() {
    Mesh ball = Shapes.sphere(1, 3);
    assertThat(SolidProof.of(ball, Work.unwatched()).holds()).isTrue();
    assertThat(SolidProof.of(without(ball, 7), Work.unwatched()).openEdges()).isEqualTo(3);
    int[] over = ball.triangles().clone();
    over[0] = ball.triangles()[1];
    over[1] = ball.triangles()[0];
    SolidProof disagreeing = SolidProof.of(new Mesh(ball.xyz(), over), Work.unwatched());
    assertThat(disagreeing.disagreeingEdges()).isEqualTo(3);
    assertThat(disagreeing.holds()).isFalse();
    Mesh inside = Outward.turned(ball, all(ball), Work.unwatched());
    assertThat(SolidProof.of(inside, Work.unwatched()).turned()).isEqualTo(1);
    // Two balls that touch in one point they share.
    Mesh two = Shapes.together(ball, Shapes.moved(ball, 5, 0, 0));
    int[] tri = two.triangles().clone();
    for (int c = 3 * ball.triangleCount(); c < tri.length; c++) {
      tri[c] = tri[c] == ball.vertexCount() ? 0 : tri[c];
    }
    assertThat(SolidProof.of(new Mesh(two.xyz(), tri), Work.unwatched()).pinchedPoints())
        .isEqualTo(1);
    Mesh crossing = Shapes.together(ball, Shapes.moved(ball, 1, 0.03, 0.02));
    assertThat(SolidProof.of(crossing, Work.unwatched()).crossings()).isPositive();
    Mesh within = Shapes.together(ball, Shapes.sphere(0.4, 2));
    assertThat(SolidProof.of(within, Work.unwatched()).turned()).isEqualTo(1);
    assertThat(SolidProof.of(Shapes.together(ball, ball), Work.unwatched()).holds()).isFalse();
  }

  private static BitSet all(Mesh m) {
    BitSet set = new BitSet();
    set.set(0, m.triangleCount());
    return set;
  }

  @Test
  @Timeout(120)
  void theDragonIsFollowedWithinHalfTheDetail() throws IOException {
    Mesh dragon = MeshReader.read(Datasets.file("dragon.ply"), Work.unwatched()).mesh();
    double diagonal = dragon.bounds().diagonal();
    Outcome out = solid(dragon, diagonal / 150);
    Mesh made = out.work().scan();
    assertThat(SolidProof.of(made, Work.unwatched()).holds()).isTrue();
    assertThat(SurfaceDistance.of(made, dragon, 50_000, Work.unwatched()).rms())
        .isLessThan(diagonal / 300);
  }
}
