package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Charts moved by hand. */
class ArrangeChartsTest {

  private static Mesh cut(Mesh m) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    return new MakeCharts(1024, 4, 1.001, 0, 45).apply(in, Run.unwatched()).work().cast();
  }

  private static Outcome made(Mesh m, ChartEdit... edits) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    return new ArrangeCharts(List.of(edits)).apply(in, Run.unwatched());
  }

  private static Mesh after(Mesh m, ChartEdit... edits) {
    return made(m, edits).work().cast();
  }

  private static double[] place(Mesh m, int h) {
    int c = 2 * m.uv().corners()[h];
    return new double[] {m.uv().coords()[c], m.uv().coords()[c + 1]};
  }

  private static final double[] TOP = {0, 0, 5};

  private static boolean isTop(Mesh cube, int h) {
    return Measures.cross(cube, h / 3)[2] > 1e-9;
  }

  @Test
  void theChartOfThePointMovesAndNoOther() {
    Mesh cube = cut(Shapes.cube(2));
    Mesh moved = after(cube, ChartEdit.moved(TOP, 0.25, -0.5));
    for (int h = 0; h < 36; h++) {
      double[] a = place(cube, h);
      double[] b = place(moved, h);
      assertThat(b[0] - a[0]).isCloseTo(isTop(cube, h) ? 0.25 : 0, within(1e-6));
      assertThat(b[1] - a[1]).isCloseTo(isTop(cube, h) ? -0.5 : 0, within(1e-6));
    }
    assertThat(Charts.of(moved, Work.unwatched()).count()).isEqualTo(6);
  }

  /** Closed form: turned and scaled about the middle of the box, then moved. */
  @Test
  void turnedAndScaledAboutTheMiddle() {
    Mesh cube = cut(Shapes.cube(2));
    double[] low = {9, 9};
    double[] high = {-9, -9};
    for (int h = 0; h < 36; h++) {
      for (int k = 0; k < 2 && isTop(cube, h); k++) {
        low[k] = Math.min(low[k], place(cube, h)[k]);
        high[k] = Math.max(high[k], place(cube, h)[k]);
      }
    }
    double mu = (low[0] + high[0]) / 2;
    double mv = (low[1] + high[1]) / 2;
    Mesh moved = after(cube, new ChartEdit(TOP, null, new double[] {0.1, 0}, 90, 2));
    for (int h = 0; h < 36; h++) {
      double[] a = place(cube, h);
      double[] b = place(moved, h);
      if (isTop(cube, h)) {
        assertThat(b[0]).isCloseTo(mu - 2 * (a[1] - mv) + 0.1, within(1e-6));
        assertThat(b[1]).isCloseTo(mv + 2 * (a[0] - mu), within(1e-6));
      } else {
        assertThat(b).containsExactly(a);
      }
    }
  }

  /** Whatever is done, done the other way round it is as it was; the surface is never touched. */
  @Test
  void thereAndBack() {
    Mesh m = cut(Shapes.torus(2, 0.6, 24, 12));
    Random random = new Random(8);
    List<ChartEdit> edits = new ArrayList<>();
    List<ChartEdit> back = new ArrayList<>();
    for (int i = 0; i < 12; i++) {
      int t = random.nextInt(m.triangleCount());
      double[] p = new double[3];
      for (int k = 0; k < 9; k++) {
        p[k % 3] += m.xyz()[3 * m.triangles()[3 * t + k / 3] + k % 3] / 3.0;
      }
      double u = random.nextGaussian();
      double v = random.nextGaussian();
      edits.add(ChartEdit.moved(p, u, v));
      back.addFirst(ChartEdit.moved(p, -u, -v));
    }
    edits.addAll(back);
    Mesh out = after(m, edits.toArray(ChartEdit[]::new));
    for (int h = 0; h < m.triangles().length; h++) {
      assertThat(place(out, h)[0]).isCloseTo(place(m, h)[0], within(1e-5));
      assertThat(place(out, h)[1]).isCloseTo(place(m, h)[1], within(1e-5));
    }
    assertThat(out.xyz()).isSameAs(m.xyz());
    assertThat(out.triangles()).isSameAs(m.triangles());
  }

  @Test
  void singlePointsOfAChart() {
    Mesh cube = cut(Shapes.cube(2));
    int corner = 0;
    while (!isTop(cube, corner)) {
      corner++;
    }
    double[] at = place(cube, corner);
    Mesh moved = after(cube, new ChartEdit(TOP, at, new double[] {0.02, 0.01}, 0, 1));
    int count = 0;
    for (int h = 0; h < 36; h++) {
      boolean isIt = place(cube, h)[0] == at[0] && place(cube, h)[1] == at[1];
      count += isIt ? 1 : 0;
      assertThat(place(moved, h)[0] - place(cube, h)[0]).isCloseTo(isIt ? 0.02 : 0, within(1e-6));
    }
    assertThat(count).isBetween(1, 2);
  }

  /** Two charts that touch in a texture vertex: the one that moves gets its own. */
  @Test
  void chartsThatTouchAreParted() {
    Mesh two = Shapes.together(Shapes.sheet(1, 1), Shapes.moved(Shapes.sheet(1, 1), 5, 0, 0));
    float[] uv = {0, 0, 0.4f, 0, 0.4f, 0.4f, 0, 0.4f, 0.8f, 0.4f, 0.8f, 0.8f, 0.4f, 0.8f};
    int[] k = new int[12];
    for (int h = 0; h < 12; h++) {
      int v = two.triangles()[h];
      boolean isFirst = v < 4;
      boolean right = two.xyz()[3 * v] % 5 > 0.5;
      boolean up = two.xyz()[3 * v + 1] > 0.5;
      k[h] = isFirst ? right ? up ? 2 : 1 : up ? 3 : 0 : right ? up ? 5 : 4 : up ? 6 : 2;
    }
    Mesh m = two.withUv(new Uv(uv, k));
    Mesh moved = after(m, ChartEdit.moved(new double[] {5.5, 0.5, 0}, 0.1, 0.1));
    for (int h = 0; h < 12; h++) {
      assertThat(place(moved, h)[0] - place(m, h)[0]).isCloseTo(h < 6 ? 0 : 0.1, within(1e-6));
    }
  }

  @Test
  void whatFindsNothingIsLeftOutAndSaid() {
    Mesh cube = cut(Shapes.cube(2));
    ChartEdit nowhere = new ChartEdit(TOP, new double[] {7, 7}, new double[] {1, 1}, 0, 1);
    Outcome some = made(cube, nowhere, ChartEdit.moved(TOP, 0.1, 0));
    assertThat(String.join("; ", some.stated())).contains("Edit 1 was left out");
    assertThatThrownBy(() -> made(cube, nowhere)).isInstanceOf(Failure.class);
    Mesh uncut = Shapes.cube(1);
    assertThatThrownBy(() -> made(uncut, ChartEdit.moved(TOP, 1, 0)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("unwrap.charts");
    assertThatThrownBy(() -> new ArrangeCharts(List.of())).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new ChartEdit(new double[2], null, null, 0, 1))
        .isInstanceOf(Failure.class);
  }
}
