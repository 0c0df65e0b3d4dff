package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshWriter;
import holotome.core.mend.EaseOverhang;
import holotome.core.mend.HollowOut;
import holotome.core.mend.PatchRegion;
import holotome.core.mend.PullSurface;
import holotome.core.mend.PutOnBase;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SolidProof;
import holotome.core.task.Work;
import java.nio.file.Path;
import javafx.scene.Node;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** A base under an open bust, hollowed out, and a patch, by pointer and keys. */
class BodyWindowTest extends WindowCase {
  @Override
  int triangles() {
    return 30_000;
  }

  /** A dome of 0.4 m across with an open foot. */
  private Path dome() {
    return dome(1);
  }

  /**
   * @param side -1 for one that hangs
   */
  private Path dome(int side) {
    int around = 48;
    int rows = 16;
    float[] xyz = new float[3 * (around * rows + 1)];
    xyz[2] = side * 0.2f;
    int[] tri = new int[3 * around * (2 * rows - 1)];
    int c = 0;
    for (int r = 0; r < rows; r++) {
      double up = Math.PI / 2 * (1 - (r + 1.0) / rows);
      for (int i = 0; i < around; i++) {
        int v = 1 + r * around + i;
        int next = 1 + r * around + (i + 1) % around;
        double turn = 2 * Math.PI * i / around;
        xyz[3 * v] = (float) (0.2 * Math.cos(up) * Math.cos(turn));
        xyz[3 * v + 1] = (float) (0.2 * Math.cos(up) * Math.sin(turn));
        xyz[3 * v + 2] = (float) (side * 0.2 * Math.sin(up));
        int[] some =
            r == 0
                ? new int[] {0, v, next}
                : new int[] {v - around, v, next, v - around, next, next - around};
        for (int k = 0; side < 0 && k < some.length; k += 3) {
          int other = some[k];
          some[k] = some[k + 1];
          some[k + 1] = other;
        }
        System.arraycopy(some, 0, tri, c, some.length);
        c += some.length;
      }
    }
    Path file = dir.resolve("dome.ply");
    MeshWriter.write(file, new Mesh(xyz, tri), Similarity.IDENTITY, Work.unwatched());
    return file;
  }

  private int holes() {
    String text = d.on(() -> ((TextField) d.node("field-at")).getText()).strip();
    return text.isEmpty() ? 0 : text.split("[\\s,]+").length / 3;
  }

  @Test
  void aBustIsPutOnABaseAndHollowed() {
    open(dome());
    double height = mesh().bounds().height();
    stage(KeyCode.DIGIT3);
    d.click("tool-base");
    d.settle();
    apply();
    assertThat(step(0)).isInstanceOf(PutOnBase.class);
    assertThat(mesh().bounds().height()).isGreaterThan(height);
    double solid = SolidProof.of(mesh(), Work.unwatched()).volume();
    assertThat(solid).isPositive();
    d.click("tool-hollow");
    d.settle();
    d.fill("field-wall", "6 mm");
    apply();
    assertThat(step(1)).isInstanceOf(HollowOut.class);
    SolidProof proof = SolidProof.of(mesh(), Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(proof.volume()).isLessThan(solid);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.await("undone", () -> d.desk().session().history().size() == 1);
    d.settle();
    // Two holes placed by click, one of them taken away again.
    d.fill("field-wall", "8 mm");
    double[] top = d.pixel(new double[] {0.03, 0, 0.19});
    double[] side = d.pixel(new double[] {0.06, -0.1, 0.16});
    d.clickAt(view, top[0], top[1]);
    d.await("a hole", () -> holes() == 1);
    d.clickAt(view, side[0], side[1]);
    d.await("two holes", () -> holes() == 2);
    d.clickAt(view, side[0], side[1]);
    d.await("one less", () -> holes() == 1);
    d.clickAt(view, side[0], side[1]);
    d.await("two again", () -> holes() == 2);
    d.settle();
    apply();
    HollowOut drained = (HollowOut) step(1);
    assertThat(drained.at()).hasSize(6);
    assertThat(drained.drain().metres()).isEqualTo(0.003);
    SolidProof holed = SolidProof.of(mesh(), Work.unwatched());
    assertThat(holed.holds()).as(holed.toString()).isTrue();
    assertThat(holed.islands()).isEqualTo(1);
    assertThat(d.message()).contains("2 drain holes");
  }

  @Test
  void aPatchWantsASelectionAndTakesItsPlace() {
    stage(KeyCode.DIGIT3);
    d.click("tool-patch");
    d.settle();
    assertThat(d.on(() -> d.node("apply").isDisabled())).isTrue();
    stage(KeyCode.DIGIT2);
    d.click("tool-lasso");
    lasso();
    stage(KeyCode.DIGIT3);
    d.click("tool-patch");
    d.settle();
    int before = mesh().triangleCount();
    apply();
    assertThat(step(0)).isInstanceOf(PatchRegion.class);
    assertThat(mesh().triangleCount()).isNotEqualTo(before);
    assertThat(d.message()).contains("made anew");
  }

  @Test
  void theSurfaceIsPulledByDragging() {
    open(dome());
    stage(KeyCode.DIGIT3);
    d.click("tool-pull");
    d.settle();
    d.choose("pull-along", 4);
    double top = mesh().bounds().maxZ();
    Node view = d.desk().view();
    d.drag(view, MouseButton.PRIMARY, 376, 300, 376, 250, 376, 200);
    d.settle();
    apply();
    assertThat(step(0)).isInstanceOf(PullSurface.class);
    assertThat(mesh().bounds().maxZ()).isGreaterThan(top + 1e-4);
  }

  /** A belly goes on down from where it is selected, but no deeper than a cone of 45 degrees. */
  @Test
  void anOverhangIsEasedWhereItIsSelected() {
    open(dome(-1));
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.V);
    d.click("tool-lasso");
    lasso();
    stage(KeyCode.DIGIT3);
    d.click("tool-pull");
    d.settle();
    d.choose("pull-kind", 1);
    d.settle();
    double lowest = mesh().bounds().minZ();
    apply();
    assertThat(step(0)).isInstanceOf(EaseOverhang.class);
    assertThat(mesh().bounds().minZ()).isBetween(1.5 * lowest, lowest - 0.01);
    assertThat(d.message()).contains("degrees from upright");
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.await("undone", () -> d.desk().session().history().size() == 0);
    assertThat(mesh().bounds().minZ()).isEqualTo(lowest);
  }
}
