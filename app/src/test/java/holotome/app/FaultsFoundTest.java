package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshWriter;
import holotome.core.mend.CutCrossings;
import holotome.core.mend.Fault;
import holotome.core.mend.FillHoles;
import holotome.core.mend.MakeSolid;
import holotome.core.mend.TakeSpikes;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.spatial.SolidProof;
import holotome.core.task.Work;
import java.nio.file.Path;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** What is wrong is found, shown place by place and mended, by pointer and keys. */
class FaultsFoundTest extends WindowCase {
  @Override
  int triangles() {
    return 30_000;
  }

  /** The scan with some points pulled far out. */
  private void openSpiked() throws Exception {
    Mesh m = mesh();
    float[] xyz = m.xyz().clone();
    for (int v = 2000; v < 12_000; v += 1000) {
      xyz[3 * v + 2] += 0.2f * (float) m.bounds().height();
    }
    Path file = dir.resolve("spiked.ply");
    MeshWriter.write(file, m.withPositions(xyz), Similarity.IDENTITY, Work.unwatched());
    open(file);
  }

  private long count(Fault.Kind kind) {
    return d.on(
        () -> {
          Fault f = d.desk().session().survey().of(kind);
          return f == null ? 0 : f.count();
        });
  }

  /** A link of the findings by what a screen reader says of it. */
  private Node link(String begins, String ends) {
    return d.scene().getRoot().lookupAll("#findings .link").stream()
        .filter(n -> n.getAccessibleText().contains(begins) && n.getAccessibleText().endsWith(ends))
        .findFirst()
        .orElseThrow();
  }

  private void awaitSurvey() {
    d.await("what is wrong", () -> d.desk().session().survey() != null);
    d.settle();
  }

  @Test
  void spikesAreFoundShownAndLaidDown() throws Exception {
    openSpiked();
    stage(KeyCode.DIGIT3);
    awaitSurvey();
    assertThat(count(Fault.Kind.SPIKES)).isBetween(8L, 40L);
    double far = d.on(() -> d.desk().view().camera().distance());
    Node next = d.on(() -> link("the next place, ", "spikes"));
    Bounds b = d.on(next::getLayoutBounds);
    d.clickAt(next, b.getCenterX(), b.getCenterY());
    d.await("the place", () -> d.desk().session().message().startsWith("Place "));
    d.clickWords("findings", "Spikes");
    d.settle();
    assertThat(d.text("apply")).contains("Spikes");
    assertThat(d.on(() -> d.desk().view().camera().distance())).isLessThan(far);
    apply();
    assertThat(step(0)).isInstanceOf(TakeSpikes.class);
    awaitSurvey();
    assertThat(count(Fault.Kind.SPIKES)).isLessThan(3);
  }

  @Test
  void oneFaultIsChosenAmongTheOthers() throws Exception {
    openSpiked();
    stage(KeyCode.DIGIT3);
    awaitSurvey();
    long before = SelfIntersections.count(mesh(), Work.unwatched());
    d.click("tool-tidy");
    d.choose("tidy-kind", 4);
    d.settle();
    apply();
    assertThat(step(0)).isInstanceOf(CutCrossings.class);
    assertThat(SelfIntersections.count(mesh(), Work.unwatched())).isLessThanOrEqualTo(before);
  }

  @Test
  void aSolidIsMadeAndProved() throws Exception {
    openSpiked();
    stage(KeyCode.DIGIT3);
    d.click("tool-solid");
    d.choose("field-how", 2);
    apply();
    assertThat(step(0)).isInstanceOf(MakeSolid.class);
    assertThat(SolidProof.of(mesh(), Work.unwatched()).holds()).isTrue();
    assertThat(d.message()).contains("proved");
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.await("undone", () -> d.desk().session().history().size() == 0);
  }

  @Test
  void onlyTickedHolesAreFilled() {
    stage(KeyCode.DIGIT3);
    d.click("tool-fill-holes");
    d.settle();
    int holes = d.on(() -> d.desk().session().insight().inspection().boundaryLoops());
    assertThat(holes).isGreaterThan(2);
    d.click("hole-2");
    d.await("the figures", () -> d.textNow("apply").startsWith("Fill 1 hole"));
    apply();
    assertThat(((FillHoles) step(0)).at()).hasSize(3);
    d.settle();
    assertThat(d.on(() -> d.desk().session().insight().inspection().boundaryLoops()))
        .isEqualTo(holes - 1);
  }
}
