package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.Driver.Held;
import holotome.app.pane.FlatPane;
import holotome.core.bake.TouchUp;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unwrap.LayOver;
import holotome.demo.DemoFiles;
import holotome.demo.NetShed;
import holotome.demo.NetShedTruth;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/**
 * The net shed from the model over its scan to a texture for the sides that no camera saw, by
 * pointer and keys in both panes, held against its truth.
 */
class NetShedWalkTest extends WindowCase {
  private Node flat;

  private Mesh cast() {
    return d.on(() -> d.desk().session().current().cast());
  }

  private static int first(NetShed.Side side) {
    NetShed.Side[] all = NetShed.sides();
    return IntStream.range(0, all.length).filter(t -> all[t] == side).findFirst().orElseThrow();
  }

  /** Clicks a chart in the flat pane, in the middle of the first triangle of a side. */
  private void inTheFlatPane(NetShed.Side side) {
    Mesh m = cast();
    double[] uv = new double[2];
    for (int k = 0; k < 3; k++) {
      int c = 2 * m.uv().corners()[3 * first(side) + k];
      uv[0] += m.uv().coords()[c] / 3;
      uv[1] += m.uv().coords()[c + 1] / 3;
    }
    double[] at = d.on(() -> ((FlatPane) flat).project(uv[0], uv[1]));
    d.clickAt(flat, at[0], at[1]);
    d.settle();
  }

  private void layOver(NetShed.Side good, double[] inSpace, String from, NetShed.Side poor) {
    d.find(from);
    d.settle();
    double[] at = d.pixel(inSpace);
    d.clickAt(view, at[0], at[1]);
    d.await("a chart", () -> d.desk().session().charts().isChosen(cast(), first(good)));
    d.click("unwrap-over-leads");
    d.settle();
    assertThat(d.text("problem")).contains("A chart leads");
    inTheFlatPane(poor);
    d.await("what is chosen", () -> d.textNow("unwrap-over-where").contains("1 chart takes"));
    apply();
    assertThat(d.message()).contains("100 %");
    chartsShown();
  }

  /** A stroke on the front wall with planks from beside it, in space, then one in the picture. */
  private void paintPlanks(Maps before) {
    d.keys(KeyCode.DIGIT5);
    d.settle();
    d.find("view from front");
    d.settle();
    d.fill("touch-radius", "150 mm");
    double[] from = d.pixel(new double[] {4, 0, 1});
    double[] to = d.pixel(new double[] {5.2, 0, 1.1});
    d.drag(view, Held.SHIFT, from);
    d.await("the source", () -> d.textNow("touch-next").contains("Paint"));
    d.drag(view, MouseButton.PRIMARY, to[0], to[1], to[0] + 24, to[1]);
    touched(1);
    Mesh m = cast();
    double[] uv = new double[2];
    for (int k = 0; k < 3; k++) {
      int c = 2 * m.uv().corners()[3 * first(NetShed.Side.LEFT) + k];
      uv[0] += m.uv().coords()[c] / 3;
      uv[1] += m.uv().coords()[c + 1] / 3;
    }
    double[] at = d.on(() -> ((FlatPane) flat).project(uv[0], uv[1]));
    d.drag(flat, MouseButton.PRIMARY, at[0], at[1], at[0] + 15, at[1]);
    touched(2);
    Maps after = d.on(() -> d.desk().session().current().maps());
    for (MapKind k : List.of(MapKind.COLOUR, MapKind.NORMAL)) {
      assertThat(after.pictures().get(k).sameAs(before.pictures().get(k))).as("%s", k).isFalse();
    }
    // Planks are planks: the wall is as near to its truth as it was.
    Image was = before.pictures().get(MapKind.COLOUR);
    Image is = after.pictures().get(MapKind.COLOUR);
    assertThat(NetShedTruth.off(cast(), is, NetShed.Side.FRONT))
        .isLessThan(NetShedTruth.off(cast(), was, NetShed.Side.FRONT) + 2);
  }

  private void touched(int strokes) {
    d.await(
        "stroke " + strokes,
        () ->
            !d.desk().session().jobs().isBusy()
                && d.desk().session().history().lines().getLast().entry().step()
                    instanceof TouchUp t
                && t.touches().size() == strokes);
    d.settle();
  }

  @Test
  void whatWasNotSeenTakesTheTextureOfWhatWas() {
    Path file = dir.resolve("shed.ply");
    DemoFiles.write("net-shed", file, 200_000, Work.unwatched());
    open(file);
    castFrom(DemoFiles.castBeside(file));
    stage(KeyCode.DIGIT6);
    d.keys(KeyCode.DIGIT1);
    d.fill("field-size", "1024");
    d.fill("field-crease", "30");
    d.settle();
    apply();
    flat = d.node("flat-view");
    d.keys(KeyCode.DIGIT6);
    d.settle();
    chartsShown();
    double before = share(NetShed.Side.FRONT);
    layOver(NetShed.Side.FRONT, new double[] {4, 0, 1}, "view from front", NetShed.Side.BACK);
    layOver(NetShed.Side.LEFT, new double[] {0, 2.5, 1}, "view from left", NetShed.Side.RIGHT);
    assertThat(d.text("findings")).doesNotContain("over one another");
    // Twice the space for the front, chosen in the flat pane.
    d.keys(KeyCode.DIGIT5);
    d.settle();
    inTheFlatPane(NetShed.Side.FRONT);
    d.await("what is chosen", () -> d.textNow("unwrap-space-where").contains("1 chart"));
    d.fill("field-times", "2");
    d.settle();
    apply();
    d.keys(KeyCode.DIGIT2);
    d.fill("field-size", "1024");
    d.settle();
    apply();
    assertThat(d.message()).contains("2 charts stay on those that they lie over");
    chartsShown();
    assertThat(share(NetShed.Side.FRONT)).isGreaterThan(1.5 * before);
    stage(KeyCode.DIGIT7);
    d.fill("field-size", "1024");
    d.settle();
    apply();
    Maps maps = d.on(() -> d.desk().session().current().maps());
    for (NetShed.Side s : new NetShed.Side[] {NetShed.Side.BACK, NetShed.Side.RIGHT}) {
      assertThat(NetShedTruth.off(cast(), maps.pictures().get(MapKind.COLOUR), s)).isLessThan(14);
    }
    paintPlanks(maps);
    // Opened again and taken off: each by itself, which is then a finding.
    stage(KeyCode.DIGIT6);
    d.keys(KeyCode.DIGIT6);
    d.settle();
    chartsShown();
    d.on(() -> d.desk().session().charts().drop());
    chooseFollower();
    d.await("what is chosen", () -> d.textNow("unwrap-over-where").contains("off what it lies"));
    apply();
    assertThat(d.message()).contains("taken off");
    assertThat(step(entries() - 1)).isInstanceOf(LayOver.class);
    chartsShown();
    d.await("a finding", () -> d.textNow("findings").contains("lie over one another"));
    assertThat(IntStream.of(LaidOver.of(cast())).filter(g -> g < 0).count()).isEqualTo(4);
  }

  /** The back, seen in the space pane: in the flat pane it lies under what leads. */
  private void chooseFollower() {
    d.find("view from back");
    d.settle();
    double[] at = d.pixel(new double[] {4, 5, 1});
    d.clickAt(view, at[0], at[1]);
    d.settle();
  }

  /** Of the square, what a side has. */
  private double share(NetShed.Side side) {
    Mesh m = cast();
    Charts charts = Charts.of(m, Work.unwatched());
    double sum = 0;
    NetShed.Side[] sides = NetShed.sides();
    float[] p = charts.flat().xyz();
    for (int t = 0; t < sides.length; t++) {
      int a = 3 * m.uv().corners()[3 * t];
      int b = 3 * m.uv().corners()[3 * t + 1];
      int c = 3 * m.uv().corners()[3 * t + 2];
      double twice =
          ((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
              - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]);
      sum += sides[t] == side ? Math.abs(twice) / 2 : 0;
    }
    return sum;
  }
}
