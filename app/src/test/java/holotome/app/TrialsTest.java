package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.model.Trials;
import holotome.core.log.LogFile;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import java.util.concurrent.Callable;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** Ways of doing the work side by side, and work on another mesh than the Scan. */
class TrialsTest extends WindowCase {
  @Override
  int triangles() {
    return 30_000;
  }

  private Trials trials() {
    return d.desk().session().trials();
  }

  private String now() {
    return d.on(() -> trials().current());
  }

  private <T> void becomes(String what, Callable<T> is, T wanted) {
    d.await(
        what,
        () -> {
          try {
            return wanted.equals(is.call());
          } catch (Exception e) {
            return false;
          }
        });
    d.settle();
  }

  private int triangleCount() {
    return d.on(() -> d.desk().session().current().current().triangleCount());
  }

  private int[] pixels() {
    return d.on(
        () -> {
          var v = d.desk().view();
          int w = (int) v.getWidth();
          int[] out = new int[w * (int) v.getHeight()];
          for (int i = 0; i < out.length; i++) {
            out[i] = v.pixel(i % w, i / w);
          }
          return out;
        });
  }

  private void islands() {
    stage(KeyCode.DIGIT2);
    d.click("tool-islands");
    apply();
  }

  private void decimate(String to) {
    stage(KeyCode.DIGIT5);
    d.on(
        () -> {
          ((TextField) d.node("field-triangles")).setText(to);
          return null;
        });
    d.settle();
    apply();
  }

  @Test
  void twoWaysStandSideBySideAndUndoComesBack() {
    islands();
    d.keys(KeyCode.T);
    becomes("a second Trial", () -> trials().current(), "Trial 2");
    assertThat(entries()).isEqualTo(1);
    decimate("5000");
    assertThat(triangleCount()).isBetween(4900, 5100);
    d.keys(KeyCode.SHIFT, KeyCode.T);
    becomes("the first Trial", () -> trials().current(), "Trial 1");
    assertThat(entries()).isEqualTo(1);
    int whole = triangleCount();
    assertThat(whole).isGreaterThan(20_000);
    decimate("9000");
    assertThat(d.on(() -> trials().shared("Trial 2"))).isEqualTo(1);
    assertThat(d.text("findings")).contains("2 ways are open").contains("Trial 2 parts from it");
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    becomes("the entry undone", () -> d.desk().session().history().size(), 1);
    assertThat(now()).isEqualTo("Trial 1");
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    becomes("the other Trial again", () -> trials().current(), "Trial 2");
    assertThat(entries()).isEqualTo(2);
    d.keys(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
    becomes("and back", () -> trials().current(), "Trial 1");
  }

  @Test
  void theTapeForksAndAClickTakesTheOtherUp() {
    islands();
    decimate("5000");
    d.keys(KeyCode.T);
    becomes("a second Trial", () -> trials().current(), "Trial 2");
    var tape = d.node("tape");
    double height = d.on(() -> tape.getLayoutBounds().getHeight());
    // The row below the current line, to the right of where it parts.
    d.on(() -> d.desk().session().history().size());
    double x = d.on(() -> 62 + 3 * 168 + 30.0);
    d.clickAt(tape, x, height - 14 - 12);
    becomes("the first Trial", () -> trials().current(), "Trial 1");
  }

  @Test
  void theLineAcrossTheViewComparesTrials() throws Exception {
    islands();
    d.keys(KeyCode.T);
    becomes("a second Trial", () -> trials().current(), "Trial 2");
    decimate("3000");
    d.keys(KeyCode.K);
    d.settle();
    int[] both = pixels();
    d.keys(KeyCode.K);
    d.settle();
    assertThat(pixels()).isNotEqualTo(both);
    assertThat(d.on(() -> trials().compared().name())).isEqualTo("Trial 1");
  }

  /** What each comes to, side by side: measured while the page is up, and nothing of it cut. */
  @Test
  void thePageTellsDeviationAndMemory() {
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT1);
    d.keys(KeyCode.T);
    becomes("a second Trial", () -> trials().current(), "Trial 2");
    d.fill("field-triangles", "2000");
    d.settle();
    apply();
    d.find("all trials");
    d.await(
        "figures",
        () ->
            d.text("trial-deviation-2").matches(".*\\d.*")
                && d.text("trial-deviation-1").equals("–"));
    d.settle();
    Set<String> cut = new HashSet<>();
    d.on(
        () -> {
          CutTexts.collect("trials", d.node("trials-page"), cut);
          return null;
        });
    assertThat(cut).isEmpty();
    assertThat(d.text("trials-page")).contains("MB").contains("units");
  }

  @Test
  void thePageRenamesComparesAndDrops() {
    islands();
    d.keys(KeyCode.T);
    becomes("a second Trial", () -> trials().current(), "Trial 2");
    d.find("all trials");
    d.on(
        () -> {
          ((TextField) d.node("trial-name-2")).setText("light");
          ((TextField) d.node("trial-name-2")).getOnAction().handle(null);
          return null;
        });
    becomes("the other name", () -> trials().current(), "light");
    d.click("trial-take-1");
    becomes("the first Trial", () -> trials().current(), "Trial 1");
    d.click("trial-drop-2");
    becomes("one way", () -> trials().all().size(), 1);
    d.keys(KeyCode.ESCAPE);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    becomes("both again", () -> trials().all().size(), 2);
  }

  @Test
  void aProjectBringsTheTrialsBackAndRunsOneWhenItIsTaken() {
    islands();
    d.keys(KeyCode.T);
    becomes("a second Trial", () -> trials().current(), "Trial 2");
    decimate("5000");
    Path file = dir.resolve("two.holotome");
    d.on(
        () -> {
          d.desk().session().save(file);
          return null;
        });
    LogFile log = LogFile.read(file);
    assertThat(log.line()).isEqualTo("Trial 2");
    assertThat(log.line("Trial 1")).hasSize(1);
    d.keys(KeyCode.SHIFT, KeyCode.T);
    becomes("the first Trial", () -> trials().current(), "Trial 1");
    open(file);
    // Saved after the last entry: the first Trial was the current one then.
    assertThat(now()).isEqualTo("Trial 1");
    assertThat(d.on(() -> trials().others().getFirst().ahead())).hasSize(1);
    d.keys(KeyCode.SHIFT, KeyCode.T);
    becomes("the second Trial", () -> trials().current(), "Trial 2");
    assertThat(triangleCount()).isBetween(4900, 5100);
    assertThat(d.on(() -> trials().others().getFirst().ahead())).isEmpty();
  }

  @Test
  void theCastIsTrimmedAndTidiedAsTheScanIs() {
    islands();
    decimate("6000");
    Workpiece before = d.on(() -> d.desk().session().current());
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.Q);
    d.settle();
    Mesh cast = d.on(() -> d.desk().session().current().scan());
    assertThat(cast).isSameAs(before.cast());
    d.click("tool-lasso");
    lasso();
    assertThat(selected()).isBetween(10, 6000);
    apply();
    assertThat(d.on(() -> d.desk().session().history().lines().getLast().entry().part()))
        .isEqualTo(Part.CAST);
    stage(KeyCode.DIGIT3);
    d.click("tool-tidy");
    apply();
    assertThat(step(3)).isInstanceOf(Tidy.class);
    stage(KeyCode.DIGIT5);
    Workpiece after = d.on(() -> d.desk().session().current());
    assertThat(after.scan()).isSameAs(before.scan());
    assertThat(after.cast().triangleCount()).isLessThan(before.cast().triangleCount());
    // What is reopened is worked on where it was.
    d.on(
        () -> {
          d.desk().session().reopen(2);
          return null;
        });
    d.settle();
    assertThat(d.on(() -> d.desk().session().partAtHand().part())).isEqualTo(Part.CAST);
    d.keys(KeyCode.ESCAPE);
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.Q);
    d.settle();
    assertThat(d.on(() -> d.desk().session().current().scan())).isSameAs(before.scan());
    d.drag(view, MouseButton.SECONDARY, 400, 300, 430, 310);
  }
}
