package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.app.pane.FlatPane;
import holotome.app.pane.SpacePane;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.view.camera.Camera;
import java.io.IOException;
import java.lang.ref.WeakReference;
import java.nio.file.Files;
import java.util.BitSet;
import javafx.scene.Node;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.layout.Pane;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Several panes, the flat one, and two states in one pane; by pointer and keys. */
class PanesTest extends WindowCase {

  @Override
  int triangles() {
    return 60_000;
  }

  private Camera camera(String id) {
    return d.on(() -> ((SpacePane) d.scene().lookup("#" + id)).camera());
  }

  private Camera camera() {
    return d.on(() -> d.desk().view().camera());
  }

  @Test
  void fourPanesLookAlongTheAxesAtTheSamePlaceAndLeadEachOther() {
    d.find("four panes");
    d.settle();
    Node top = d.node("second-view");
    assertThat(top.getLayoutBounds().getWidth()).isGreaterThan(200);
    assertThat(camera("second-view").pitch()).isCloseTo(Math.PI / 2, within(1e-9));
    assertThat(camera("third-view").yaw()).isCloseTo(0, within(1e-9));
    assertThat(camera("fourth-view").yaw()).isCloseTo(Math.PI / 2, within(1e-9));
    assertThat(camera("fourth-view").perspective()).isFalse();
    Camera before = camera();
    d.drag(top, MouseButton.SECONDARY, 120, 90, 160, 110);
    d.settle();
    // Shifted, never turned; the view and the others come along and keep their directions.
    assertThat(camera("second-view").pitch()).isCloseTo(Math.PI / 2, within(1e-9));
    assertThat(camera().yaw()).isEqualTo(before.yaw());
    assertThat(Vec.distance(camera().target(), before.target())).isGreaterThan(0);
    assertThat(camera("third-view").target()).containsExactly(camera("second-view").target());
    double distance = camera("fourth-view").distance();
    d.wheel(view, 150, 120, -3);
    d.settle();
    assertThat(camera("fourth-view").distance()).isLessThan(distance);
    d.find("one pane");
    d.settle();
    assertThat(d.on(() -> d.scene().lookup("#fourth-view"))).isNull();
  }

  private static int differing(int[] a, int[] b, int width, int from, int to) {
    int n = 0;
    for (int i = 0; i < a.length; i++) {
      n += i % width >= from && i % width < to && a[i] != b[i] ? 1 : 0;
    }
    return n;
  }

  private int[] pixels() {
    return d.on(
        () -> {
          SpacePane v = d.desk().view();
          int[] out = new int[(int) v.getWidth() * (int) v.getHeight()];
          for (int i = 0; i < out.length; i++) {
            out[i] = v.pixel(i % (int) v.getWidth(), i / (int) v.getWidth());
          }
          return out;
        });
  }

  @Test
  void theLineShowsTheStateBeforeOnItsLeft() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT6);
    d.settle();
    apply();
    d.keys(KeyCode.HOME);
    d.settle();
    int[] now = pixels();
    Mesh current = mesh();
    d.hold(KeyCode.SPACE);
    d.await("the state before", () -> d.desk().view().mesh() != current);
    d.settle();
    int[] before = pixels();
    d.release(KeyCode.SPACE);
    d.settle();
    int width = (int) view.getLayoutBounds().getWidth();
    int middle = width / 2;
    assertThat(differing(now, before, width, 0, width)).isGreaterThan(5000);
    d.keys(KeyCode.K);
    d.settle();
    int[] both = pixels();
    assertThat(differing(both, before, width, 0, middle - 1)).isZero();
    assertThat(differing(both, now, width, middle + 1, width)).isZero();
    // Dragged by its grip to a quarter.
    double y = view.getLayoutBounds().getHeight() / 2;
    d.drag(view, MouseButton.PRIMARY, middle, y, middle - 40, y, width * 0.25, y);
    d.settle();
    both = pixels();
    int quarter = width / 4;
    assertThat(differing(both, before, width, 0, quarter - 2)).isZero();
    assertThat(differing(both, now, width, quarter + 2, width)).isZero();
    assertThat(d.on(() -> d.desk().session().selection())).isNull();
    d.keys(KeyCode.K);
    d.settle();
    assertThat(differing(pixels(), now, width, 0, width)).isZero();
  }

  private double[] at(double u, double v) {
    return d.on(() -> flat().project(u, v));
  }

  private FlatPane flat() {
    return (FlatPane) d.scene().lookup("#flat-view");
  }

  /** Waits until just these triangles are chosen; null for none. */
  private void awaitChosen(String triangles) {
    d.await(
        "the triangles " + triangles,
        () -> {
          Workpiece w = d.desk().session().current();
          BitSet now = d.desk().session().charts().of(w.current());
          return triangles.equals(String.valueOf(now));
        });
  }

  @Test
  void whatIsChosenInOnePaneIsChosenInTheOther() throws IOException {
    open(crate(0.02, 0.45));
    stage(KeyCode.DIGIT6);
    Node flat = d.node("flat-view");
    assertThat(flat.getLayoutBounds().getWidth()).isGreaterThan(200);
    double[] p = at(0.16, 0.25);
    d.clickAt(flat, p[0], p[1]);
    awaitChosen("{0, 1}");
    assertThat(d.text("selected-count")).isEqualTo("1 chart chosen");
    // One more by Shift, in the view: the side that looks at the viewer from the top, the second.
    d.find("view from above");
    d.settle();
    double[] mid = d.pixel(new double[] {0.5, 0.5, 1});
    d.drag(view, Driver.Held.SHIFT, mid[0], mid[1]);
    awaitChosen("{0, 1, 2, 3}");
    assertThat(d.text("selected-count")).isEqualTo("2 charts chosen");
    // Outside the charts: none.
    p = at(0.32, 0.48);
    d.clickAt(flat, p[0], p[1]);
    awaitChosen("null");
    p = at(0.8, 0.8);
    d.clickAt(flat, p[0], p[1]);
    awaitChosen("{10, 11}");
    d.keys(KeyCode.ESCAPE);
    awaitChosen("null");
  }

  @Test
  void theFlatPaneIsMovedByTheSameMouseAndLeftWithItsStage() throws IOException {
    open(crate(0.02, 0.45));
    stage(KeyCode.DIGIT6);
    Node flat = d.node("flat-view");
    double[] before = at(0.5, 0.5);
    d.drag(flat, MouseButton.SECONDARY, 150, 150, 190, 175);
    double[] after = at(0.5, 0.5);
    assertThat(after[0] - before[0]).isCloseTo(40, within(1e-6));
    assertThat(after[1] - before[1]).isCloseTo(25, within(1e-6));
    // The wheel comes closer to the place under the pointer.
    double[] place = at(0.3, 0.7);
    double size = at(1, 0)[0] - at(0, 0)[0];
    for (int i = 0; i < 3; i++) {
      d.controlWheel(flat, place[0], place[1], 40);
    }
    assertThat(at(1, 0)[0] - at(0, 0)[0]).isGreaterThan(1.1 * size);
    assertThat(at(0.3, 0.7)[0]).isCloseTo(place[0], within(0.01));
    assertThat(at(0.3, 0.7)[1]).isCloseTo(place[1], within(0.01));
    stage(KeyCode.DIGIT3);
    assertThat(d.on(this::flat)).isNull();
    stage(KeyCode.DIGIT7);
    assertThat(d.on(this::flat)).isNotNull();
    d.find("one pane");
    d.settle();
    stage(KeyCode.DIGIT6);
    assertThat(d.on(this::flat)).isNull();
  }

  /** On a screen of twice the density everything is drawn in its pixels, and picked where it is. */
  @Test
  void aDenseScreenIsDrawnInItsOwnPixels() throws IOException {
    open(crate(0.02, 0.45));
    stage(KeyCode.DIGIT6);
    d.find("view from above");
    double[] place = d.pixel(new double[] {0.7, 0.4, 1});
    d.on(
        () -> {
          d.scene().getWindow().setRenderScaleX(2);
          d.scene().getWindow().setRenderScaleY(2);
          return null;
        });
    d.settle();
    for (Node pane : new Node[] {view, d.node("flat-view")}) {
      ImageView shown = d.on(() -> (ImageView) ((Pane) pane).getChildrenUnmodifiable().get(0));
      assertThat(shown.getImage().getWidth())
          .isCloseTo(2 * pane.getLayoutBounds().getWidth(), within(1.0));
      assertThat(shown.getLayoutBounds().getWidth())
          .isCloseTo(pane.getLayoutBounds().getWidth(), within(1.0));
    }
    d.clickAt(view, place[0], place[1]);
    awaitChosen("{2, 3}");
    double[] p = at(0.16, 0.25);
    d.clickAt(d.node("flat-view"), p[0], p[1]);
    awaitChosen("{0, 1}");
    d.on(
        () -> {
          d.scene().getWindow().setRenderScaleX(1);
          d.scene().getWindow().setRenderScaleY(1);
          return null;
        });
  }

  /** How many pixels of a part of the view differ from its background, which is grey. */
  private int drawnIn(int[] px, int from, int to) {
    int width = (int) view.getLayoutBounds().getWidth();
    int n = 0;
    for (int i = 0; i < px.length; i++) {
      int c = px[i];
      int spread = Math.abs((c >> 16 & 255) - (c & 255)) + Math.abs((c >> 8 & 255) - (c & 255));
      n += i % width >= from && i % width < to && spread > 24 ? 1 : 0;
    }
    return n;
  }

  /** A step that gives the work another size: both states are as large, left and right of it. */
  @Test
  void theStateBeforeIsAsLargeWhateverTheScaleWas() {
    stage(KeyCode.DIGIT4);
    d.find("datum: scale");
    d.click("bar-500");
    d.settle();
    apply();
    d.keys(KeyCode.HOME);
    d.settle();
    int width = (int) view.getLayoutBounds().getWidth();
    int left = drawnIn(pixels(), 0, width / 2 - 4);
    int right = drawnIn(pixels(), width / 2 + 4, width);
    assertThat(left).isGreaterThan(3000);
    d.keys(KeyCode.K);
    d.settle();
    int[] both = pixels();
    assertThat((double) drawnIn(both, 0, width / 2 - 4)).isCloseTo(left, within(0.1 * left));
    assertThat((double) drawnIn(both, width / 2 + 4, width)).isCloseTo(right, within(0.1 * right));
    assertThat(d.text("compared")).contains("Before and now");
    d.click("compared");
    d.settle();
    // The same beside it: moved in one pane, the other still shows the same part of the work.
    d.find("before the last step");
    d.settle();
    d.drag(view, MouseButton.SECONDARY, 150, 300, 190, 310);
    d.settle();
    Camera now = camera();
    Camera then = camera("second-view");
    double scale = d.on(() -> d.desk().session().current().frame().toWork().scale());
    assertThat(then.distance() * scale).isCloseTo(now.distance(), within(1e-6 * now.distance()));
    d.drag(d.node("second-view"), MouseButton.SECONDARY, 150, 300, 180, 310);
    d.settle();
    assertThat(camera("second-view").distance() * scale)
        .isCloseTo(camera().distance(), within(1e-6 * camera().distance()));
    d.find("one pane");
  }

  /** A drag belongs to what it began on, wherever it is let go. */
  @Test
  void aLassoMayEndOnTheOtherSideOfTheLine() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    d.settle();
    apply();
    d.keys(KeyCode.DIGIT1);
    d.keys(KeyCode.K);
    d.settle();
    double m = view.getLayoutBounds().getWidth() / 2;
    d.drag(view, MouseButton.PRIMARY, m + 60, 300, m + 60, 420, m - 60, 420, m - 60, 300);
    d.await("a selection", () -> d.desk().session().selection() != null);
    d.keys(KeyCode.ESCAPE);
    d.settle();
    // Begun on the left nothing is selected: that state is only looked at.
    d.drag(view, MouseButton.PRIMARY, m - 60, 300, m - 60, 420, m + 60, 420, m + 60, 300);
    d.settle();
    assertThat(d.on(() -> d.desk().session().selection())).isNull();
    d.keys(KeyCode.K);
  }

  @Test
  void bordersThatAFindingShowsAreLinesOnTheSurface() {
    stage(KeyCode.DIGIT3);
    int[] before = pixels();
    d.clickWords("findings", "Show");
    d.settle();
    int brick = 0;
    int[] px = pixels();
    for (int i = 0; i < px.length; i++) {
      int c = px[i];
      boolean red = (c >> 16 & 255) > (c >> 8 & 255) + 60 && (c >> 16 & 255) > (c & 255) + 60;
      brick += red && px[i] != before[i] ? 1 : 0;
    }
    assertThat(brick).isGreaterThan(100);
    d.keys(KeyCode.ESCAPE);
    d.settle();
    assertThat(differing(pixels(), before, (int) view.getLayoutBounds().getWidth(), 0, 9999))
        .isZero();
  }

  @Test
  void earlierWorkIsNotHeldForItsCharts() throws IOException {
    open(crate(0.02, 0.45));
    stage(KeyCode.DIGIT6);
    double[] p = at(0.16, 0.25);
    d.clickAt(d.node("flat-view"), p[0], p[1]);
    awaitChosen("{0, 1}");
    WeakReference<Mesh> mesh =
        new WeakReference<>(d.on(() -> d.desk().session().current().current()));
    open(scan);
    d.await(
        "the mesh let go",
        () -> {
          System.gc();
          return mesh.get() == null;
        });
  }

  /** What is open, crowded, of one triangle, or has texture coordinates far outside the square. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "v 0 0 0#v 1 0 0#v 0 1 0#vt 0.5 0.5#f 1/1 2/1 3/1",
        "v 0 0 0#v 1 0 0#v 0 1 0#vt 1e30 0#vt 0 1e30#vt -1e30 0#f 1/1 2/2 3/3",
        "v 0 0 0#v 1 0 0#v 0 1 0#v 0 0 1#v 0 -1 0#vt 0 0#vt 1 0#vt 0 1#f 1/1 2/2 3/3#f 1/1 2/2 4/3#f 1/1 2/2 5/3",
        "v 4100000 5200000 0#v 4100001 5200000 0#v 4100000 5200001 0#vt 0 0#vt 1 0#vt 0 1#f 1/1 2/2 3/3",
      })
  void roughMeshesAreShownInEveryPane(String text) throws IOException {
    open(Files.writeString(dir.resolve("rough.obj"), text.replace('#', '\n') + "\n"));
    stage(KeyCode.DIGIT6);
    Node flat = d.node("flat-view");
    d.clickAt(flat, 150, 150);
    d.controlWheel(flat, 150, 150, 40);
    d.settle();
    d.keys(KeyCode.HOME);
    d.keys(KeyCode.K);
    d.settle();
    d.find("four panes");
    d.settle();
    d.keys(KeyCode.K);
    stage(KeyCode.DIGIT3);
    d.settle();
    assertThat(d.on(() -> d.desk().session().failure())).isNull();
    // What was found since asks for another picture.
    d.await("every pane's picture", () -> d.desk().isEveryPaneShown());
  }
}
