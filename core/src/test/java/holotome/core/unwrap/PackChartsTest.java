package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.FlatCheck;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
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
import org.junit.jupiter.api.Test;

class PackChartsTest {
  private static Outcome packed(Mesh m, boolean even) {
    return new PackCharts(512, 3, even)
        .apply(Workpiece.of(m, Frame.PLAIN).withCast(m), Run.unwatched());
  }

  private static Mesh cut(Mesh m) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    return new MakeCharts(512, 3, 1.005, 0, 180).apply(in, Run.unwatched()).work().cast();
  }

  private static double[] areas(Mesh m, Charts of) {
    double[] out = new double[of.count()];
    float[] p = m.uv().coords();
    for (int t = 0; t < m.triangleCount(); t++) {
      int a = 2 * m.uv().corners()[3 * t];
      int b = 2 * m.uv().corners()[3 * t + 1];
      int c = 2 * m.uv().corners()[3 * t + 2];
      out[of.ofTriangle()[t]] +=
          ((p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (p[b + 1] - p[a + 1])) / 2;
    }
    return out;
  }

  /** Charts that were scaled, moved and mirrored each in its own way come out even again. */
  @Test
  void chartsOfAnySizeBecomeEven() {
    Mesh good = cut(Shapes.torus(2, 0.6, 60, 24));
    Charts of = Charts.of(good, Work.unwatched());
    float[] p = good.uv().coords().clone();
    int[] chartOf = new int[p.length / 2];
    for (int c = 0; c < good.uv().corners().length; c++) {
      chartOf[good.uv().corners()[c]] = of.ofTriangle()[c / 3];
    }
    for (int v = 0; v < chartOf.length; v++) {
      float scale = 0.3f + chartOf[v] % 5;
      p[2 * v] *= chartOf[v] % 3 == 0 ? -scale : scale;
      p[2 * v + 1] = scale * p[2 * v + 1] - 2 * chartOf[v];
    }
    Mesh bad = good.withUv(new Uv(p, good.uv().corners()));
    Outcome made = packed(bad, true);
    Mesh even = made.work().cast();
    Stretch was = Stretch.of(good);
    Stretch is = Stretch.of(even);
    assertThat(is.mean()).isCloseTo(was.mean(), within(2e-3));
    assertThat(Stretch.of(bad).mean()).isGreaterThan(1.5 * was.mean());
    assertThat(String.join("; ", made.stated())).contains("lay mirrored");
    for (double a : areas(even, Charts.of(even, Work.unwatched()))) {
      assertThat(a).isPositive();
    }
    assertThat(even.xyz()).isSameAs(bad.xyz());
    assertThat(even.triangles()).isSameAs(bad.triangles());

    Mesh kept = packed(bad, false).work().cast();
    double[] before = areas(bad, of);
    double[] after = areas(kept, of);
    for (int c = 1; c < before.length; c++) {
      assertThat(after[c] / after[0])
          .isCloseTo(Math.abs(before[c] / before[0]), within(1e-2 * after[c] / after[0]));
    }
  }

  /** Two charts on one spot of the texture are parted; a chart without area is said. */
  @Test
  void roughCharts() {
    Mesh two = Shapes.together(Shapes.sheet(1, 4), Shapes.moved(Shapes.sheet(1, 4), 3, 0, 0));
    float[] uv = new float[2 * two.vertexCount()];
    for (int v = 0; v < two.vertexCount(); v++) {
      uv[2 * v] = two.xyz()[3 * v] % 3;
      uv[2 * v + 1] = v < two.vertexCount() / 2 ? two.xyz()[3 * v + 1] : 0;
    }
    Mesh in = two.withUv(new Uv(uv, two.triangles()));
    Outcome made = packed(in, true);
    assertThat(String.join("; ", made.stated())).contains("2 charts").contains("no area");
    for (float x : made.work().cast().uv().coords()) {
      assertThat(x).isBetween(0f, 1f);
    }
    for (int v = 0; v < two.vertexCount(); v++) {
      uv[2 * v + 1] = two.xyz()[3 * v + 1];
    }
    Mesh over = packed(two.withUv(new Uv(uv, two.triangles())), true).work().cast();
    double[] areas = areas(over, Charts.of(over, Work.unwatched()));
    assertThat(areas[0]).isCloseTo(areas[1], within(1e-3 * areas[0]));
    assertThat(areas[0] + areas[1]).isBetween(0.4, 0.55);
  }

  @Test
  void picturesThatNoLongerFitAreTakenOff() {
    Mesh m = cut(Shapes.cube(1));
    Material picture = new Material("stone", 0xff808080, new Raster(2, 2, new int[4]));
    Outcome made = packed(m.withMaterials(null, List.of(picture)), true);
    assertThat(made.work().cast().hasTexture()).isFalse();
    assertThat(made.work().cast().materials().getFirst().argb()).isEqualTo(0xff808080);
    assertThat(String.join("; ", made.stated())).contains("taken off");
  }

  @Test
  void withoutChartsThereIsNothingToPack() {
    assertThatThrownBy(() -> packed(Shapes.cube(1), true))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("unwrap.charts");
    assertThatThrownBy(
            () ->
                new PackCharts(512, 3, true)
                    .apply(Workpiece.of(Shapes.cube(1), Frame.PLAIN), Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no Cast");
  }

  private static double[] corner(Mesh m, int h) {
    int v = 2 * m.uv().corners()[h];
    return new double[] {m.uv().coords()[v], m.uv().coords()[v + 1]};
  }

  /** Those that stay lie where they lay, to the last bit; the others around them as dense. */
  @Test
  void chartsStayWhereTheyAre() {
    Mesh cube = Shapes.cube(2);
    Workpiece in = Workpiece.of(cube, Frame.PLAIN).withCast(cube);
    Workpiece cut = new MakeCharts(512, 3, 1.005, 0, 45).apply(in, Run.unwatched()).work();
    double[] top = {0, 0, 1};
    // Half as large, and in the middle of the square.
    ChartEdit edit = new ChartEdit(top, null, null, 30, 0.6);
    Workpiece made = new ArrangeCharts(List.of(edit)).apply(cut, Run.unwatched()).work();
    Outcome out = new PackCharts(512, 3, true, top).apply(made, Run.unwatched());
    Mesh m = out.work().cast();
    assertThat(String.join("; ", out.notes())).contains("one chart stays where it was");
    Charts of = Charts.of(m, Work.unwatched());
    double[] areas = areas(m, of);
    for (int t = 0; t < 12; t++) {
      boolean isTop = true;
      for (int k = 0; k < 3; k++) {
        isTop &= cube.xyz()[3 * cube.triangles()[3 * t + k] + 2] == 1;
      }
      for (int k = 0; k < 3 && isTop; k++) {
        assertThat(corner(m, 3 * t + k)).containsExactly(corner(made.cast(), 3 * t + k));
      }
      assertThat(areas[of.ofTriangle()[t]]).isCloseTo(areas[0], within(1e-4 * areas[0]));
    }
    FlatCheck.owners(m, 2048);
    ChartFaults f = ChartFaults.of(of, null, 512, 2, Work.unwatched());
    assertThat(f.isEmpty()).isTrue();
  }

  /** Half as large as the others before and after; these fill what is left, even. */
  @Test
  void chartsKeepTheirSize() {
    Mesh cube = Shapes.cube(2);
    Workpiece in = Workpiece.of(cube, Frame.PLAIN).withCast(cube);
    Workpiece cut = new MakeCharts(512, 3, 1.005, 0, 45).apply(in, Run.unwatched()).work();
    double[] top = {0, 0, 1};
    Workpiece made =
        new ArrangeCharts(List.of(new ChartEdit(top, null, null, 30, 0.6)))
            .apply(cut, Run.unwatched())
            .work();
    PackCharts pack = new PackCharts(512, 3, true, null, top, null);
    Outcome out = pack.apply(made, Run.unwatched());
    assertThat(String.join("; ", out.notes())).contains("one chart keeps its size");
    Mesh m = out.work().cast();
    Charts of = Charts.of(m, Work.unwatched());
    int held = of.ofTriangle()[at(cube, top)];
    double was = areas(made.cast(), Charts.of(made.cast(), Work.unwatched()))[held];
    double[] areas = areas(m, of);
    assertThat(areas[held]).isCloseTo(was, within(1e-5));
    double other = areas[held == 0 ? 1 : 0];
    for (int c = 0; c < areas.length; c++) {
      assertThat(areas[c]).isCloseTo(c == held ? was : other, within(1e-5));
    }
    // Closed form: were all packed even they had a sixth of what is used each.
    assertThat(other).isGreaterThan(1.3 * was);
    FlatCheck.owners(m, 2048);
    assertThat(ChartFaults.of(of, null, 512, 2, Work.unwatched()).isEmpty()).isTrue();
    // All of them: nothing is scaled, only moved.
    double[] all = {0, 0, 1, 0, 0, -1, 0, 1, 0, 0, -1, 0, 1, 0, 0, -1, 0, 0};
    PackCharts none = new PackCharts(512, 3, true, null, all, null);
    Mesh same = none.apply(made, Run.unwatched()).work().cast();
    double[] as = areas(made.cast(), of);
    double[] are = areas(same, of);
    for (int c = 0; c < as.length; c++) {
      assertThat(are[c]).isCloseTo(as[c], within(1e-5));
    }
    FlatCheck.owners(same, 2048);
  }

  /** As they lay beside one another before, but for one turn, scale and move of both. */
  @Test
  void chartsStayTogether() {
    Mesh cube = Shapes.cube(2);
    Workpiece in = Workpiece.of(cube, Frame.PLAIN).withCast(cube);
    Workpiece cut = new MakeCharts(512, 3, 1.005, 0, 45).apply(in, Run.unwatched()).work();
    double[] top = {0, 0, 1};
    double[] front = {0, -1, 0};
    // Turned and moved, on top of others, far from the second.
    Workpiece made =
        new ArrangeCharts(List.of(new ChartEdit(top, null, new double[] {0.4, 0.2}, 20, 0.7)))
            .apply(cut, Run.unwatched())
            .work();
    double[] both = {0, 0, 1, 0, -1, 0};
    Outcome out = new PackCharts(512, 3, true, null, null, both).apply(made, Run.unwatched());
    assertThat(String.join("; ", out.notes()))
        .contains("2 charts keep their places beside one another")
        .contains("6 charts");
    Mesh m = out.work().cast();
    List<double[]> before = new ArrayList<>();
    List<double[]> after = new ArrayList<>();
    Charts of = Charts.of(m, Work.unwatched());
    int[] charts = {of.ofTriangle()[at(cube, top)], of.ofTriangle()[at(cube, front)]};
    for (int h = 0; h < 36; h++) {
      if (of.ofTriangle()[h / 3] == charts[0] || of.ofTriangle()[h / 3] == charts[1]) {
        before.add(corner(made.cast(), h));
        after.add(corner(m, h));
      }
    }
    assertThat(before).hasSize(12);
    double scale = distance(after.get(0), after.get(11)) / distance(before.get(0), before.get(11));
    for (int i = 0; i < 12; i++) {
      for (int k = 0; k < i; k++) {
        assertThat(distance(after.get(i), after.get(k)))
            .isCloseTo(scale * distance(before.get(i), before.get(k)), within(1e-5));
      }
    }
    // Taken together they have the area that two sides of the cube have.
    double[] areas = areas(m, of);
    double two = areas[charts[0]] + areas[charts[1]];
    for (int c = 0; c < areas.length; c++) {
      if (c != charts[0] && c != charts[1]) {
        assertThat(2 * areas[c]).isCloseTo(two, within(1e-5));
      }
    }
    FlatCheck.owners(m, 2048);
  }

  private static int at(Mesh cube, double[] p) {
    for (int t = 0; ; t++) {
      boolean is = true;
      for (int k = 0; k < 3; k++) {
        for (int a = 0; a < 3; a++) {
          double x = cube.xyz()[3 * cube.triangles()[3 * t + k] + a];
          is &= p[a] == 0 || x == p[a];
        }
      }
      if (is) {
        return t;
      }
    }
  }

  private static double distance(double[] a, double[] b) {
    return Math.hypot(a[0] - b[0], a[1] - b[1]);
  }

  @Test
  void whatCannotStayIsSaid() {
    Mesh cube = Shapes.cube(2);
    Workpiece in = Workpiece.of(cube, Frame.PLAIN).withCast(cube);
    Workpiece cut = new MakeCharts(512, 3, 1.005, 0, 45).apply(in, Run.unwatched()).work();
    double[] all = {0, 0, 1, 0, 0, -1, 0, 1, 0, 0, -1, 0, 1, 0, 0, -1, 0, 0};
    assertThatThrownBy(() -> new PackCharts(512, 3, true, all).apply(cut, Run.unwatched()))
        .hasMessageContaining("none to pack");
    double[] top = {0, 0, 1};
    ArrangeCharts away = new ArrangeCharts(List.of(ChartEdit.moved(top, 0.5, 0.9)));
    Workpiece out = away.apply(cut, Run.unwatched()).work();
    assertThatThrownBy(() -> new PackCharts(512, 3, true, top).apply(out, Run.unwatched()))
        .hasMessageContaining("over the border of its square");
    assertThatThrownBy(() -> new PackCharts(512, 3, true, new double[] {1}))
        .isInstanceOf(Failure.class);
  }

  /**
   * Closed form: six squares of 2 m at 100 px/m are 240,000 pixels, which 512 by 512 have but not
   * for rows of whole squares; at 1,000 px/m 24 million.
   */
  @Test
  void theSizeFollowsFromADensityAskedFor() {
    Mesh cube = Shapes.cube(2);
    Workpiece in = Workpiece.of(cube, Frame.PLAIN).withCast(cube);
    Workpiece cut = new MakeCharts(512, 3, 1.005, 0, 45).apply(in, Run.unwatched()).work();
    int[] sizes = {64, 1024, 8192};
    double[] asked = {4, 100, 1000};
    for (int i = 0; i < 3; i++) {
      Outcome out = new PackCharts(2, asked[i]).apply(cut, Run.unwatched());
      assertThat(out.amount()).isEqualTo(sizes[i]);
      Mesh m = out.work().cast();
      double side = Math.sqrt(areas(m, Charts.of(m, Work.unwatched()))[0]) * sizes[i];
      assertThat(side / 2).isGreaterThanOrEqualTo(asked[i]);
      String says = out.notes().getFirst().replaceAll(".* pixels: |,| of them.*", "");
      assertThat(Double.parseDouble(says)).isCloseTo(side / 2, within(0.01 * side));
    }
    // Of a metre as it is: a scan in centimetres has a hundredth of it to a unit.
    Frame small = Frame.PLAIN.working(Similarity.scaling(0.01), true);
    Workpiece centimetres = Workpiece.of(cube, small).withCast(cut.cast());
    Outcome out = new PackCharts(2, 10_000.0).apply(centimetres, Run.unwatched());
    assertThat(out.amount()).isEqualTo(1024);
    assertThatThrownBy(() -> new PackCharts(2, 9000.0).apply(cut, Run.unwatched()))
        .hasMessageContaining("do not fit");
    assertThatThrownBy(
            () ->
                new PackCharts(
                    512,
                    2,
                    false,
                    null,
                    null,
                    null,
                    9.0,
                    1,
                    PackCharts.By.ROOM,
                    null,
                    PackCharts.Follows.SIZE))
        .isInstanceOf(Failure.class);
  }
}
