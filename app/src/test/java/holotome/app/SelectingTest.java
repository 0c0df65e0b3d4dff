package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Vec;
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
    d.shiftDrag(view, 450, 450, 520, 450, 520, 520, 450, 520, 450, 450);
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
    d.keys(KeyCode.DIGIT8);
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
  void figuresBeforeApplyingAreThoseAfterApplying() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT6);
    d.await("figures", () -> d.textNow("after-triangles").matches("[\\d,]+"));
    String triangles = d.text("after-triangles");
    String islands = d.text("after-islands");
    apply();
    assertThat(String.format("%,d", mesh().triangleCount())).isEqualTo(triangles);
    assertThat(String.valueOf(d.on(() -> d.desk().session().insight().inspection().islands())))
        .isEqualTo(islands);
  }
}
