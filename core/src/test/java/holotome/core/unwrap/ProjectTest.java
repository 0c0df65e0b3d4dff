package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.FlatCheck;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unwrap.ProjectCharts.How;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Charts as they look from one side, from the sides of a box and from around an axis. */
class ProjectTest {

  private static Workpiece of(Mesh m) {
    return Workpiece.of(m, Frame.PLAIN).withCast(m);
  }

  private static Outcome made(Mesh m, How how, double[] axis, double[] side) {
    return new ProjectCharts(how, null, axis, side).apply(of(m), Run.unwatched());
  }

  private static Mesh after(Mesh m, How how) {
    return made(m, how, null, null).work().cast();
  }

  private static int charts(Mesh m) {
    return Charts.of(m, Work.unwatched()).count();
  }

  private static double u(Mesh m, int corner, int axis) {
    return m.uv().coords()[2 * m.uv().corners()[corner] + axis];
  }

  private static double twice(Mesh m, int t) {
    return (u(m, 3 * t + 1, 0) - u(m, 3 * t, 0)) * (u(m, 3 * t + 2, 1) - u(m, 3 * t, 1))
        - (u(m, 3 * t + 2, 0) - u(m, 3 * t, 0)) * (u(m, 3 * t + 1, 1) - u(m, 3 * t, 1));
  }

  private static Mesh charted(Mesh m) {
    return new MakeCharts(1024, 4, 1.05, 0, 180).apply(of(m), Run.unwatched()).work().cast();
  }

  /** Closed form: the six sides of a cube, each as it is. */
  @Test
  void aBoxIsItsSixSides() {
    Mesh out = after(Shapes.gridCube(8), How.BOX);
    assertThat(charts(out)).isEqualTo(6);
    assertThat(Stretch.of(out).mean()).isCloseTo(1, within(1e-6));
    FlatCheck.owners(out, 1024);
  }

  /** Turned with the box, a cube is again its six sides. */
  @Test
  void aBoxMayBeTurned() {
    Mesh cube = Shapes.gridCube(4);
    float[] turned = cube.xyz().clone();
    double c = Math.cos(0.6);
    double s = Math.sin(0.6);
    for (int v = 0; v < turned.length; v += 3) {
      turned[v] = (float) (c * cube.xyz()[v] - s * cube.xyz()[v + 1]);
      turned[v + 1] = (float) (s * cube.xyz()[v] + c * cube.xyz()[v + 1]);
    }
    Mesh m = cube.withPositions(turned);
    Mesh out = made(m, How.BOX, null, new double[] {-s, c, 0}).work().cast();
    assertThat(charts(out)).isEqualTo(6);
    assertThat(Stretch.of(out).mean()).isCloseTo(1, within(1e-6));
  }

  /** As it looks from above, to the same scale both ways and the right way round. */
  @Test
  void fromOneSideItLooksAsItIsSeen() {
    Mesh sheet = charted(Shapes.sheet(4, 10));
    double[] middle = {0, 0, 0};
    Outcome made =
        new ProjectCharts(How.FLAT, middle, new double[] {0, 0, 1}, null)
            .apply(of(sheet), Run.unwatched());
    Mesh out = made.work().cast();
    double scale = 0;
    for (int i = 1; i < out.triangles().length; i++) {
      double dx = x(out, i, 0) - x(out, 0, 0);
      double dy = x(out, i, 1) - x(out, 0, 1);
      double du = u(out, i, 0) - u(out, 0, 0);
      double dv = u(out, i, 1) - u(out, 0, 1);
      scale = dx > 0.5 ? du / dx : scale;
      if (scale > 0) {
        assertThat(du).isCloseTo(scale * dx, within(1e-5));
        assertThat(dv).isCloseTo(scale * dy, within(1e-5));
      }
    }
    assertThat(scale).isPositive();
    // As many texels to a length as it had.
    assertThat(twice(out, 0)).isCloseTo(twice(sheet, 0), within(1e-3 * twice(sheet, 0)));
  }

  private static double x(Mesh m, int corner, int axis) {
    return m.xyz()[3 * m.triangles()[corner] + axis];
  }

  /** Closed form: an open tube becomes one chart, as wide as it is around and as high. */
  @Test
  void aTubeUnrolls() {
    Mesh out = after(Shapes.tube(1, 3, 48, 12), How.TUBE);
    assertThat(charts(out)).isEqualTo(1);
    assertThat(Stretch.of(out).mean()).isCloseTo(1, within(1e-3));
    double[] b = {9, 9, -9, -9};
    for (int c = 0; c < out.triangles().length; c++) {
      for (int k = 0; k < 2; k++) {
        b[k] = Math.min(b[k], u(out, c, k));
        b[2 + k] = Math.max(b[2 + k], u(out, c, k));
      }
    }
    double[] sides = {b[2] - b[0], b[3] - b[1]};
    Arrays.sort(sides);
    assertThat(sides[1] / sides[0]).isCloseTo(2 * Math.PI / 3, within(5e-3));
    FlatCheck.owners(out, 1024);
  }

  /** The axis that is told, and found elsewhere: the same as where it stands. */
  @Test
  void theAxisIsFoundWhereverItStands() {
    Mesh far = Shapes.moved(Shapes.tube(1, 3, 48, 12), 7, -4, 2);
    Mesh found = after(far, How.TUBE);
    assertThat(Stretch.of(found).mean()).isCloseTo(1, within(1e-3));
    Mesh told = made(far, How.TUBE, new double[] {0, 0, 2}, null).work().cast();
    assertThat(Stretch.of(told).mean()).isCloseTo(1, within(1e-3));
    assertThat(charts(told)).isEqualTo(1);
  }

  /** It is cut open at the back unless another side is told. */
  @Test
  void itIsCutOpenWhereTold() {
    Mesh tube = Shapes.tube(1, 3, 48, 12);
    for (double[] side : new double[][] {null, {1, 0, 0}, {-1, -1, 0}}) {
      double[] at = side == null ? new double[] {0, 1, 0} : side;
      Mesh out = made(tube, How.TUBE, new double[] {0, 0, 1}, side).work().cast();
      // A vertex that has two places in the texture lies at the seam.
      int[] place = new int[tube.vertexCount()];
      Arrays.fill(place, -1);
      int parted = 0;
      for (int c = 0; c < out.triangles().length; c++) {
        int v = out.triangles()[c];
        int k = out.uv().corners()[c];
        if (place[v] >= 0 && place[v] != k) {
          double along = x(out, c, 0) * at[0] + x(out, c, 1) * at[1];
          assertThat(along / Math.hypot(at[0], at[1])).isGreaterThan(0.98);
          parted++;
        }
        place[v] = k;
      }
      assertThat(parted).isGreaterThan(12);
    }
  }

  private static Mesh bumpy(int seed) {
    Mesh ball = Shapes.sphere(1, 5);
    float[] xyz = ball.xyz().clone();
    Random random = new Random(seed);
    for (int v = 0; v < xyz.length; v += 3) {
      float by = 1 + 0.15f * (float) Math.sin(6 * xyz[v]) + 0.01f * (float) random.nextGaussian();
      for (int k = 0; k < 3; k++) {
        xyz[v + k] *= by;
      }
    }
    return ball.withPositions(xyz);
  }

  /** Whatever it is: each triangle upright and none over another, one thread or many. */
  @ParameterizedTest
  @EnumSource(How.class)
  void anythingLiesFlat(How how) {
    for (Mesh m : new Mesh[] {bumpy(1), Shapes.torus(2, 0.7, 60, 30), Shapes.cube(1)}) {
      Mesh out = after(m, how);
      for (int t = 0; t < m.triangleCount(); t++) {
        assertThat(twice(out, t)).isPositive();
      }
      FlatCheck.owners(out, 2048);
      Parallel.limitThreads(1);
      Mesh again = after(m, how);
      Parallel.limitThreads(Runtime.getRuntime().availableProcessors());
      assertThat(again.sameAs(out)).isTrue();
    }
  }

  /** Rough as it is, of 20,480 triangles some large charts are made, not thousands. */
  @Test
  void noiseDoesNotTearItToScraps() {
    Mesh m = bumpy(2);
    assertThat(charts(after(m, How.BOX))).isLessThan(120);
    assertThat(charts(after(m, How.TUBE))).isLessThan(120);
  }

  /** Charts that are not meant stay to the last bit. */
  @Test
  void othersStay() {
    Mesh before = charted(Shapes.torus(2, 0.7, 60, 30));
    double[] at = {x(before, 0, 0), x(before, 0, 1), x(before, 0, 2)};
    Mesh out =
        new ProjectCharts(How.FLAT, at, null, null)
            .apply(of(before), Run.unwatched())
            .work()
            .cast();
    int[] chart = Charts.of(before, Work.unwatched()).ofTriangle();
    int changed = 0;
    for (int c = 0; c < out.triangles().length; c++) {
      boolean same = u(out, c, 0) == u(before, c, 0) && u(out, c, 1) == u(before, c, 1);
      if (chart[c / 3] != chart[0]) {
        assertThat(same).isTrue();
      } else {
        changed += same ? 0 : 1;
      }
    }
    assertThat(changed).isPositive();
  }

  @Test
  void whatCannotBeIsSaid() {
    assertThatThrownBy(() -> new ProjectCharts(How.FLAT, null, new double[3], null))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("three numbers, not all 0");
    assertThatThrownBy(() -> new ProjectCharts(How.FLAT, new double[2], null, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> after(new Mesh(new float[9], new int[0]), How.BOX))
        .isInstanceOf(Failure.class);
  }
}
