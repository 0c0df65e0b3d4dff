package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.topology.Adjacency;
import holotome.core.trim.CutBox;
import holotome.core.trim.CutFence;
import holotome.core.trim.CutGround;
import holotome.core.trim.PlaneCut;
import holotome.demo.BollardScan;
import holotome.view.camera.Camera;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** Trims the demo scan with every tool that cuts, by real events, against its labels. */
class TrimmingTest extends WindowCase {

  @Test
  void theAutomaticRouteKeepsTheSubjectAndLosesTheRest() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT6);
    d.choose("field-along", 2);
    apply();
    assertThat(((CutGround) step(0)).along()).isEqualTo(CutGround.Along.SEAM);
    d.keys(KeyCode.DIGIT5);
    apply();
    new Labels(TRIANGLES).assertTrimmed(mesh());
    assertThat(d.message()).contains("square units of surface").contains("1 island and");
    // The seam is one clean border: what other borders there are, the scan had before.
    assertThat(d.on(() -> d.desk().session().insight().islands().count())).isEqualTo(1);
  }

  /** An outline around the foot, seen along the bollard's axis, all the way through. */
  @Test
  void byHandTheOutlineKeepsTheSubject() {
    stage(KeyCode.DIGIT2);
    d.find("square to the ground");
    d.keys(KeyCode.O);
    d.keys(KeyCode.V);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    d.choose("field-lasso", 1);
    d.settle();
    // From the side of the axis itself: the ground's plane is found to a tenth of a degree only.
    double[] axis = BollardScan.CAPTURE.direction(new double[] {0, 0, 1});
    d.on(
        () -> {
          var v = d.desk().view();
          double[] at = BollardScan.CAPTURE.apply(0, 0, 0);
          Camera c = v.camera().lookingFrom(axis, at);
          double shown = c.unitsPerPixel((int) v.height()) * v.height();
          v.navigation().move(c.closer(2600 / shown, at));
          return null;
        });
    d.settle();
    int corners = 60;
    for (int i = 0; i <= corners; i++) {
      double a = 2 * Math.PI * (i % corners) / corners;
      // A chord of sixty corners passes the circle by 0.14 % of its radius.
      double r = 0.2622 / Math.cos(Math.PI / corners);
      double[] px = d.pixel(BollardScan.CAPTURE.apply(r * Math.cos(a), r * Math.sin(a), 0.02));
      d.clickAt(view, px[0], px[1]);
    }
    d.await("a selection", () -> d.desk().session().selection() != null);
    d.choose("field-then", 1);
    apply();
    d.keys(KeyCode.DIGIT5);
    apply();
    new Labels(TRIANGLES).assertTrimmed(mesh());
  }

  @Test
  void theFenceCutsCleanAlongItsLine() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT8);
    d.settle();
    int[][] corners = {{250, 200}, {520, 210}, {500, 470}, {260, 460}, {250, 200}};
    for (int[] c : corners) {
      d.clickAt(view, c[0], c[1]);
    }
    // A corner that was set is dragged elsewhere, and the figures follow.
    d.drag(view, MouseButton.PRIMARY, 500, 470, 540, 500);
    d.settle();
    d.choose("field-keep", 1);
    double[] toPixels = d.on(() -> d.desk().view().toPixels());
    apply();
    CutFence cut = (CutFence) step(0);
    assertThat(cut.keep()).isEqualTo(CutFence.Keep.INSIDE);
    assertThat(cut.fence().outline()).hasSize(8);
    assertThat(cut.fence().outline()[4]).isCloseTo(540, within(1.0));
    Mesh m = mesh();
    for (int v = 0; v < m.vertexCount(); v++) {
      double[] p = Vec.at(m.xyz(), v);
      double w = Vec.dot(new double[] {toPixels[12], toPixels[13], toPixels[14]}, p) + toPixels[15];
      double x =
          (Vec.dot(new double[] {toPixels[0], toPixels[1], toPixels[2]}, p) + toPixels[3]) / w;
      assertThat(x).isBetween(249.99, 540.01);
    }
  }

  @Test
  void theCropBoxIsDraggedTypedAndClosed() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT9);
    d.settle();
    double height = size()[2];
    // The handle on the upper face: in the middle of the box, half its height up.
    double[] top = face(1);
    double[] higher = face(1.3);
    d.drag(view, MouseButton.PRIMARY, top[0], top[1], higher[0], higher[1]);
    d.settle();
    assertThat(size()[2]).isGreaterThan(1.1 * height);
    d.fill("field-size", "1500, 1400, 1300");
    d.fill("field-turn", "0, 0, 30");
    d.fill("field-centre", "412, -286, 1500");
    d.choose("field-close", 1);
    apply();
    CutBox crop = (CutBox) step(0);
    assertThat(crop.box().size()).containsExactly(1500, 1400, 1300);
    assertThat(crop.box().turn()).containsExactly(0, 0, 30);
    var b = mesh().bounds();
    assertThat(b.minZ()).isGreaterThan(1500 - 651);
    assertThat(b.maxZ()).isLessThan(1500 + 651);
  }

  private double[] size() {
    return d.on(() -> ((CutBox) d.desk().sheetStep()).box().size());
  }

  private double[] face(double up) {
    return d.on(
        () -> {
          var box = ((CutBox) d.desk().sheetStep()).box();
          double[] a = box.axes();
          double[] axis = {a[6], a[7], a[8]};
          return d.desk()
              .view()
              .project(Vec.add(box.centre(), Vec.mul(axis, up * box.size()[2] / 2)));
        });
  }

  @Test
  void thePlaneIsSetByThreePointsTiltedAndParts() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT7);
    d.choose("field-along", 4);
    assertThat(d.textNow("problem")).contains("three points");
    int[][] points = {{200, 450}, {560, 430}, {380, 510}};
    for (int i = 0; i < 3; i++) {
      int left = 2 - i;
      d.clickAt(view, points[i][0], points[i][1]);
      d.await("a point", () -> left == 0 || d.textNow("problem").contains(left + " more"));
    }
    d.await("a plane", () -> d.desk().sheetStep() != null);
    d.settle();
    double[] normal = d.on(() -> Vec.unit(((PlaneCut) d.desk().sheetStep()).normal()));
    double[] up = BollardScan.CAPTURE.direction(new double[] {0, 0, 1});
    assertThat(Math.abs(Vec.dot(normal, Vec.unit(up)))).isGreaterThan(0.99);
    // Nudged by a chosen step.
    d.fill("field-nudge", "100");
    String before = d.on(() -> ((TextField) d.node("field-place")).getText());
    d.on(
        () -> {
          view.requestFocus();
          return null;
        });
    d.keys(KeyCode.UP);
    d.settle();
    String after = d.on(() -> ((TextField) d.node("field-place")).getText());
    assertThat(Double.parseDouble(after) - Double.parseDouble(before)).isCloseTo(100, within(0.02));
    d.choose("field-side", 2);
    d.choose("field-close", 2);
    int triangles = mesh().triangleCount();
    apply();
    PlaneCut cut = (PlaneCut) step(0);
    assertThat(cut.keep()).isEqualTo(PlaneCut.Keep.BOTH);
    assertThat(cut.close()).isEqualTo(PlaneCut.Close.EVEN);
    assertThat(mesh().triangleCount()).isGreaterThan(triangles);
    assertThat(d.message()).contains("Parted into");
  }

  @Test
  void thePlaneTakesAPickedFaceAndItsHandleTilts() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT7);
    d.choose("field-along", 2);
    double[] flat = d.on(() -> Vec.unit(((PlaneCut) d.desk().sheetStep()).normal()));
    // The round handle at the sheet's rim, along the plane's own first direction.
    double[] handle =
        d.on(
            () -> {
              var session = d.desk().session();
              var box = session.current().frame().workBounds(session.current().scan());
              PlaneCut c = (PlaneCut) d.desk().sheetStep();
              double[] n = Vec.unit(c.normal());
              double[] mid = box.centre();
              mid = Vec.add(mid, Vec.mul(n, Vec.dot(Vec.sub(c.point(), mid), n)));
              double[] u = Vec.perpendicular(n);
              return d.desk().view().project(Vec.add(mid, Vec.mul(u, 0.26 * box.diagonal())));
            });
    d.drag(view, MouseButton.PRIMARY, handle[0], handle[1], handle[0] + 30, handle[1] - 150);
    d.settle();
    double[] tilted = d.on(() -> Vec.unit(((PlaneCut) d.desk().sheetStep()).normal()));
    assertThat(Math.abs(Vec.dot(flat, tilted))).isLessThan(0.999);
    d.choose("field-along", 5);
    d.clickAt(view, 200, 470);
    d.await("a plane", () -> d.desk().sheetStep() != null);
    d.settle();
    assertThat(d.on(() -> d.node("apply").isDisabled())).isFalse();
  }

  @Test
  void closedCutsOfTheSubjectAreClosed() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT6);
    d.choose("field-along", 0);
    apply();
    d.keys(KeyCode.DIGIT5);
    apply();
    long open = Adjacency.of(mesh()).borderEdges();
    d.keys(KeyCode.DIGIT7);
    d.choose("field-along", 0);
    double at = Double.parseDouble(d.on(() -> ((TextField) d.node("field-place")).getText()));
    // A hand's breadth up, across the shaft.
    d.fill("field-place", String.valueOf(at + 500));
    d.choose("field-close", 2);
    apply();
    // Holes of the scan stay; the cut itself opens nothing.
    assertThat(Adjacency.of(mesh()).borderEdges()).isLessThanOrEqualTo(open);
  }
}
