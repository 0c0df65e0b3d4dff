package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.trim.CutSelection;
import holotome.core.trim.PlaneCut;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** Selecting and taking away in the window, driven by real events. */
class SelectingTest extends WindowCase {
  // --- selecting and taking away ---------------------------------------------------------------

  @Test
  void lassoTakesWhatIsVisibleAndWithVEverythingBehind() {
    stage(KeyCode.DIGIT2);
    lasso();
    int visible = selected();
    d.keys(KeyCode.V);
    lasso();
    int through = selected();
    assertThat(visible).isGreaterThan(1000);
    assertThat(through).isGreaterThan((int) (1.6 * visible));
    assertThat(d.text("selected-count"))
        .startsWith(String.format("%,d triangles, ", through))
        .endsWith("square units selected");
    assertThat(d.text("through")).contains("through");
    // What is visible looks at the viewer: the middle of no selected triangle lies behind the axis.
    d.keys(KeyCode.V);
    lasso();
    double[] eye = d.on(() -> d.desk().view().camera().eye());
    Mesh m = mesh();
    var s = d.on(() -> d.desk().session().selection());
    int away = 0;
    for (int t = s.nextSetBit(0); t >= 0; t = s.nextSetBit(t + 1)) {
      double[] a = Vec.at(m.xyz(), m.triangles()[3 * t]);
      double[] b = Vec.at(m.xyz(), m.triangles()[3 * t + 1]);
      double[] c = Vec.at(m.xyz(), m.triangles()[3 * t + 2]);
      double[] n = Vec.cross(Vec.sub(b, a), Vec.sub(c, a));
      away += Vec.dot(n, Vec.sub(eye, a)) < 0 ? 1 : 0;
    }
    assertThat((double) away / s.cardinality()).isLessThan(0.02);
  }

  @Test
  void escDropsTheSelectionAndShiftAddsToIt() {
    stage(KeyCode.DIGIT2);
    lasso();
    int one = selected();
    d.drag(view, Driver.Held.SHIFT, 450, 450, 520, 450, 520, 520, 450, 520, 450, 450);
    d.await("a larger selection", () -> d.desk().session().selection().cardinality() > one);
    d.keys(KeyCode.ESCAPE);
    d.await("no selection", () -> d.desk().session().selection() == null);
  }

  @Test
  void aThroughLassoIsAFenceAndAVisibleOneIsStored() {
    stage(KeyCode.DIGIT2);
    lasso();
    apply();
    assertThat(((CutSelection) step(0)).picks().getFirst().stored()).isNotNull();
    d.keys(KeyCode.V);
    lasso();
    int n = selected();
    int before = mesh().triangleCount();
    apply();
    assertThat(((CutSelection) step(1)).picks()).hasSize(1);
    assertThat(((CutSelection) step(1)).picks().getFirst().fence()).isNotNull();
    assertThat(mesh().triangleCount()).isEqualTo(before - n);
  }

  @Test
  void thePlanesHandleIsDraggedAndItsNumberTyped() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT7);
    d.settle();
    String before = d.on(() -> ((TextField) d.node("field-place")).getText());
    double[] handle = handle();
    d.drag(view, MouseButton.PRIMARY, handle[0], handle[1], handle[0], handle[1] - 60);
    d.settle();
    String after = d.on(() -> ((TextField) d.node("field-place")).getText());
    assertThat(Double.parseDouble(after)).isGreaterThan(Double.parseDouble(before) + 50);
    d.fill("field-place", "1500");
    d.settle();
    apply();
    PlaneCut cut = (PlaneCut) step(0);
    assertThat(Vec.dot(cut.point(), Vec.unit(cut.normal()))).isCloseTo(1500, within(0.01));
    float[] p = mesh().xyz();
    for (int v = 0; v < p.length; v += 3) {
      double h = Vec.dot(new double[] {p[v], p[v + 1], p[v + 2]}, Vec.unit(cut.normal()));
      assertThat(h).isGreaterThan(1499.9);
    }
  }

  /** Where the plane's handle is seen: the middle of the box, put onto the ground's plane. */
  private double[] handle() {
    return d.on(
        () -> {
          var session = d.desk().session();
          var frame = session.current().frame();
          var ground = session.insight().ground();
          double[] n = frame.toWork().direction(ground.normal());
          double[] c = frame.workBounds(session.current().scan()).centre();
          double margin = 0.002 * session.current().scan().bounds().diagonal();
          double off = Vec.dot(frame.toWork().apply(ground.point()), n) + margin - Vec.dot(c, n);
          return d.desk().view().project(Vec.add(c, Vec.mul(n, off)));
        });
  }

  @Test
  void boxesJoinByTheKeysHeldAndAreUndone() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT2);
    d.settle();
    d.drag(view, Driver.Held.NONE, 300, 400, 450, 500);
    d.await("a selection", () -> selectedNow() > 0);
    d.settle();
    int a = selected();
    d.drag(view, Driver.Held.SHIFT, 400, 400, 550, 500);
    d.await("more", () -> selectedNow() > a);
    d.settle();
    int both = selected();
    d.drag(view, Driver.Held.CONTROL, 300, 400, 450, 500);
    d.await("less", () -> selectedNow() < both);
    d.settle();
    int second = selected();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.await("undone", () -> selectedNow() == both);
    d.drag(view, Driver.Held.BOTH, 300, 400, 450, 500);
    d.await("what is in both", () -> selectedNow() < both);
    d.settle();
    assertThat(selected()).isEqualTo(a);
    assertThat(second).isLessThan(both).isGreaterThan(0);
    assertThat(entries()).isZero();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.await("nothing selected", () -> d.desk().session().selection() == null);
    d.keys(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
    d.await("the first again", () -> selectedNow() == a);
  }

  private int selectedNow() {
    var s = d.desk().session().selected();
    return s == null ? 0 : s.count();
  }

  @Test
  void selectionsGrowShrinkInvertAndAreKeptByName() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT2);
    d.settle();
    d.drag(view, Driver.Held.NONE, 300, 400, 450, 500);
    d.await("a selection", () -> selectedNow() > 0);
    d.settle();
    int a = selected();
    d.keys(KeyCode.G);
    d.await("grown", () -> selectedNow() > a);
    d.settle();
    int grown = selected();
    d.keys(KeyCode.SHIFT, KeyCode.G);
    d.await("shrunk", () -> selectedNow() < grown);
    d.settle();
    d.click("selection-invert");
    int all = mesh().triangleCount();
    d.await("inverted", () -> selectedNow() > all / 2);
    d.settle();
    int inverted = selected();
    d.fill("selection-name", "far side");
    d.click("selection-store");
    d.settle();
    d.on(
        () -> {
          view.requestFocus();
          return null;
        });
    d.keys(KeyCode.ESCAPE);
    d.await("nothing", () -> d.desk().session().selection() == null);
    d.clickWords("sheet", "Select");
    d.await("the kept one", () -> selectedNow() == inverted);
    assertThat(d.on(() -> d.desk().session().selecting().names())).containsExactly("far side");
  }

  @Test
  void theBrushPaintsInPixelsAndInLengths() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT3);
    d.settle();
    d.drag(view, Driver.Held.NONE, 300, 430, 360, 440, 430, 450);
    d.await("painted", () -> selectedNow() > 0);
    d.settle();
    int visible = selected();
    // A larger brush paints more; its radius is changed with Ctrl and the wheel.
    for (int i = 0; i < 5; i++) {
      d.controlWheel(view, 300, 430, 40);
    }
    d.drag(view, Driver.Held.NONE, 300, 430, 360, 440, 430, 450);
    d.await("painted wider", () -> selectedNow() > 1.3 * visible);
    d.settle();
    d.keys(KeyCode.ESCAPE);
    d.choose("field-brush-unit", 1);
    d.fill("field-brush-size", "150");
    d.drag(view, Driver.Held.NONE, 300, 430, 360, 440, 430, 450);
    d.await("painted in lengths", () -> selectedNow() > 0);
    d.settle();
    var picks = d.on(() -> d.desk().session().selected().picks());
    assertThat(picks).hasSize(1);
    assertThat(picks.getFirst().brush().radius().metres()).isEqualTo(150);
    assertThat(picks.getFirst().isGeometric()).isTrue();
  }

  @Test
  void alikeTakesIslandsColoursDirectionsHeightsAndBorders() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT4);
    d.settle();
    // In the order of the choice: the island, up to sharp edges, colour, direction, height.
    for (int way = 0; way < 5; way++) {
      d.keys(KeyCode.ESCAPE);
      d.choose("field-alike", way);
      d.clickAt(view, 300, 440);
      d.await("a selection", () -> selectedNow() > 0);
      d.settle();
      assertThat(d.on(() -> d.desk().session().selected().isGeometric())).isTrue();
      if (way == 0) {
        assertThat(selected())
            .isEqualTo(d.on(() -> d.desk().session().insight().islands().sizes()[0]));
      }
    }
    d.keys(KeyCode.ESCAPE);
    d.choose("field-alike", 6);
    d.clickAt(view, 300, 440);
    d.await("the border", () -> selectedNow() > 0);
    d.settle();
    assertThat(selected()).isLessThan(mesh().triangleCount() / 4);
  }

  @Test
  void clippingShowsTheInsideAndTheSecondPaneTurnsAlong() {
    d.keys(KeyCode.L);
    d.settle();
    int[] whole = d.on(() -> pixels());
    d.keys(KeyCode.C);
    d.settle();
    int[] clipped = d.on(() -> pixels());
    assertThat(differing(whole, clipped)).isGreaterThan(5000);
    assertThat(d.text("clip")).contains("Clipped at");
    double distance = d.on(() -> d.desk().view().camera().distance());
    d.controlWheel(view, 300, 300, 400);
    d.settle();
    assertThat(differing(clipped, d.on(() -> pixels()))).isGreaterThan(1000);
    assertThat(d.on(() -> d.desk().view().camera().distance())).isEqualTo(distance);
    d.keys(KeyCode.C);
    d.settle();
    assertThat(differing(whole, d.on(() -> pixels()))).isLessThan(50);
    d.find("from behind");
    javafx.scene.Node second = d.node("second-view");
    d.await("two panes", () -> second.getLayoutBounds().getWidth() > 300);
    d.drag(view, MouseButton.SECONDARY, 150, 300, 210, 320);
    d.settle();
    double turned =
        d.on(
            () -> {
              var other = (holotome.app.tool.ViewPort) second;
              return Math.IEEEremainder(
                  other.camera().yaw() - d.desk().view().camera().yaw() - Math.PI, 2 * Math.PI);
            });
    assertThat(turned).isCloseTo(0, within(1e-9));
    d.find("one pane");
    assertThat(d.on(() -> d.scene().lookup("#second-view"))).isNull();
  }

  private int[] pixels() {
    var v = d.desk().view();
    int w = (int) v.getWidth();
    int[] out = new int[w * (int) v.getHeight()];
    for (int i = 0; i < out.length; i++) {
      out[i] = v.pixel(i % w, i / w);
    }
    return out;
  }

  private static int differing(int[] a, int[] b) {
    int n = 0;
    for (int i = 0; i < a.length; i++) {
      n += a[i] == b[i] ? 0 : 1;
    }
    return n;
  }

  @Test
  void figuresBeforeApplyingAreThoseAfterApplying() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    d.await("figures", () -> d.textNow("after-triangles").matches("[\\d,]+"));
    String triangles = d.text("after-triangles");
    String islands = d.text("after-islands");
    apply();
    assertThat(String.format("%,d", mesh().triangleCount())).isEqualTo(triangles);
    assertThat(String.valueOf(d.on(() -> d.desk().session().insight().inspection().islands())))
        .isEqualTo(islands);
  }
}
