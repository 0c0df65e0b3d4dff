package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.app.pane.FlatPane;
import holotome.core.mesh.Mesh;
import holotome.core.unwrap.ArrangeCharts;
import java.io.IOException;
import java.nio.file.Path;
import javafx.scene.Node;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Charts moved, turned, scaled and bent in the flat pane by pointer and keys. */
class ArrangeWindowTest extends WindowCase {
  private Node flat;

  @Override
  int triangles() {
    return 60_000;
  }

  private void crateShown() throws IOException {
    crateAsCast(KeyCode.DIGIT3);
    flat = d.node("flat-view");
    chartsShown();
  }

  private Mesh cast() {
    return d.on(() -> d.desk().session().current().cast());
  }

  private double[] pixel(double u, double v) {
    return d.on(() -> ((FlatPane) flat).project(u, v));
  }

  /** The u, v of a corner of the first triangle of a side. */
  private double[] corner(int side, int k) {
    Mesh m = cast();
    int c = 2 * m.uv().corners()[3 * 2 * side + k];
    return new double[] {m.uv().coords()[c], m.uv().coords()[c + 1]};
  }

  private void drag(double u, double v, double toU, double toV) {
    double[] a = pixel(u, v);
    double[] b = pixel(toU, toV);
    double[] middle = {(a[0] + b[0]) / 2, (a[1] + b[1]) / 2};
    d.drag(flat, MouseButton.PRIMARY, a[0], a[1], middle[0], middle[1], b[0], b[1]);
    d.settle();
    chartsShown();
  }

  /** So many edits are made: what a press is on is told by the picture, a moment later. */
  private void edited(int edits) {
    d.await(
        "an edit",
        () ->
            d.desk().session().history().lines().getLast().entry().step() instanceof ArrangeCharts a
                && a.edits().size() == edits
                && !d.desk().session().jobs().isBusy());
    chartsShown();
  }

  private void chosen(String words) {
    d.await("what is chosen", () -> d.textNow("arrange-where").contains(words));
  }

  @Test
  void aSittingIsOneEntry() throws IOException {
    crateShown();
    int before = entries();
    double[] was = corner(0, 0);
    double[] other = corner(1, 0);
    double unit = Math.abs(pixel(1, 0)[0] - pixel(0, 0)[0]);
    // Pressed on a chart and dragged at once: chosen and moved.
    drag(0.2, 0.2, 0.23, 0.17);
    edited(1);
    assertThat(entries()).isEqualTo(before + 1);
    assertThat(corner(0, 0)[0] - was[0]).isCloseTo(0.03, within(2 / unit));
    assertThat(corner(0, 0)[1] - was[1]).isCloseTo(-0.03, within(8 / unit));
    assertThat(corner(1, 0)).containsExactly(other);
    chosen("1 chart is chosen");
    // Its right lower corner drawn outwards: scaled about the middle.
    double[] low = corner(0, 0);
    double width = 0.28;
    double[] m = {low[0] + width / 2, low[1] + width / 2};
    drag(low[0] + width, low[1], m[0] + 0.75 * width, m[1] - 0.75 * width);
    edited(2);
    assertThat(entries()).isEqualTo(before + 1);
    assertThat(corner(0, 0)[0]).isCloseTo(m[0] - 0.75 * width, within(3 / unit));
    // By figures: turned by a right angle and moved by 512 of 2048 pixels.
    low = corner(0, 0);
    d.fill("arrange-turn", "90");
    d.fill("arrange-right", "512");
    d.click("arrange-do");
    edited(3);
    assertThat(corner(0, 0)[0]).isCloseTo(m[0] + (m[1] - low[1]) + 0.25, within(1e-3));
    assertThat(corner(0, 0)[1]).isCloseTo(m[1] + (low[0] - m[0]), within(1e-3));
    ArrangeCharts step =
        (ArrangeCharts) d.on(() -> d.desk().session().history().lines().getLast().entry().step());
    assertThat(step.edits()).hasSize(3);
    // Undone edit by edit.
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(corner(0, 0)[0]).isCloseTo(low[0], within(1e-6));
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(entries()).isEqualTo(before);
    assertThat(corner(0, 0)).containsExactly(was);
  }

  @Test
  void aFrameChoosesWhatLiesWithinAndAnEdgeIsMovedByItself() throws IOException {
    crateShown();
    drag(0.006, 0.05, 0.645, 0.45);
    chosen("2 charts are chosen");
    double unit = Math.abs(pixel(1, 0)[0] - pixel(0, 0)[0]);
    d.choose("arrange-takes", 1);
    d.settle();
    double[] a = corner(0, 0);
    // The lower edge of the first side, near its middle.
    drag(a[0] + 0.14, a[1] + 3 / unit, a[0] + 0.14, a[1] - 0.05 + 3 / unit);
    edited(1);
    Mesh m = cast();
    int moved = 0;
    for (int k = 0; k < 6; k++) {
      double v = m.uv().coords()[2 * m.uv().corners()[k] + 1];
      moved += v < a[1] - 0.03 ? 1 : 0;
    }
    // Two corners of one triangle, one of the other.
    assertThat(moved).isEqualTo(3);
  }

  /** Two sides lie within the box around the line, one of them outside of the line. */
  @Test
  void aLineDrawnFreelyChoosesWhatLiesWithin() throws IOException {
    crateShown();
    d.choose("arrange-frames", 1);
    d.settle();
    double[] line = {
      0.006, 0.05, 0.33, 0.05, 0.33, 0.40, 0.645, 0.42, 0.645, 0.45, 0.006, 0.45, 0.006, 0.1
    };
    double[] path = new double[line.length];
    for (int i = 0; i < line.length; i += 2) {
      System.arraycopy(pixel(line[i], line[i + 1]), 0, path, i, 2);
    }
    d.drag(flat, MouseButton.PRIMARY, path);
    d.settle();
    chosen("1 chart is chosen");
  }

  /** Brought near another chart a chart comes to rest beside it, the gutter between. */
  @Test
  void aChartIsCaughtByAnother() throws IOException {
    crateShown();
    double[] a = corner(0, 0);
    double[] b = corner(1, 0);
    double unit = Math.abs(pixel(1, 0)[0] - pixel(0, 0)[0]);
    double width = 0.28;
    double gap = b[0] - (a[0] + width);
    drag(0.2, 0.2, 0.2 + gap - 3 / unit, 0.26);
    edited(1);
    double between = b[0] - (corner(0, 0)[0] + width);
    double gutter = 4.0 / 2048;
    assertThat(Math.min(Math.abs(between), Math.abs(between - gutter))).isLessThan(1e-5);
  }

  /** Pressed again before the first edit is made: the second is made after it. */
  @Test
  void aPressWhileAnEditIsMadeWaitsForIt() throws IOException {
    crateShown();
    double[] was = corner(0, 0);
    double[] a = pixel(0.2, 0.2);
    double[] b = pixel(0.27, 0.17);
    double[] c = pixel(0.24, 0.33);
    d.drag(flat, MouseButton.PRIMARY, a[0], a[1], b[0], b[1]);
    d.drag(flat, MouseButton.PRIMARY, b[0], b[1], c[0], c[1]);
    edited(2);
    double unit = Math.abs(pixel(1, 0)[0] - pixel(0, 0)[0]);
    assertThat(corner(0, 0)[0] - was[0]).isCloseTo(0.04, within(8 / unit));
    assertThat(corner(0, 0)[1] - was[1]).isCloseTo(0.13, within(8 / unit));
  }

  @Test
  void turnedByTheRingItRestsAtRightAngles() throws IOException {
    crateShown();
    double[] was = corner(4, 0);
    d.clickAt(flat, pixel(was[0] + 0.1, was[1] + 0.1)[0], pixel(was[0] + 0.1, was[1] + 0.1)[1]);
    chosen("1 chart is chosen");
    double[] m = {was[0] + 0.14, was[1] + 0.14};
    double[] top = pixel(m[0], was[1] + 0.28);
    double unit = Math.abs(pixel(1, 0)[0] - pixel(0, 0)[0]);
    double ring = 0.14 + 24 / unit;
    double[] left = pixel(m[0] - ring, m[1] + 0.003);
    d.drag(flat, MouseButton.PRIMARY, top[0], top[1] - 24, left[0], top[1], left[0], left[1]);
    edited(1);
    // A quarter turn to the left.
    assertThat(corner(4, 0)[0]).isCloseTo(was[0] + 0.28, within(1e-3));
    assertThat(corner(4, 0)[1]).isCloseTo(was[1], within(1e-3));
  }

  /** A chart laid over another is found, said and chosen; packing lays them apart. */
  @Test
  void chartsThatLieOverEachOtherAreAFinding() throws IOException {
    crateShown();
    assertThat(d.text("findings")).contains("Unwrapped");
    drag(0.2, 0.2, 0.4, 0.2);
    d.await("a finding", () -> d.textNow("findings").contains("2 charts lie over one another"));
    d.clickWords("findings", "Pack the charts");
    d.settle();
    apply();
    d.await("no finding", () -> d.textNow("findings").contains("Unwrapped"));
  }

  /** Packed around what is chosen. */
  @Test
  void chosenChartsStayWhilstOthersArePacked() throws IOException {
    crateShown();
    double[] was = corner(0, 0);
    double[] at = pixel(was[0] + 0.14, was[1] + 0.14);
    d.clickAt(flat, at[0], at[1]);
    chosen("1 chart is chosen");
    d.keys(KeyCode.DIGIT2);
    d.settle();
    d.click("pack-stay");
    d.await("what stays", () -> d.textNow("pack-where").contains("for 1 chart."));
    apply();
    assertThat(d.message()).contains("one chart stays where it was");
    assertThat(corner(0, 0)).containsExactly(was);
    chartsShown();
    d.await("no finding", () -> d.textNow("findings").contains("Unwrapped"));
  }

  /** One that is small stays small; what is baked afterwards has the size that was packed for. */
  @Test
  void chosenChartsKeepTheirSizeAndTheBakeThatOfThePacking() throws IOException {
    crateShown();
    double[] was = corner(0, 0);
    double[] at = pixel(was[0] + 0.14, was[1] + 0.14);
    d.clickAt(flat, at[0], at[1]);
    chosen("1 chart is chosen");
    d.fill("arrange-times", "0.5");
    d.click("arrange-do");
    edited(1);
    double small = side();
    d.keys(KeyCode.DIGIT2);
    d.settle();
    d.click("pack-sized");
    d.click("pack-together");
    d.await("what is meant", () -> d.textNow("pack-where").contains("for 1 chart."));
    d.fill("field-size", "1024");
    apply();
    assertThat(d.message()).contains("one chart keeps its size");
    assertThat(side()).isCloseTo(small, within(1e-4));
    // Opened again it says so still.
    d.keys(KeyCode.DIGIT2);
    d.settle();
    d.click("stage-bake");
    d.settle();
    assertThat(((TextField) d.node("field-size")).getText()).isEqualTo("1024");
  }

  /** One side gets a square to itself; both squares are baked and written under their numbers. */
  @Test
  void aChartFillsTheLastOfTwoSquares(@TempDir Path out) throws IOException {
    crateShown();
    double[] was = corner(0, 0);
    double[] at = pixel(was[0] + 0.14, was[1] + 0.14);
    d.clickAt(flat, at[0], at[1]);
    chosen("1 chart is chosen");
    d.keys(KeyCode.DIGIT2);
    d.settle();
    assertThat(d.node("field-by").getParent().isVisible()).isFalse();
    assertThat(d.node("pack-alone").isVisible()).isFalse();
    d.fill("field-size", "256");
    d.fill("field-squares", "2");
    d.click("pack-alone");
    d.await("what is meant", () -> d.textNow("pack-where").contains("for 1 chart."));
    apply();
    assertThat(d.message()).contains("one chart has square 1002 to itself");
    assertThat(side()).isBetween(0.85, 1.0);
    assertThat(corner(0, 0)[0]).isBetween(1.0, 2.0);
    chartsShown();
    d.await("no finding", () -> d.textNow("findings").contains("Unwrapped"));
    // The whole of both is shown.
    assertThat(pixel(2, 1)[0]).isBetween(100.0, d.on(() -> ((FlatPane) flat).getWidth()));
    d.click("stage-bake");
    d.settle();
    apply();
    assertThat(d.on(() -> d.desk().session().current().maps().columns())).isEqualTo(2);
    d.click("stage-ship");
    d.settle();
    assertThat(d.node("field-squares").getParent().isVisible()).isTrue();
    d.on(
        () -> {
          d.desk().session().setOutput(out);
          return null;
        });
    d.choose("field-for", 1);
    d.fill("field-name", "crate");
    apply();
    assertThat(out.resolve("crate_colour.1001.png")).exists();
    assertThat(out.resolve("crate_normal.1002.png")).exists();
  }

  /** Of the first side's first triangle, in the texture. */
  private double side() {
    return Math.hypot(corner(0, 1)[0] - corner(0, 0)[0], corner(0, 1)[1] - corner(0, 0)[1]);
  }

  /** By size and all others, from one that was clicked. */
  @Test
  void chartsLikeTheChosenOnes() throws IOException {
    crateShown();
    double[] was = corner(0, 0);
    double[] at = pixel(was[0] + 0.14, was[1] + 0.14);
    d.clickAt(flat, at[0], at[1]);
    chosen("1 chart is chosen");
    d.fill("arrange-times", "0.5");
    d.click("arrange-do");
    edited(1);
    chosen("1 chart is chosen");
    // No other is as small; all are as large.
    d.click("arrange-choose");
    chosen("1 chart is chosen");
    d.choose("arrange-like", 1);
    d.click("arrange-choose");
    chosen("6 charts are chosen");
    // Beside all, and then on it again: pressed on what is chosen all would be held.
    d.clickAt(flat, pixel(0.5, 0.5)[0], pixel(0.5, 0.5)[1]);
    chosen("Click a chart");
    d.clickAt(flat, at[0], at[1]);
    chosen("1 chart is chosen");
    d.choose("arrange-like", 5);
    d.click("arrange-choose");
    chosen("5 charts are chosen");
  }
}
