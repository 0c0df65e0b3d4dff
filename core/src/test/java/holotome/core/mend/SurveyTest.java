package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Outward;
import holotome.core.spatial.SelfIntersections;
import holotome.core.step.Run;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Each fault made by hand is found, counted and placed; sound meshes have none. */
class SurveyTest {
  private static Survey survey(Mesh m) {
    return Survey.of(m, Work.unwatched());
  }

  private static long count(Mesh m, Fault.Kind kind) {
    Fault f = survey(m).of(kind);
    return f == null ? 0 : f.count();
  }

  private static Mesh over(Mesh m) {
    BitSet all = new BitSet();
    all.set(0, m.triangleCount());
    return Outward.turned(m, all, Work.unwatched());
  }

  @Test
  void soundMeshesHaveNoFaults() {
    for (Mesh m : new Mesh[] {Shapes.sphere(1, 4), Shapes.cube(1), Shapes.torus(2, 0.7, 40, 20)}) {
      assertThat(survey(m).faults()).isEmpty();
    }
    assertThat(survey(Shapes.torus(2, 0.7, 40, 20)).handles()).isEqualTo(1);
    assertThat(survey(new Mesh(new float[0], new int[0])).faults()).isEmpty();
  }

  @Test
  void whatStandsTwiceOrIsUnusedIsFound() {
    Mesh ball = Shapes.sphere(1, 3);
    int n = ball.vertexCount();
    float[] xyz = Arrays.copyOf(ball.xyz(), 3 * n + 6);
    System.arraycopy(ball.xyz(), 30, xyz, 3 * n, 3);
    xyz[3 * n + 3] = 7;
    int[] tri = Arrays.copyOf(ball.triangles(), ball.triangles().length + 9);
    int at = ball.triangles().length;
    // One of the corners of a triangle is the double; a triangle again; a line for a triangle.
    for (int c = 0; c < at; c++) {
      if (tri[c] == 10) {
        tri[c] = n;
        break;
      }
    }
    System.arraycopy(tri, 30, tri, at, 3);
    tri[at + 3] = tri[60];
    tri[at + 4] = tri[61];
    tri[at + 5] = tri[60];
    tri[at + 6] = tri[90];
    tri[at + 7] = tri[90];
    tri[at + 8] = tri[91];
    Mesh m = new Mesh(xyz, tri);
    float[] apart = new float[9 * ball.triangleCount()];
    int[] own = new int[3 * ball.triangleCount()];
    for (int c = 0; c < own.length; c++) {
      own[c] = c;
      System.arraycopy(ball.xyz(), 3 * ball.triangles()[c], apart, 3 * c, 3);
    }
    Mesh torn = new Mesh(apart, own);
    assertThat(count(torn, Fault.Kind.DOUBLED_POINTS)).isEqualTo(Naive.doubledPoints(torn));
    assertThat(count(m, Fault.Kind.UNUSED_POINTS)).isEqualTo(1);
    assertThat(count(m, Fault.Kind.DUPLICATE)).isEqualTo(1);
    assertThat(count(m, Fault.Kind.DEGENERATE)).isEqualTo(2);
    assertThat(count(m, Fault.Kind.CROWDED_EDGES)).isEqualTo(Naive.crowded(m)).isPositive();
  }

  @Test
  void piecesAndHolesAreFoundWithTheirPlaces() {
    Mesh ball = Shapes.sphere(1, 4);
    Mesh holed = Submesh.of(ball, t -> t != 100 && t != 3000, Work.unwatched());
    Survey s = survey(holed);
    assertThat(s.of(Fault.Kind.HOLES).count()).isEqualTo(2);
    float[] p = s.of(Fault.Kind.HOLES).places();
    assertThat(Math.sqrt(p[0] * p[0] + p[1] * p[1] + p[2] * p[2])).isCloseTo(1, within(1e-5));
    float[] sizes = s.of(Fault.Kind.HOLES).sizes();
    assertThat(sizes[0]).isGreaterThanOrEqualTo(sizes[1]);
    Mesh pieces =
        Shapes.together(
            ball,
            Shapes.moved(Shapes.sphere(0.1, 2), 0.2, 0.1, 0),
            Shapes.moved(over(Shapes.sphere(0.3, 2)), 4, 0, 0));
    assertThat(count(pieces, Fault.Kind.SHELLS)).isEqualTo(1);
    assertThat(count(pieces, Fault.Kind.INSIDE_OUT)).isEqualTo(1);
    Mesh thin = Shapes.torus(3, 0.05, 400, 16);
    Mesh handled = Shapes.together(Shapes.moved(Shapes.sphere(3, 3), 20, 0, 0), thin);
    assertThat(survey(handled).handles()).isEqualTo(1);
    assertThat(count(handled, Fault.Kind.HANDLES)).isEqualTo(1);
  }

  @Test
  void crossingsSpikesAndDisagreementsAreCounted() {
    Mesh ball = Shapes.sphere(1, 4);
    Mesh two = Shapes.together(ball, Shapes.moved(ball, 1, 0.03, 0.02));
    assertThat(count(two, Fault.Kind.CROSSINGS))
        .isEqualTo(SelfIntersections.count(two, Work.unwatched()));
    // One ring of crossings is one place.
    assertThat(survey(two).of(Fault.Kind.CROSSINGS).sizes()).hasSize(1);
    float[] xyz = ball.xyz().clone();
    for (int k = 0; k < 3; k++) {
      xyz[600 + k] *= 3;
    }
    Survey spiked = survey(ball.withPositions(xyz));
    assertThat(spiked.of(Fault.Kind.SPIKES).count()).isEqualTo(1);
    assertThat(spiked.of(Fault.Kind.SPIKES).sizes()[0]).isCloseTo(2, within(0.05f));
    int[] tri = ball.triangles().clone();
    int s = tri[0];
    tri[0] = tri[1];
    tri[1] = s;
    assertThat(count(new Mesh(ball.xyz(), tri), Fault.Kind.DISAGREEING)).isEqualTo(3);
  }

  @Test
  void threadsDoNotMatter() {
    Mesh mess = Shapes.mess(600, 9);
    Survey many = survey(mess);
    Parallel.limitThreads(1);
    try {
      Survey one = survey(mess);
      assertThat(one.faults()).hasSameSizeAs(many.faults());
      for (int i = 0; i < one.faults().size(); i++) {
        assertThat(one.faults().get(i).count()).isEqualTo(many.faults().get(i).count());
        assertThat(one.faults().get(i).places()).isEqualTo(many.faults().get(i).places());
      }
    } finally {
      Parallel.limitThreads(64);
    }
  }

  /** After edits, what is told from before is what a look at the whole tells. */
  @Test
  void afterAnEditTheSameIsFound() {
    Random r = new Random(4);
    Mesh now =
        Shapes.together(
            Shapes.sphere(1, 4), Shapes.moved(Shapes.sphere(1, 4), 1.3, 0.2, 0.1), bent());
    Survey before = Survey.of(now, Work.unwatched());
    int seen = 0;
    for (int i = 0; i < 25; i++) {
      int t = r.nextInt(now.triangleCount());
      double[] at = new double[9];
      for (int k = 0; k < 9; k++) {
        at[k] = now.xyz()[3 * now.triangles()[3 * t + k / 3] + k % 3];
      }
      double[] edge = java.util.Arrays.copyOf(at, 6);
      Edit e =
          switch (i % 5) {
            case 0 -> new Edit(Edit.How.MOVE, at, null, new double[] {0.4, 0.1, r.nextGaussian()});
            case 1 -> Edit.of(Edit.How.SPLIT, at);
            case 2 -> Edit.of(Edit.How.COLLAPSE, edge);
            case 3 -> Edit.of(Edit.How.TURN, edge);
            default -> Edit.of(Edit.How.DELETE, at);
          };
      Mesh next;
      try {
        next =
            new EditMesh(List.of(e))
                .apply(Workpiece.of(now, Frame.PLAIN), Run.unwatched())
                .work()
                .scan();
      } catch (holotome.core.task.Failure f) {
        continue;
      }
      Survey after = Survey.after(before, next, Work.unwatched());
      Survey whole = Survey.of(next, Work.unwatched());
      assertThat(after.crossings().count()).isEqualTo(whole.crossings().count());
      assertThat(after.crossings().triangles()).isEqualTo(whole.crossings().triangles());
      assertThat(after.faults().stream().map(f -> f.kind() + " " + f.count()).toList())
          .isEqualTo(whole.faults().stream().map(f -> f.kind() + " " + f.count()).toList());
      seen += after.crossings().count() != before.crossings().count() ? 1 : 0;
      now = next;
      before = after;
    }
    assertThat(seen).isGreaterThan(2);
  }

  /** A sheet with a triangle that comes through it. */
  private static Mesh bent() {
    Mesh sheet = Shapes.moved(Shapes.sheet(2, 20), 0, 0, 0.05);
    float[] xyz = sheet.xyz().clone();
    xyz[3 * 100 + 2] = 1.5f;
    return sheet.withPositions(xyz);
  }
}
