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
import holotome.core.select.Pick;
import holotome.core.spatial.SolidProof;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Hollow bodies, bases and patches, against formulas. */
class BodyTest {
  private static Outcome apply(Step step, Mesh m) {
    return step.apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched());
  }

  @Test
  void aBallIsHollowedToAWall() {
    Mesh ball = Shapes.sphere(1, 5);
    Mesh out = apply(new HollowOut(new Length(0.2), new Length(0.04)), ball).work().scan();
    SolidProof proof = SolidProof.of(out, Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(proof.islands()).isEqualTo(2);
    // A shell between radii 1 and 0.8.
    assertThat(proof.volume()).isCloseTo(4 * Math.PI / 3 * (1 - 0.512), within(0.06));
    Mesh inner = Submesh.of(out, t -> t >= ball.triangleCount(), Work.unwatched());
    for (int v = 0; v < inner.vertexCount(); v++) {
      double r =
          Math.sqrt(
              Math.pow(inner.xyz()[3 * v], 2)
                  + Math.pow(inner.xyz()[3 * v + 1], 2)
                  + Math.pow(inner.xyz()[3 * v + 2], 2));
      assertThat(r).isBetween(0.77, 0.8);
    }
    // The outside is what it was.
    assertThat(java.util.Arrays.copyOf(out.xyz(), ball.xyz().length)).isEqualTo(ball.xyz());
  }

  /** Outside and inside hang together then; each hole but the first makes a handle. */
  @Test
  void drainHolesGoThroughTheWall() {
    Mesh ball = Shapes.coloured(Shapes.sphere(1, 4));
    for (int holes = 1; holes <= 3; holes++) {
      HollowOut step =
          new HollowOut(new Length(0.2), new Length(0.05), new Length(0.16), holes, null);
      Outcome o = apply(step, ball);
      Mesh out = o.work().scan();
      SolidProof proof = SolidProof.of(out, Work.unwatched());
      assertThat(proof.holds()).as(proof.toString()).isTrue();
      assertThat(proof.islands()).isEqualTo(1);
      int euler = out.vertexCount() - out.triangleCount() / 2;
      assertThat(euler).isEqualTo(2 - 2 * (holes - 1));
      assertThat(o.notes().getLast()).contains("drain hole");
    }
    double whole =
        Measures.volume(
            apply(new HollowOut(new Length(0.2), new Length(0.05)), ball).work().scan());
    HollowOut one = new HollowOut(new Length(0.2), new Length(0.05), new Length(0.16), 1, null);
    // A cylinder through the wall, as a prism of 24 sides.
    double away = 12 * Math.sin(Math.PI / 12) * 0.08 * 0.08 * 0.2;
    assertThat(whole - Measures.volume(apply(one, ball).work().scan()))
        .isCloseTo(away, within(0.15 * away));
  }

  @Test
  void drainHolesArePlacedOnFewTriangles() {
    Mesh cube = Shapes.cube(1);
    double[] top = {0, 0, cube.bounds().maxZ()};
    HollowOut step = new HollowOut(new Length(0.1), new Length(0.05), new Length(0.1), null, top);
    Mesh out = apply(step, cube).work().scan();
    SolidProof proof = SolidProof.of(out, Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(proof.islands()).isEqualTo(1);
    HollowOut wide = new HollowOut(new Length(0.1), new Length(0.05), new Length(0.95), null, top);
    assertThatThrownBy(() -> apply(wide, cube))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("cleanly");
  }

  @Test
  void whatIsNoSolidOrTooThinIsNotHollowed() {
    Mesh open = Submesh.of(Shapes.sphere(1, 3), t -> t != 5, Work.unwatched());
    assertThatThrownBy(() -> apply(new HollowOut(new Length(0.1), null), open))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("mend.solid");
    assertThatThrownBy(() -> apply(new HollowOut(new Length(1.2), null), Shapes.sphere(1, 3)))
        .hasMessageContaining("Nothing would be hollow");
  }

  /** Under the half ball its own wall, then two discs, each wider by the ledge. */
  @Test
  void aSteppedBaseIsWhatItsDiscsAre() {
    Mesh half = dome(96, 32);
    double lowest = half.bounds().minZ();
    PutOnBase step = new PutOnBase(new Length(0.6), 3, new Length(0.1));
    Mesh out = apply(step, half).work().scan();
    SolidProof proof = SolidProof.of(out, Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(proof.islands()).isEqualTo(1);
    double expected =
        2 * Math.PI / 3 + Math.PI * (0.2 - lowest + 0.2 * 1.1 * 1.1 + 0.2 * 1.2 * 1.2);
    assertThat(Measures.volume(out)).isCloseTo(expected, within(0.012 * expected));
    assertThat(out.bounds().maxX()).isCloseTo(1.2, within(0.01));
    assertThat(out.bounds().minZ()).isCloseTo(lowest - 0.6, within(1e-6));
    // Under a square cloth all points of a side lie in a line.
    Mesh cloth = Shapes.moved(Shapes.sheet(6, 60), -3, -3, 0);
    Mesh slab = apply(step, cloth).work().scan();
    SolidProof flat = SolidProof.of(slab, Work.unwatched());
    assertThat(flat.holds()).as(flat.toString()).isTrue();
    double wide = Measures.volume(slab);
    assertThat(wide)
        .isCloseTo(
            0.2 * (36 + 36 + 24 * 0.1 + Math.PI * 0.01 + 36 + 24 * 0.2 + Math.PI * 0.04),
            within(1e-3 * wide));
  }

  /** The ends of a pipe, joined again: as much surface as was cut out. */
  @Test
  void twoRimsAreJoinedByABridge() {
    int around = 40;
    Mesh pipe = Shapes.torus(2, 0.5, 60, around);
    BitSet away = new BitSet();
    away.set(0, 2 * around * 3);
    Mesh open = Submesh.of(pipe, t -> !away.get(t), Work.unwatched());
    assertThat(Naive.border(open)).isEqualTo(2 * around);
    Mesh out = apply(new FillHoles(FillHoles.How.BRIDGE, null, false), open).work().scan();
    assertThat(Naive.closedAndOriented(out)).isTrue();
    assertThat(out.triangleCount()).isEqualTo(open.triangleCount() + 2 * around);
    assertThat(Measures.volume(out)).isCloseTo(Measures.volume(pipe), within(0.05));
    assertThat(SolidProof.of(out, Work.unwatched()).holds()).isTrue();
    Mesh one = Submesh.of(Shapes.sphere(1, 3), t -> t != 5, Work.unwatched());
    assertThatThrownBy(() -> apply(new FillHoles(FillHoles.How.BRIDGE, null, false), one))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("two rims");
  }

  /** Half a ball on a base: its volume is that of the half ball and of the cylinder under it. */
  @Test
  void anOpenBustStandsOnItsBase() {
    Mesh half = dome(96, 32);
    double lowest = half.bounds().minZ();
    Mesh out = apply(new PutOnBase(new Length(0.5)), half).work().scan();
    assertThat(Naive.border(out)).isZero();
    SolidProof proof = SolidProof.of(out, Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(out.bounds().minZ()).isCloseTo(lowest - 0.5, within(1e-6));
    double expected = 2 * Math.PI / 3 + Math.PI * (0.5 - lowest);
    assertThat(Measures.volume(out)).isCloseTo(expected, within(0.03));
    assertThatThrownBy(() -> apply(new PutOnBase(new Length(0.5)), Shapes.sphere(1, 3)))
        .hasMessageContaining("no open border");
    // Cut along its triangles a ball's rim has points one under the other.
    Mesh ball = Shapes.sphere(1, 4);
    Mesh ragged =
        Submesh.of(
            ball,
            t -> {
              float[] z = ball.xyz();
              int[] c = ball.triangles();
              return z[3 * c[3 * t] + 2] + z[3 * c[3 * t + 1] + 2] + z[3 * c[3 * t + 2] + 2] > 0;
            },
            Work.unwatched());
    assertThatThrownBy(() -> apply(new PutOnBase(new Length(0.5)), ragged))
        .hasMessageContaining("over itself");
  }

  /** The upper half of a ball, its rim in a plane. */
  private static Mesh dome(int around, int rows) {
    float[] xyz = new float[3 * (around * rows + 1)];
    xyz[2] = 1;
    int[] tri = new int[3 * around * (2 * rows - 1)];
    int c = 0;
    for (int r = 0; r < rows; r++) {
      double up = Math.PI / 2 * (1 - (r + 1.0) / rows);
      for (int i = 0; i < around; i++) {
        int v = 1 + r * around + i;
        int next = 1 + r * around + (i + 1) % around;
        double turn = 2 * Math.PI * i / around;
        xyz[3 * v] = (float) (Math.cos(up) * Math.cos(turn));
        xyz[3 * v + 1] = (float) (Math.cos(up) * Math.sin(turn));
        xyz[3 * v + 2] = (float) Math.sin(up);
        int[] some =
            r == 0
                ? new int[] {0, v, next}
                : new int[] {v - around, v, next, v - around, next, next - around};
        System.arraycopy(some, 0, tri, c, some.length);
        c += some.length;
      }
    }
    return new Mesh(xyz, tri);
  }

  /** A flat wall with two panes that boil: after the patch they lie in the wall's plane. */
  @Test
  void boilingPanesBecomeOnePlaneAndKeepTheirColour() {
    Mesh wall = Shapes.sheet(2, 100);
    float[] xyz = wall.xyz().clone();
    int[] colours = new int[wall.vertexCount()];
    Random random = new Random(8);
    BitSet panes = new BitSet();
    for (int v = 0; v < wall.vertexCount(); v++) {
      boolean isGlass = isGlass(xyz[3 * v], xyz[3 * v + 1]);
      xyz[3 * v + 2] = (float) ((isGlass ? 0.03 : 0.0005) * random.nextGaussian());
      colours[v] = isGlass ? 0xff2040c0 : 0xffc0c0b0;
    }
    for (int t = 0; t < wall.triangleCount(); t++) {
      for (int k = 0; k < 3; k++) {
        int v = wall.triangles()[3 * t + k];
        if (isGlass(xyz[3 * v], xyz[3 * v + 1])) {
          panes.set(t);
        }
      }
    }
    Mesh scan = new Mesh(xyz, wall.triangles(), colours);
    Pick pick = Pick.of(Pick.Join.REPLACE, panes, wall.triangleCount());
    Outcome out = apply(new PatchRegion(List.of(pick), PatchRegion.Shape.PLANE, true), scan);
    assertThat(out.amount()).isEqualTo(2);
    Mesh now = out.work().scan();
    assertThat(Naive.border(now)).isEqualTo(400);
    int blue = 0;
    int inner = 0;
    for (int v = 0; v < now.vertexCount(); v++) {
      assertThat(now.xyz()[3 * v + 2]).isBetween(-0.004f, 0.004f);
      if (isGlass(now.xyz()[3 * v], now.xyz()[3 * v + 1])) {
        inner++;
        assertThat(Math.abs(now.xyz()[3 * v + 2])).isLessThan(0.0015f);
        blue += now.colours()[v] == 0xff2040c0 ? 1 : 0;
      }
    }
    assertThat(inner).isGreaterThan(300);
    assertThat(blue).isGreaterThan(inner * 8 / 10);
    assertThatThrownBy(
            () ->
                apply(
                    new PatchRegion(
                        List.of(Pick.of(Pick.Join.REPLACE, all(scan), scan.triangleCount())),
                        PatchRegion.Shape.PLANE,
                        false),
                    scan))
        .hasMessageContaining("Everything");
  }

  private static boolean isGlass(double x, double y) {
    return y > 0.5 && y < 1.5 && (x > 0.3 && x < 0.8 || x > 1.2 && x < 1.7);
  }

  private static BitSet all(Mesh m) {
    BitSet set = new BitSet();
    set.set(0, m.triangleCount());
    return set;
  }

  /** A dented part of a ball and of a tube goes back to the ball and the tube around it. */
  @Test
  void ballsAndTubesAreContinued() {
    Mesh ball = Shapes.sphere(1, 5);
    BitSet dented = new BitSet();
    float[] xyz = ball.xyz().clone();
    for (int t = 0; t < ball.triangleCount(); t++) {
      boolean any = false;
      for (int k = 0; k < 3; k++) {
        any |= ball.xyz()[3 * ball.triangles()[3 * t + k] + 2] > 0.9f;
      }
      dented.set(t, any);
    }
    for (int v = 0; v < ball.vertexCount(); v++) {
      if (xyz[3 * v + 2] > 0.9f) {
        xyz[3 * v + 2] -= 0.2f;
      }
    }
    Mesh scan = ball.withPositions(xyz);
    Pick pick = Pick.of(Pick.Join.REPLACE, dented, ball.triangleCount());
    Mesh now =
        apply(new PatchRegion(List.of(pick), PatchRegion.Shape.BALL, false), scan).work().scan();
    assertThat(SolidProof.of(now, Work.unwatched()).holds()).isTrue();
    assertThat(SurfaceDistance.of(now, ball, 20_000, Work.unwatched()).max()).isLessThan(0.003);
  }

  /**
   * Under the point the surface goes the whole way, at the radius not at all, in between softly.
   */
  @Test
  void aPullGoesTheWholeWayAtItsPointAndFadesOut() {
    Mesh sheet = Shapes.moved(Shapes.sheet(2, 80), -1, -1, 0);
    Mesh both = Shapes.together(sheet, Shapes.moved(sheet, 0, 0, -0.2));
    double[] at = {0, 0, 0};
    double[] by = {0.1, 0, 0.3};
    Mesh now = apply(new PullSurface(at, by, new Length(0.5), null), both).work().scan();
    for (int v = 0; v < both.vertexCount(); v++) {
      double x = both.xyz()[3 * v];
      double y = both.xyz()[3 * v + 1];
      double near = Math.max(0, 1 - Math.hypot(x, y) / 0.5);
      // What lies below is near, but does not hang together with it.
      double w = v < sheet.vertexCount() ? near * near * (3 - 2 * near) : 0;
      assertThat((double) now.xyz()[3 * v] - x).isCloseTo(0.1 * w, within(1e-6));
      assertThat((double) now.xyz()[3 * v + 2] - both.xyz()[3 * v + 2])
          .isCloseTo(0.3 * w, within(1e-6));
    }
    assertThatThrownBy(
            () -> apply(new PullSurface(new double[] {9, 9, 9}, by, new Length(0.5), null), both))
        .hasMessageContaining("no surface");
  }

  /** The inner surface is coarser than the wall: it is then thicker, and that is said. */
  @Test
  void theWallThatIsMadeIsTheOneThatIsSaid() {
    Mesh ball = Shapes.sphere(1, 5);
    Outcome out = apply(new HollowOut(new Length(0.01), new Length(0.1)), ball);
    Mesh all = out.work().scan();
    Mesh inner = Submesh.of(all, t -> t >= ball.triangleCount(), Work.unwatched());
    SurfaceDistance d = SurfaceDistance.of(inner, ball, 20_000, Work.unwatched());
    assertThat(d.mean()).isGreaterThan(0.01);
    assertThat(d.max()).isLessThan(0.06);
    assertThat(out.notes().getFirst()).contains("to").contains("thick");
  }

  /** A dent in the wall of a tube goes back to the tube around it. */
  @Test
  void tubesAreContinued() {
    int around = 90;
    int rows = 60;
    float[] xyz = new float[3 * around * rows];
    int[] tri = new int[6 * around * (rows - 1)];
    BitSet dent = new BitSet();
    int c = 0;
    for (int r = 0; r < rows; r++) {
      for (int i = 0; i < around; i++) {
        double a = 2 * Math.PI * i / around;
        double z = 0.05 * r;
        boolean isDent = a > 1 && a < 2 && z > 1 && z < 2;
        double radius = isDent ? 0.9 + 0.02 * ((i * 7 + r * 3) % 5) : 1;
        xyz[3 * (r * around + i)] = (float) (radius * Math.cos(a));
        xyz[3 * (r * around + i) + 1] = (float) (radius * Math.sin(a));
        xyz[3 * (r * around + i) + 2] = (float) z;
        if (r + 1 < rows) {
          int b = r * around + (i + 1) % around;
          int[] two = {
            r * around + i, b, b + around, r * around + i, b + around, r * around + i + around
          };
          System.arraycopy(two, 0, tri, c, 6);
          c += 6;
        }
      }
    }
    for (int t = 0; t < tri.length / 3; t++) {
      for (int k = 0; k < 3; k++) {
        int v = 3 * tri[3 * t + k];
        if (Math.hypot(xyz[v], xyz[v + 1]) < 0.99) {
          dent.set(t);
        }
      }
    }
    Pick pick = Pick.of(Pick.Join.REPLACE, dent, tri.length / 3);
    Mesh now =
        apply(new PatchRegion(List.of(pick), PatchRegion.Shape.CYLINDER, false), new Mesh(xyz, tri))
            .work()
            .scan();
    for (int v = 0; v < now.vertexCount(); v++) {
      assertThat(Math.hypot(now.xyz()[3 * v], now.xyz()[3 * v + 1])).isCloseTo(1, within(0.002));
    }
  }
}
