package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshWriter;
import holotome.core.log.Entry;
import holotome.core.mend.TakeNoise;
import holotome.core.mend.WeldPoints;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.nio.file.Path;
import java.util.Random;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** Welding on its curve and taking noise off, by pointer and keys. */
class MendWindowTest extends WindowCase {
  @Override
  int triangles() {
    return 30_000;
  }

  /** The scan with each triangle's corners apart, a little off. */
  private void openTorn(double by) throws Exception {
    Mesh m = mesh();
    int n = m.triangles().length;
    float[] xyz = new float[3 * n];
    int[] tri = new int[n];
    Random random = new Random(3);
    for (int h = 0; h < n; h++) {
      tri[h] = h;
      for (int k = 0; k < 3; k++) {
        xyz[3 * h + k] = (float) (m.xyz()[3 * m.triangles()[h] + k] + by * random.nextGaussian());
      }
    }
    Path file = dir.resolve("torn.ply");
    MeshWriter.write(file, new Mesh(xyz, tri), Similarity.IDENTITY, Work.unwatched());
    open(file);
  }

  @Test
  void aTornScanIsWeldedInItsNaturalGap() throws Exception {
    int points = mesh().vertexCount();
    openTorn(0.05);
    assertThat(mesh().vertexCount()).isGreaterThan(2 * points);
    stage(KeyCode.DIGIT3);
    d.click("tool-weld");
    d.await("the curve", () -> d.textNow("weld-said").contains("points are left"));
    d.settle();
    apply();
    assertThat(step(0)).isInstanceOf(WeldPoints.class);
    assertThat(mesh().vertexCount()).isBetween((int) (0.98 * points), points);
  }

  @Test
  void aClickOnTheCurveSetsTheDistance() throws Exception {
    openTorn(0.05);
    stage(KeyCode.DIGIT3);
    d.click("tool-weld");
    d.await("the curve", () -> d.textNow("weld-said").contains("points are left"));
    d.settle();
    d.clickAt(d.node("weld-curve"), 40, 40);
    d.await("a distance", () -> !((TextField) d.node("field-distance")).getText().isEmpty());
    String little = d.text("weld-said");
    d.clickAt(d.node("weld-curve"), 250, 40);
    d.await("another", () -> !d.textNow("weld-said").equals(little));
    d.settle();
    assertThat(d.text("apply")).contains("Weld");
  }

  @Test
  void noiseIsTakenOffWhatIsSelectedAndNothingElse() {
    lassoInTrim();
    int chosen = selected();
    Mesh before = mesh();
    stage(KeyCode.DIGIT3);
    d.click("tool-noise");
    d.settle();
    assertThat(d.text("noise-where")).contains(String.format("%,d", chosen));
    apply();
    Entry e = d.on(() -> d.desk().session().history().lines().getLast().entry());
    assertThat(((TakeNoise) e.step()).picks()).isNotEmpty();
    Mesh after = mesh();
    int moved = 0;
    for (int v = 0; v < before.vertexCount(); v++) {
      moved += before.xyz()[3 * v] != after.xyz()[3 * v] ? 1 : 0;
    }
    assertThat(moved).isPositive().isLessThan(chosen);
    assertThat(d.message()).startsWith("Moved by");
  }

  private void lassoInTrim() {
    stage(KeyCode.DIGIT2);
    d.click("tool-lasso");
    lasso();
  }
}
