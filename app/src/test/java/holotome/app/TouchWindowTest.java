package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.Driver.Held;
import holotome.app.pane.FlatPane;
import holotome.core.bake.BakeMaps;
import holotome.core.bake.PaintCage;
import holotome.core.bake.TouchUp;
import holotome.core.log.History;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.Role;
import holotome.core.step.Step;
import holotome.core.touch.Touch;
import holotome.core.unwrap.MakeCharts;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** Maps of the bollard touched up in both panes, by pointer and keys. */
class TouchWindowTest extends WindowCase {
  private static final List<MapKind> KINDS =
      List.of(MapKind.COLOUR, MapKind.NORMAL, MapKind.OCCLUSION);

  @Override
  int triangles() {
    return 60_000;
  }

  private Maps maps() {
    return d.on(() -> d.desk().session().current().maps());
  }

  private void make(Step step) {
    d.on(
        () -> {
          d.desk().session().apply(step);
          return null;
        });
    d.settle();
  }

  /** Baked, with the tool at hand. */
  private Maps baked() {
    make(new Decimate(3000, null, null, Role.CAST));
    make(new MakeCharts(256, 4, 1.1, 0, 180));
    make(new BakeMaps(KINDS, 256, 1, 4));
    stage(KeyCode.DIGIT7);
    d.keys(KeyCode.DIGIT5);
    d.settle();
    chartsShown();
    return maps();
  }

  private void touches(int wanted) {
    d.await(
        "touch " + wanted,
        () -> {
          History h = d.desk().session().history();
          return !d.desk().session().jobs().isBusy()
              && h.lines().getLast().entry().step() instanceof TouchUp t
              && t.touches().size() == wanted;
        });
    d.settle();
  }

  private Touch last() {
    TouchUp t = (TouchUp) d.on(() -> d.desk().session().history().lines().getLast().entry().step());
    return t.touches().getLast();
  }

  private static int changed(Maps a, Maps b, MapKind kind) {
    int n = 0;
    for (int y = 0; y < a.missed().height(); y++) {
      for (int x = 0; x < a.missed().width(); x++) {
        n += a.pictures().get(kind).argb(x, y) == b.pictures().get(kind).argb(x, y) ? 0 : 1;
      }
    }
    return n;
  }

  @Test
  void aStrokeInTheViewChangesAllMapsIsShownAtOnceAndUndone() {
    Maps was = baked();
    int before = entries();
    Node view = d.node("view");
    double x = d.on(() -> d.desk().view().getWidth() / 2);
    double y = d.on(() -> d.desk().view().getHeight() / 2);
    // Nothing is copied before it was said what.
    d.drag(view, MouseButton.PRIMARY, x, y, x + 30, y);
    d.settle();
    assertThat(entries()).isEqualTo(before);
    assertThat(d.textNow("touch-next")).contains("Shift + click");
    d.drag(view, Held.SHIFT, x, y + 80);
    d.await("the source", () -> d.textNow("touch-next").contains("Paint"));
    d.drag(view, MouseButton.PRIMARY, x - 120, y + 120, x - 70, y + 125);
    touches(1);
    assertThat(entries()).isEqualTo(before + 1);
    assertThat(last().how()).isEqualTo(Touch.How.COPY);
    assertThat(last().points()).isGreaterThan(1);
    Maps once = maps();
    for (MapKind k : KINDS) {
      assertThat(changed(was, once, k)).as("%s", k).isBetween(20, 6000);
    }
    d.choose("touch-how", Touch.How.SOFTEN.ordinal());
    d.choose("touch-maps", 1);
    d.drag(view, MouseButton.PRIMARY, x - 120, y + 120, x - 70, y + 125);
    touches(2);
    assertThat(entries()).isEqualTo(before + 1);
    assertThat(maps().pictures().get(MapKind.NORMAL)).isSameAs(once.pictures().get(MapKind.NORMAL));
    d.choose("touch-how", Touch.How.RESTORE.ordinal());
    d.choose("touch-maps", 0);
    d.drag(view, MouseButton.PRIMARY, x - 120, y + 120, x - 70, y + 125);
    touches(3);
    assertThat(changed(was, maps(), MapKind.COLOUR)).isLessThan(changed(was, once, MapKind.COLOUR));
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(changed(maps(), once, MapKind.COLOUR)).isZero();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(maps()).isSameAs(was);
    assertThat(entries()).isEqualTo(before);
  }

  @Test
  void anAreaIsFilledAndAPieceIsDraggedElsewhere() {
    Maps was = baked();
    Node view = d.node("view");
    double x = d.on(() -> d.desk().view().getWidth() / 2);
    double y = d.on(() -> d.desk().view().getHeight() / 2);
    d.choose("touch-with", 1);
    d.choose("touch-how", Touch.How.FILL.ordinal());
    d.drag(
        view,
        MouseButton.PRIMARY,
        new double[] {
          x - 20, y - 20, x + 20, y - 20, x + 20, y + 20, x - 20, y + 20, x - 20, y - 18
        });
    touches(1);
    assertThat(last().area()).isTrue();
    Maps filled = maps();
    assertThat(changed(was, filled, MapKind.COLOUR)).isPositive();
    d.choose("touch-how", Touch.How.FIT.ordinal());
    d.drag(
        view,
        MouseButton.PRIMARY,
        new double[] {
          x - 15, y + 40, x + 15, y + 40, x + 15, y + 70, x - 15, y + 70, x - 15, y + 42
        });
    d.await("the piece", () -> d.textNow("touch-next").contains("Drag the piece"));
    d.drag(view, MouseButton.PRIMARY, x, y + 55, x + 20, y - 30);
    touches(2);
    assertThat(last().from()).isNotNull();
    assertThat(last().to()).isNotNull();
    assertThat(changed(filled, maps(), MapKind.NORMAL)).isPositive();
  }

  @Test
  void aStrokeInThePictureIsTheSameKindOfThingAndIsMadeAgainAfterANewBake() {
    Maps was = baked();
    Node flat = d.node("flat-view");
    Mesh m = d.on(() -> d.desk().session().current().cast());
    int a = largest(m, -1);
    double[] p = pixel(m, a);
    double[] q = pixel(m, largest(m, a));
    d.drag(flat, Held.SHIFT, q[0], q[1]);
    d.await("the source", () -> d.textNow("touch-next").contains("Paint"));
    d.on(() -> null);
    d.controlWheel(flat, p[0], p[1], 40);
    d.drag(flat, MouseButton.PRIMARY, p[0], p[1], p[0] + 12, p[1] + 3);
    touches(1);
    assertThat(changed(was, maps(), MapKind.COLOUR)).isPositive();
    // The bake before it is made anew, at another size: the stroke is made on that.
    int bake = entries() - 2;
    d.on(
        () -> {
          d.desk()
              .session()
              .change("again", (h, run) -> h.revise(bake, new BakeMaps(KINDS, 512, 1, 4), run));
          return null;
        });
    d.settle();
    assertThat(maps().size()).isEqualTo(512);
    Maps plain = d.on(() -> d.desk().session().history().stateAfter(bake + 1).maps());
    assertThat(changed(plain, maps(), MapKind.COLOUR)).isPositive();
    assertThat(changed(plain, maps(), MapKind.NORMAL)).isPositive();
  }

  @Test
  void theCageIsSeenAsAShellAndPaintedWider() {
    Maps was = baked();
    int before = entries();
    int[] bare = d.on(this::seen);
    d.keys(KeyCode.DIGIT2);
    d.settle();
    d.await("the shell", () -> d.desk().view().isExactShown() && differ(bare) > 1000);
    int[] shell = d.on(this::seen);
    Node view = d.node("view");
    double x = d.on(() -> d.desk().view().getWidth() / 2);
    double y = d.on(() -> d.desk().view().getHeight() / 2);
    d.fill("cage-times", "8");
    d.drag(view, MouseButton.PRIMARY, x - 120, y + 120, x - 70, y + 125);
    d.await(
        "the stroke",
        () ->
            !d.desk().session().jobs().isBusy()
                && d.desk().session().history().lines().getLast().entry().step()
                    instanceof PaintCage);
    d.settle();
    assertThat(entries()).isEqualTo(before + 1);
    assertThat(maps()).isSameAs(was);
    d.await("a wider shell", () -> d.desk().view().isExactShown() && differ(shell) > 200);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(entries()).isEqualTo(before);
  }

  /** The pixels of the view, every second of every second row. */
  private int[] seen() {
    int w = (int) d.desk().view().getWidth() / 2;
    int h = (int) d.desk().view().getHeight() / 2;
    int[] out = new int[w * h];
    for (int i = 0; i < out.length; i++) {
      out[i] = d.desk().view().pixel(2 * (i % w), 2 * (i / w));
    }
    return out;
  }

  /** How many of them are now others. */
  private int differ(int[] than) {
    int[] now = seen();
    int n = 0;
    for (int i = 0; i < now.length && now.length == than.length; i++) {
      n += now[i] == than[i] ? 0 : 1;
    }
    return n;
  }

  /** The triangle that is largest in the texture, of another chart's side than one. */
  private static int largest(Mesh m, int besides) {
    int best = -1;
    double most = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      double[] c = corners(m, t);
      double area = Math.abs((c[2] - c[0]) * (c[5] - c[1]) - (c[4] - c[0]) * (c[3] - c[1]));
      double[] other = besides < 0 ? null : corners(m, besides);
      boolean isAway = other == null || Math.hypot(other[0] - c[0], other[1] - c[1]) > 0.15;
      if (isAway && area > most) {
        most = area;
        best = t;
      }
    }
    return best;
  }

  private static double[] corners(Mesh m, int t) {
    double[] out = new double[6];
    for (int k = 0; k < 3; k++) {
      int c = 2 * m.uv().corners()[3 * t + k];
      out[2 * k] = m.uv().coords()[c];
      out[2 * k + 1] = m.uv().coords()[c + 1];
    }
    return out;
  }

  private double[] pixel(Mesh m, int t) {
    double[] c = corners(m, t);
    return d.on(
        () ->
            ((FlatPane) d.node("flat-view"))
                .project((c[0] + c[2] + c[4]) / 3, (c[1] + c[3] + c[5]) / 3));
  }
}
