package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.spatial.Outward;
import holotome.core.spatial.SolidProof;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import java.util.BitSet;
import java.util.List;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.EnumSource.Mode;

/** Pieces of the surface within holes: they are joined, not run over. */
class IslandFillTest {
  private static Outcome apply(Step step, Mesh m) {
    return step.apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched());
  }

  private static double[] middle(Mesh m, int t) {
    double[] out = new double[3];
    for (int c = 3 * t; c < 3 * t + 3; c++) {
      out = Vec.add(out, Vec.mul(Vec.at(m.xyz(), m.triangles()[c]), 1.0 / 3));
    }
    return out;
  }

  /** What is left of a mesh without the triangles whose middle is somewhere. */
  private static Mesh without(Mesh m, Predicate<double[]> gone) {
    return Submesh.of(m, t -> !gone.test(middle(m, t)), Work.unwatched());
  }

  private static double area(Mesh m) {
    double out = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      out += Vec.length(Measures.cross(m, t)) / 2;
    }
    return out;
  }

  /** Two islands stand in one hole of a flat sheet: filled, the area is the sheet's again. */
  @ParameterizedTest
  @EnumSource(value = FillHoles.How.class, mode = Mode.EXCLUDE, names = "BRIDGE")
  void islandsInAHoleOfASheetAreJoined(FillHoles.How how) {
    Mesh sheet = Shapes.sheet(2, 60);
    Mesh torn =
        without(
            sheet,
            p -> {
              double a = Math.hypot(p[0] - 0.75, p[1] - 1);
              double b = Math.hypot(p[0] - 1.3, p[1] - 1);
              return Math.hypot(p[0] - 1, p[1] - 1) < 0.8 && a > 0.15 && b > 0.2;
            });
    Outcome out = apply(new FillHoles(how, null, true), torn);
    Mesh filled = out.work().scan();
    Naive.assertSound(filled);
    assertThat(out.notes().toString()).contains("2 islands");
    assertThat(area(filled)).isCloseTo(4, within(1e-4));
    Adjacency adjacency = Adjacency.of(filled);
    assertThat(Borders.of(adjacency).loops()).hasNumberOfRows(1);
    assertThat(adjacency.crowdedEdges() + adjacency.misfitEdges()).isZero();
    assertThat(Survey.of(filled, Work.unwatched()).of(Fault.Kind.CROSSINGS)).isNull();
  }

  /** Of a ball a ring is gone: the cap within stays, and the ring comes to lie on the ball. */
  @Test
  void aCapWithinAHoleOfABallIsJoined() {
    Mesh ball = Shapes.sphere(1, 5);
    Mesh torn = without(ball, p -> p[2] > 0.75 && p[2] < 0.95);
    Mesh filled = apply(new FillHoles(FillHoles.How.SMOOTH, null, false), torn).work().scan();
    SolidProof proof = SolidProof.of(filled, Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(proof.islands()).isEqualTo(1);
    Mesh ring = Submesh.of(filled, t -> t >= torn.triangleCount(), Work.unwatched());
    assertThat(SurfaceDistance.of(ring, ball, 20_000, Work.unwatched()).max()).isLessThan(0.015);
  }

  /** What lies behind a hole or faces the other way is no part of its surface. */
  @Test
  void whatOnlyLooksAsIfItLayInAHoleIsLeft() {
    Mesh sheet = without(Shapes.sheet(2, 40), p -> Math.hypot(p[0] - 1, p[1] - 1) < 0.7);
    Mesh small = Shapes.moved(Shapes.sheet(0.3, 6), 0.85, 0.85, 0);
    int[] turned = small.triangles().clone();
    for (int c = 0; c < turned.length; c += 3) {
      int second = turned[c + 1];
      turned[c + 1] = turned[c + 2];
      turned[c + 2] = second;
    }
    Mesh[] apart = {Shapes.moved(small, 0, 0, -0.5), new Mesh(small.xyz(), turned)};
    for (Mesh piece : apart) {
      Outcome out =
          apply(new FillHoles(FillHoles.How.FLAT, null, true), Shapes.together(sheet, piece));
      assertThat(out.notes().toString()).doesNotContain("island");
      Adjacency adjacency = Adjacency.of(out.work().scan());
      assertThat(Borders.of(adjacency).loops()).hasNumberOfRows(1);
    }
  }

  /** A ring-shaped region, and with few triangles: the same plane, far fewer of them. */
  @Test
  void aPatchGoesRoundWhatIsNotSelectedAndMayHaveFewTriangles() {
    Mesh sheet = Shapes.sheet(2, 80);
    BitSet ring = new BitSet();
    for (int t = 0; t < sheet.triangleCount(); t++) {
      double[] p = middle(sheet, t);
      double far = Math.hypot(p[0] - 1, p[1] - 1);
      ring.set(t, far > 0.25 && far < 0.8);
    }
    List<Pick> picks = List.of(Pick.of(Pick.Join.REPLACE, ring, sheet.triangleCount()));
    int[] made = new int[2];
    for (PatchRegion.Meshing meshing : PatchRegion.Meshing.values()) {
      Mesh now =
          apply(new PatchRegion(picks, PatchRegion.Shape.PLANE, false, meshing), sheet)
              .work()
              .scan();
      Naive.assertSound(now);
      assertThat(Borders.of(Adjacency.of(now)).loops()).hasNumberOfRows(1);
      assertThat(area(now)).isCloseTo(4, within(1e-4));
      assertThat(now.bounds().maxZ() - now.bounds().minZ()).isLessThan(1e-5f);
      made[meshing.ordinal()] = now.triangleCount() - sheet.triangleCount() + ring.cardinality();
    }
    assertThat(made[0]).isBetween(ring.cardinality() / 2, 2 * ring.cardinality());
    assertThat(made[1]).isLessThan(made[0] / 2);
  }

  /** As dense as what is around it, however wide: on a plane there is nothing to fair. */
  @Test
  void aWidePaneIsAsDenseAsItsFrame() {
    Mesh sheet = Shapes.sheet(2, 300);
    BitSet pane = new BitSet();
    for (int t = 0; t < sheet.triangleCount(); t++) {
      double[] p = middle(sheet, t);
      pane.set(t, Math.max(Math.abs(p[0] - 1), Math.abs(p[1] - 1)) < 0.8);
    }
    List<Pick> picks = List.of(Pick.of(Pick.Join.REPLACE, pane, sheet.triangleCount()));
    Mesh now = apply(new PatchRegion(picks, PatchRegion.Shape.PLANE, false), sheet).work().scan();
    Naive.assertSound(now);
    int made = now.triangleCount() - sheet.triangleCount() + pane.cardinality();
    assertThat(made).isBetween(pane.cardinality() / 2, 2 * pane.cardinality());
    assertThat(area(now)).isCloseTo(4, within(1e-4));
    assertThat(now.bounds().maxZ() - now.bounds().minZ()).isLessThan(1e-5);
    assertThat(Survey.of(now, Work.unwatched()).faults()).hasSize(1);
  }

  /** The same on a cylinder, from outside and from inside: unrolled there is nothing lost. */
  @Test
  void aWidePartOfACylinderIsAsDenseAsItsFrame() {
    Mesh sheet = Shapes.sheet(2, 120);
    float[] xyz = sheet.xyz().clone();
    for (int i = 0; i < xyz.length; i += 3) {
      double angle = 2 * (xyz[i] - 1);
      xyz[i] = (float) Math.sin(angle);
      xyz[i + 2] = (float) Math.cos(angle);
    }
    Mesh out = sheet.withPositions(xyz);
    BitSet all = new BitSet();
    all.set(0, out.triangleCount());
    for (Mesh tube : new Mesh[] {out, Outward.turned(out, all, Work.unwatched())}) {
      BitSet part = new BitSet();
      for (int t = 0; t < tube.triangleCount(); t++) {
        double[] p = middle(sheet, t);
        part.set(t, Math.max(Math.abs(p[0] - 1), Math.abs(p[1] - 1)) < 0.8);
      }
      Mesh now = dense(tube, part, PatchRegion.Shape.CYLINDER);
      for (int i = 0; i < now.xyz().length; i += 3) {
        assertThat(Math.hypot(now.xyz()[i], now.xyz()[i + 2])).isCloseTo(1, within(1e-4));
      }
      assertThat(area(now)).isCloseTo(area(tube), within(1e-3));
    }
  }

  /** And on a ball, less than half of it or more, from outside and from inside. */
  @Test
  void aWideCapIsAsDenseAsItsFrame() {
    Mesh out = Shapes.sphere(1, 5);
    BitSet all = new BitSet();
    all.set(0, out.triangleCount());
    for (Mesh ball : new Mesh[] {out, Outward.turned(out, all, Work.unwatched())}) {
      for (double low : new double[] {0.5, -0.6}) {
        BitSet part = new BitSet();
        for (int t = 0; t < ball.triangleCount(); t++) {
          part.set(t, middle(ball, t)[2] > low);
        }
        Mesh now = dense(ball, part, PatchRegion.Shape.BALL);
        for (int i = 0; i < now.xyz().length; i += 3) {
          double[] p = {now.xyz()[i], now.xyz()[i + 1], now.xyz()[i + 2]};
          assertThat(Vec.length(p)).isCloseTo(1, within(1e-4));
        }
        // Flat triangles between points of a ball: each has a little less than the ball's area.
        assertThat(area(now)).isCloseTo(area(ball), within(5e-3));
      }
    }
  }

  /** With a part on a shape, sound, and with half to twice as many triangles as it had. */
  private static Mesh dense(Mesh mesh, BitSet part, PatchRegion.Shape shape) {
    List<Pick> picks = List.of(Pick.of(Pick.Join.REPLACE, part, mesh.triangleCount()));
    Mesh now = apply(new PatchRegion(picks, shape, false), mesh).work().scan();
    Naive.assertSound(now);
    int made = now.triangleCount() - mesh.triangleCount() + part.cardinality();
    assertThat(made).isBetween(part.cardinality() / 2, 2 * part.cardinality());
    Survey was = Survey.of(mesh, Work.unwatched());
    assertThat(Survey.of(now, Work.unwatched()).faults()).hasSameSizeAs(was.faults());
    return now;
  }
}
