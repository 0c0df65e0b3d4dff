package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.frame.Frame;
import holotome.core.io.MeshWriter;
import holotome.core.mesh.Joined;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.trim.KeepIslands;
import holotome.core.unit.Length;
import java.nio.file.Path;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** What the window finds to say while trimming: measured, shown, and mended with one click. */
class TrimFindingsTest extends WindowCase {

  /** A closed ball of rings about the z axis. */
  private static Mesh ball(double radius, double x, int rings, boolean turned) {
    int around = 2 * rings;
    float[] xyz = new float[3 * (rings + 1) * around];
    for (int i = 0; i <= rings; i++) {
      double polar = Math.PI * (i + (i == 0 ? 0.02 : i == rings ? -0.02 : 0)) / rings;
      for (int j = 0; j < around; j++) {
        double a = 2 * Math.PI * j / around;
        int v = 3 * (i * around + j);
        xyz[v] = (float) (x + radius * Math.sin(polar) * Math.cos(a));
        xyz[v + 1] = (float) (radius * Math.sin(polar) * Math.sin(a));
        xyz[v + 2] = (float) (radius * Math.cos(polar));
      }
    }
    int[] tri = new int[6 * rings * around];
    int at = 0;
    for (int i = 0; i < rings; i++) {
      for (int j = 0; j < around; j++) {
        int k = (j + 1) % around;
        int[] t = {
          i * around + j, (i + 1) * around + j, (i + 1) * around + k,
          i * around + j, (i + 1) * around + k, i * around + k
        };
        for (int c = 0; c < 6; c += 3) {
          tri[at++] = t[c];
          tri[at++] = t[c + (turned ? 2 : 1)];
          tri[at++] = t[c + (turned ? 1 : 2)];
        }
      }
    }
    return new Mesh(xyz, tri);
  }

  private static Mesh ribbon(int cells) {
    float[] xyz = new float[6 * (cells + 1)];
    int[] tri = new int[6 * cells];
    for (int i = 0; i <= cells; i++) {
      xyz[6 * i] = 0.03f * i - 1;
      xyz[6 * i + 2] = 1.4f;
      xyz[6 * i + 3] = 0.03f * i - 1;
      xyz[6 * i + 4] = 0.03f;
      xyz[6 * i + 5] = 1.4f;
    }
    for (int i = 0; i < cells; i++) {
      int[] t = {2 * i, 2 * i + 2, 2 * i + 1, 2 * i + 1, 2 * i + 2, 2 * i + 3};
      System.arraycopy(t, 0, tri, 6 * i, 6);
    }
    return new Mesh(xyz, tri);
  }

  private void openMesh(Mesh m) {
    Path file = dir.resolve("made.ply");
    MeshWriter.write(file, m, Frame.PLAIN.toFile(), Work.unwatched());
    open(file);
    stage(KeyCode.DIGIT2);
  }

  @Test
  void anInsideOutScanIsTurnedOverWithOneClick() {
    openMesh(ball(1, 0, 40, true));
    assertThat(d.text("findings")).contains("Inside out");
    assertThat(Measures.volume(mesh())).isNegative();
    d.clickWords("findings", "Turn it over");
    d.await("an entry", () -> d.desk().session().history().size() == 1);
    d.settle();
    assertThat(d.text("findings")).doesNotContain("Inside out");
    assertThat(Measures.volume(mesh())).isPositive();
  }

  @Test
  void stripsAndPiecesAreFoundAfterAStepShownAndMended() {
    Mesh two = Joined.of(ball(1, 0, 40, false), ball(0.7, 2.2, 30, false));
    openMesh(Joined.of(two, ribbon(60)));
    // Before any step a scan of several things is nobody's mistake.
    assertThat(d.text("findings")).doesNotContain("strip").doesNotContain("pieces are");
    d.on(
        () -> {
          d.desk().session().apply(new KeepIslands(KeepIslands.Keep.LARGER, 2, new Length(0)));
          return null;
        });
    d.await("an entry", () -> d.desk().session().history().size() == 1);
    d.settle();
    assertThat(d.text("findings"))
        .contains("The subject is in 2 pieces")
        .contains("A strip was left");
    d.clickWords("findings", "Remove the strip");
    d.await("another entry", () -> d.desk().session().history().size() == 2);
    d.settle();
    assertThat(Islands.of(mesh()).count()).isEqualTo(2);
    assertThat(d.text("findings")).doesNotContain("strip was left");
    // The piece is shown by selecting it and coming to it.
    double before = d.on(() -> d.desk().view().camera().distance());
    d.clickWords("findings", "Show");
    d.await("a selection", () -> d.desk().session().selection() != null);
    d.settle();
    assertThat(selected()).isEqualTo(Islands.of(mesh()).sizes()[1]);
    assertThat(d.on(() -> d.desk().view().camera().distance())).isLessThan(before);
    d.clickWords("findings", "Undo the last step");
    d.await("one entry", () -> d.desk().session().selection() == null);
  }
}
