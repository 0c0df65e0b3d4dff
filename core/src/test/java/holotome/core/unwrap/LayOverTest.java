package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.bake.BakeMaps;
import holotome.core.frame.Frame;
import holotome.core.map.MapKind;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Charts laid over another: where they come to lie, what keeps them there, what is baked. */
class LayOverTest {
  private static final double[] TOP = {0, 0, 1};
  private static final double[] LEFT = {-1, 0, 0};
  private static final double[] RIGHT = {1, 0, 0};
  private static final double[] FRONT = {0, -1, 0};

  private static Workpiece of(Mesh m) {
    return Workpiece.of(m, Frame.PLAIN).withCast(m);
  }

  private static Workpiece run(Workpiece in, Step... steps) {
    Workpiece w = in;
    for (Step s : steps) {
      w = s.apply(w, Run.unwatched()).work();
    }
    return w;
  }

  private static final MakeCharts CUT = new MakeCharts(512, 4, 1.01, 0, 45);

  private static LayOver over(double[] charts, double[] onto) {
    return new LayOver(charts, onto, LayOver.Fit.WITHIN, LayOver.Mirror.BETTER);
  }

  /** The texture's place of a point of the surface, by the triangle that has it. */
  private static double[] placed(Mesh m, int t, double[] weights) {
    double[] out = new double[2];
    for (int k = 0; k < 3; k++) {
      int v = 2 * m.uv().corners()[3 * t + k];
      out[0] += weights[k] * m.uv().coords()[v];
      out[1] += weights[k] * m.uv().coords()[v + 1];
    }
    return out;
  }

  private static double[] corner(Mesh m, int t, int k) {
    int v = 3 * m.triangles()[3 * t + k];
    return new double[] {m.xyz()[v], m.xyz()[v + 1], m.xyz()[v + 2]};
  }

  /** The texture's place of a corner of the cube within the chart of a side. */
  private static double[] cornerOf(Mesh m, int axis, double side, double[] at) {
    for (int t = 0; t < m.triangleCount(); t++) {
      boolean isIn = true;
      int here = -1;
      for (int k = 0; k < 3; k++) {
        double[] p = corner(m, t, k);
        isIn &= p[axis] == side;
        here = Math.hypot(Math.hypot(p[0] - at[0], p[1] - at[1]), p[2] - at[2]) < 1e-6 ? k : here;
      }
      if (isIn && here >= 0) {
        double[] w = new double[3];
        w[here] = 1;
        return placed(m, t, w);
      }
    }
    throw new IllegalArgumentException("no such corner");
  }

  private static void same(double[] a, double[] b) {
    assertThat(a[0]).isCloseTo(b[0], within(1e-5));
    assertThat(a[1]).isCloseTo(b[1], within(1e-5));
  }

  /**
   * Two sides of a cube that stand: what is up lies on what is up, and as the left seen from
   * outside has the back to its left, the right has the front there.
   */
  @Test
  void whatIsUpLiesOnWhatIsUp() {
    Mesh cube = run(of(Shapes.cube(2)), CUT, over(RIGHT, LEFT)).cast();
    double[] leftTopBack = cornerOf(cube, 0, -1, new double[] {-1, 1, 1});
    double[] leftTopFront = cornerOf(cube, 0, -1, new double[] {-1, -1, 1});
    same(cornerOf(cube, 0, 1, new double[] {1, -1, 1}), leftTopBack);
    same(cornerOf(cube, 0, 1, new double[] {1, 1, 1}), leftTopFront);
  }

  @Test
  void mirroredWhereAskedSoThatTheOtherSideIsTheSeenOnesImage() {
    LayOver mirrored = new LayOver(RIGHT, LEFT, LayOver.Fit.SAME, LayOver.Mirror.ALWAYS);
    Mesh cube = run(of(Shapes.cube(2)), CUT, mirrored).cast();
    for (double y : new double[] {-1, 1}) {
      for (double z : new double[] {-1, 1}) {
        same(
            cornerOf(cube, 0, 1, new double[] {1, y, z}),
            cornerOf(cube, 0, -1, new double[] {-1, y, z}));
      }
    }
  }

  private static Mesh wedge() {
    // A wall of 4 by 2, and a gable of 2 wide and 3 high, both upright.
    float[] xyz = {
      0, 0, 0, 4, 0, 0, 4, 0, 2, 0, 0, 2, 0, 5, 0, 2, 5, 0, 2, 5, 2, 1, 5, 3, 0, 5, 2,
    };
    return new Mesh(xyz, new int[] {0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7, 4, 7, 8});
  }

  private static double[] size(Mesh m, int from, int to) {
    double[] b = {1e9, 1e9, -1e9, -1e9};
    for (int h = 3 * from; h < 3 * to; h++) {
      int v = 2 * m.uv().corners()[h];
      for (int k = 0; k < 2; k++) {
        b[k] = Math.min(b[k], m.uv().coords()[v + k]);
        b[2 + k] = Math.max(b[2 + k], m.uv().coords()[v + k]);
      }
    }
    return new double[] {b[2] - b[0], b[3] - b[1]};
  }

  /** Closed form: a gable 3 high lies within a wall 2 high at two thirds. */
  @Test
  void shrunkToLieWithinOrLeftOrDrawnOut() {
    Workpiece cut = run(of(wedge()), CUT);
    double[] wall = {2, 0, 1};
    double[] gable = {1, 5, 1};
    // Up runs along v or along u, as the wall was packed.
    boolean isLying = size(cut.cast(), 0, 2)[0] > size(cut.cast(), 0, 2)[1];
    double metre = Math.max(size(cut.cast(), 0, 2)[0], size(cut.cast(), 0, 2)[1]) / 4;
    int up = isLying ? 1 : 0;
    double[][] wanted = {{2.0 * 2 / 3, 2}, {2, 3}, {4, 2}};
    LayOver.Fit[] fits = LayOver.Fit.values();
    for (int i = 0; i < fits.length; i++) {
      LayOver step = new LayOver(gable, wall, fits[i], LayOver.Mirror.NEVER);
      Outcome made = step.apply(cut, Run.unwatched());
      double[] s = size(made.work().cast(), 2, 5);
      assertThat(s[1 - up] / metre)
          .describedAs(fits[i].name())
          .isCloseTo(wanted[i][0], within(0.03));
      assertThat(s[up] / metre).describedAs(fits[i].name()).isCloseTo(wanted[i][1], within(0.03));
      // At its own size, middle on middle: 2 by 1.5 of its foot, and 0.75 of its top, of 5.
      assertThat(made.notes().getFirst())
          .containsPattern(fits[i] == LayOver.Fit.SAME ? " 7[56] %" : " 100 %");
    }
  }

  @Test
  void packedTheyStayOnItAndNoFaultIsFound() {
    Workpiece laid = run(of(Shapes.cube(2)), CUT, over(new double[] {1, 0, 0, 0, -1, 0}, LEFT));
    Workpiece w = run(laid, new PackCharts(512, 4, true));
    for (double y : new double[] {-1, 1}) {
      same(
          cornerOf(w.cast(), 0, 1, new double[] {1, y, 1}),
          cornerOf(w.cast(), 0, -1, new double[] {-1, -y, 1}));
    }
    // Four charts of the same size instead of six: each has half as much again.
    double before = size(run(of(Shapes.cube(2)), CUT).cast(), 4, 6)[0];
    assertThat(size(w.cast(), 4, 6)[0]).isGreaterThan(1.15 * before);
    Charts charts = Charts.of(w.cast(), Work.unwatched());
    ChartFaults f = ChartFaults.of(charts, LaidOver.of(w.cast()), 512, 3, Work.unwatched());
    assertThat(f.isEmpty()).isTrue();
    assertThat(ChartFaults.of(charts, null, 512, 3, Work.unwatched()).over().cardinality())
        .isEqualTo(3);
  }

  @Test
  void movedTheyGoAlongAndTakenOffTheyStandAlone() {
    Workpiece laid = run(of(Shapes.cube(2)), CUT, over(RIGHT, LEFT));
    Workpiece moved = run(laid, new ArrangeCharts(List.of(ChartEdit.moved(LEFT, 0.1, 0.2))));
    double[] a = cornerOf(laid.cast(), 0, 1, new double[] {1, 1, 1});
    double[] b = cornerOf(moved.cast(), 0, 1, new double[] {1, 1, 1});
    assertThat(b[0] - a[0]).isCloseTo(0.1, within(1e-6));
    assertThat(b[1] - a[1]).isCloseTo(0.2, within(1e-6));
    Workpiece off = run(moved, over(RIGHT, null));
    assertThat(LaidOver.of(off.cast())).isNull();
    assertThat(run(laid, CUT).cast().attributes().named(Attribute.LAID_OVER)).isNull();
  }

  /** A scan red on the left and blue on the right: what follows shows what leads. */
  @Test
  void bakedFromTheLeadingChartAlone() {
    Mesh cube = Shapes.cube(2);
    int[] colours = new int[cube.vertexCount()];
    for (int v = 0; v < colours.length; v++) {
      colours[v] = cube.xyz()[3 * v] < 0 ? 0xffff0000 : 0xff0000ff;
    }
    Mesh scan = new Mesh(cube.xyz(), cube.triangles(), colours);
    Workpiece in = Workpiece.of(scan, Frame.PLAIN).withCast(cube);
    BakeMaps bake = new BakeMaps(List.of(MapKind.COLOUR), 128, 1, 2);
    for (boolean isRedLeading : new boolean[] {true, false}) {
      LayOver step = isRedLeading ? over(RIGHT, LEFT) : over(LEFT, RIGHT);
      Workpiece w = run(in, new MakeCharts(128, 4, 1.01, 0, 45), step, bake);
      for (double x : new double[] {-1, 1}) {
        double[] p = middle(w.cast(), x);
        int argb =
            w.maps()
                .pictures()
                .get(MapKind.COLOUR)
                .argb((int) (p[0] * 128), (int) ((1 - p[1]) * 128));
        assertThat(argb).isEqualTo(isRedLeading ? 0xffff0000 : 0xff0000ff);
      }
    }
  }

  private static double[] middle(Mesh m, double x) {
    double[] a = cornerOf(m, 0, x, new double[] {x, -1, -1});
    double[] b = cornerOf(m, 0, x, new double[] {x, 1, 1});
    return new double[] {(a[0] + b[0]) / 2, (a[1] + b[1]) / 2};
  }

  @Test
  void whatCannotBeIsSaid() {
    Workpiece cut = run(of(Shapes.cube(2)), CUT);
    assertThatThrownBy(() -> run(cut, over(LEFT, LEFT))).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> run(cut, over(LEFT, null))).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> over(new double[] {1, 2}, LEFT)).isInstanceOf(Failure.class);
    Workpiece laid = run(cut, over(RIGHT, LEFT));
    assertThatThrownBy(() -> run(laid, over(TOP, RIGHT))).hasMessageContaining("itself");
    assertThatThrownBy(() -> run(laid, over(LEFT, FRONT))).hasMessageContaining("leads others");
    // Laid over a third it leaves the first, which leads no more.
    int[] labels = LaidOver.of(run(laid, over(RIGHT, FRONT)).cast());
    assertThat(labels).contains(2).contains(-2).doesNotContain(1);
  }

  @Test
  void followersWithoutALeaderAreByThemselves() {
    Mesh m = Shapes.cube(2).withUv(new Uv(new float[6], new int[36]));
    int[] labels = new int[12];
    labels[3] = -7;
    labels[4] = -2;
    labels[5] = 2;
    int[] of = LaidOver.of(LaidOver.with(m, labels));
    assertThat(of[3]).isZero();
    assertThat(of[4]).isEqualTo(-2);
    assertThat(LaidOver.of(LaidOver.with(m, new int[12]))).isNull();
  }
}
