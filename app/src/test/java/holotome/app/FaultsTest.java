package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.model.Home;
import holotome.app.model.Selected;
import holotome.app.window.WindowProbe;
import holotome.core.log.LogFile;
import holotome.core.part.Workpiece;
import holotome.core.select.Fence;
import holotome.core.select.Pick;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.BitSet;
import java.util.List;
import javafx.event.Event;
import javafx.scene.Node;
import javafx.scene.input.DragEvent;
import javafx.scene.input.Dragboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.input.TransferMode;
import org.junit.jupiter.api.Test;
import org.mockito.Mockito;

/** Faults that were found by use, each as the events that brought it about. */
class FaultsTest extends WindowCase {

  @Override
  int triangles() {
    return 60_000;
  }

  private boolean isBusy() {
    return d.desk().session().jobs().isBusy();
  }

  /** A name typed and confirmed belongs to the field: nothing is removed, nothing undone. */
  @Test
  void enterEscAndUndoBelongToTheFieldThatHasTheFocus() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    int triangles = mesh().triangleCount();
    d.keys(KeyCode.DIGIT1);
    d.settle();
    lasso();
    int selected = selected();
    d.click("selection-name");
    d.type("the foot");
    d.keys(KeyCode.ENTER);
    d.settle();
    assertThat(d.on(() -> d.desk().session().selecting().names())).containsExactly("the foot");
    assertThat(mesh().triangleCount()).isEqualTo(triangles);
    assertThat(entries()).isEqualTo(1);
    assertThat(selected()).isEqualTo(selected);
    // Undo in a field takes letters back, not entries; Esc leaves the field and keeps the
    // selection.
    d.click("selection-name");
    d.type("x");
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    assertThat(entries()).isEqualTo(1);
    d.keys(KeyCode.ESCAPE);
    assertThat(selected()).isEqualTo(selected);
    assertThat(d.on(() -> d.desk().getScene().getFocusOwner() == d.desk().view())).isTrue();
    // Once the field is left the keys are the window's again.
    d.keys(KeyCode.ESCAPE);
    d.await("no selection", () -> d.desk().session().selection() == null);
  }

  /** What was seen of one state is not selected on another. */
  @Test
  void aVisibleSelectionThatComesLateIsDropped() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    d.keys(KeyCode.DIGIT1);
    d.settle();
    Workpiece asked = d.on(() -> d.desk().session().current());
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(d.on(() -> d.desk().session().current())).isNotSameAs(asked);
    d.on(
        () -> {
          BitSet set = new BitSet();
          set.set(0, 50);
          Fence all = new Fence(d.desk().view().toPixels(), new double[] {0, 0, 900, 0, 900, 900});
          d.desk().session().selecting().pickSeen(asked, null, Pick.Join.REPLACE, set, all);
          return null;
        });
    d.settle();
    assertThat(selected()).isZero();
    // By events: drawn, and undone before the answer can have come.
    d.keys(KeyCode.CONTROL, KeyCode.Y);
    d.settle();
    assertThat(d.on(() -> d.desk().session().current().scan())).isSameAs(asked.scan());
    d.drag(view, MouseButton.PRIMARY, 300, 250, 440, 250, 440, 440, 300, 440, 300, 250);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.await("rest", () -> !isBusy());
    d.settle();
    BitSet s = d.on(() -> d.desk().session().selection());
    int most = d.on(() -> d.desk().session().current().scan().triangleCount());
    assertThat(s == null || s.length() <= most).isTrue();
  }

  /** Two selections asked for in one breath both take effect. */
  @Test
  void selectingTwiceInQuickSuccessionLosesNothing() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    int n = mesh().triangleCount();
    d.on(
        () -> {
          var selecting = d.desk().session().selecting();
          BitSet first = new BitSet();
          first.set(0, 100);
          BitSet second = new BitSet();
          second.set(500, 700);
          Selected before = d.desk().session().selected();
          selecting.pickOn(before, Pick.of(Pick.Join.ADD, first, n));
          selecting.pickOn(before, Pick.of(Pick.Join.ADD, second, n));
          return null;
        });
    d.await("both", () -> !isBusy() && d.desk().session().selection() != null);
    d.settle();
    assertThat(selected()).isEqualTo(300);
    assertThat(d.on(() -> d.desk().session().failure())).isNull();
  }

  /** After an entry nothing is pending; the main button leads to what the findings hold next. */
  @Test
  void afterAnEntryTheSheetSaysWhatWasDoneAndLeadsOn() {
    stage(KeyCode.DIGIT3);
    d.await("figures", () -> WindowProbe.isTapePending(d.desk()));
    apply();
    assertThat(d.on(() -> WindowProbe.isTapePending(d.desk()))).isFalse();
    assertThat(d.text("advice")).startsWith("Done: Tidy");
    d.await("what comes next", () -> !d.node("apply").isDisabled());
    assertThat(d.text("apply")).startsWith("Next: Fill the holes");
    d.keys(KeyCode.ENTER);
    d.settle();
    assertThat(entries()).isEqualTo(1);
    assertThat(d.on(() -> d.node("field-how") != null)).isTrue();
    d.await("figures", () -> WindowProbe.isTapePending(d.desk()));
    // Changing something in a Sheet that rests takes the tool up again.
    apply();
    assertThat(d.on(() -> WindowProbe.isTapePending(d.desk()))).isFalse();
    d.choose("field-how", 0);
    d.await("pending again", () -> WindowProbe.isTapePending(d.desk()));
  }

  /** What cannot be done yet says why, in the window's words, and leads there. */
  @Test
  void whatCannotBeDoneYetSaysWhyAndLeadsThere() {
    stage(KeyCode.DIGIT6);
    assertThat(d.on(() -> d.node("apply").isDisabled())).isTrue();
    assertThat(d.text("problem")).isEqualTo("There is no Cast to unwrap yet");
    stage(KeyCode.DIGIT7);
    assertThat(d.on(() -> d.node("apply").isDisabled())).isTrue();
    assertThat(d.text("problem")).isEqualTo("There is no Cast to bake onto yet");
    d.click("way");
    d.settle();
    assertThat(d.on(() -> d.desk().session().stage().title())).isEqualTo("Reduce");
    assertThat(d.on(() -> d.node("apply").isDisabled())).isFalse();
  }

  @Test
  void enterWhileSomethingRunsIsAnswered() {
    stage(KeyCode.DIGIT5);
    d.fill("field-triangles", "2000");
    d.on(
        () -> {
          d.desk().view().requestFocus();
          return null;
        });
    d.keys(KeyCode.ENTER);
    d.await("running work", this::isBusy);
    d.keys(KeyCode.ENTER);
    assertThat(d.message()).contains("still running").contains("press Enter again");
    // Cancelled by key.
    d.keys(KeyCode.CONTROL, KeyCode.PERIOD);
    d.await("rest", () -> !isBusy());
    assertThat(d.message()).contains("Cancelled");
    assertThat(entries()).isZero();
  }

  @Test
  void theNumberPadChoosesToolsAsWell() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.NUMPAD6);
    d.settle();
    assertThat(d.on(() -> d.node("field-margin") != null)).isTrue();
  }

  /** Saved without its ending a project gets it; one that lost it is known by what is in it. */
  @Test
  void aProjectOpensWhateverItIsCalled() throws Exception {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    Path bare = dir.resolve("harbour");
    d.on(
        () -> {
          d.desk().session().save(bare);
          return null;
        });
    Path file = dir.resolve("harbour.holotome");
    assertThat(file).exists();
    Path renamed = Files.copy(file, dir.resolve("harbour.txt"));
    open(renamed);
    assertThat(entries()).isEqualTo(1);
    assertThat(d.on(() -> d.desk().session().keeping().project())).isEqualTo(renamed);
  }

  /** Several files dropped are one Scan, and stay so in the project. */
  @Test
  void severalFilesDroppedAreOpenedAsOneScan() throws Exception {
    Path other = Scans.bollard(30_000);
    int first = mesh().triangleCount();
    Dragboard board = Mockito.mock(Dragboard.class);
    Mockito.when(board.hasFiles()).thenReturn(true);
    Mockito.when(board.getFiles()).thenReturn(List.of(scan.toFile(), other.toFile()));
    d.on(
        () -> {
          Event.fireEvent(
              view,
              new DragEvent(
                  DragEvent.DRAG_DROPPED,
                  board,
                  300,
                  300,
                  300,
                  300,
                  TransferMode.COPY,
                  null,
                  view,
                  null));
          return null;
        });
    d.await("both", () -> !isBusy() && d.desk().session().current().scan().triangleCount() > first);
    d.settle();
    int both = mesh().triangleCount();
    assertThat(both).isGreaterThan(first + 20_000);
    Path project = dir.resolve("two.holotome");
    d.on(
        () -> {
          d.desk().session().save(project);
          return null;
        });
    assertThat(LogFile.read(project).sources()).hasSize(2);
    open(project);
    assertThat(mesh().triangleCount()).isEqualTo(both);
  }

  @Test
  void leavingUnsavedWorkIsAskedFor() {
    boolean[] left = {false};
    Runnable leave =
        () ->
            d.on(
                () -> {
                  d.desk().leave(() -> left[0] = true);
                  return null;
                });
    leave.run();
    assertThat(left[0]).as("nothing at stake").isTrue();
    left[0] = false;
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    leave.run();
    assertThat(left[0]).isFalse();
    assertThat(d.on(() -> d.node("question").isVisible())).isTrue();
    assertThat(d.text("question-text")).startsWith("1 entry is not saved");
    d.click("question-stay");
    assertThat(left[0]).isFalse();
    assertThat(d.on(() -> d.node("question").isVisible())).isFalse();
    leave.run();
    d.click("question-go");
    assertThat(left[0]).isTrue();
  }

  @Test
  void unsavedWorkSaysOfWhatItIsAndHowFarItWent() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    Home home = d.on(() -> d.desk().session().home());
    Path kept = home.unsaved().getFirst();
    assertThat(home.about(kept)).startsWith(scan.getFileName() + ", 1 entry, the last Islands, ");
  }

  @Test
  void theWorkIsClosedAndAnotherOpened() {
    stage(KeyCode.DIGIT2);
    d.on(
        () -> {
          d.desk().session().close();
          return null;
        });
    d.settle();
    assertThat(d.on(() -> d.desk().session().isOpen())).isFalse();
    assertThat(d.on(() -> d.node("welcome").isVisible())).isTrue();
    assertThat(d.text("fact-triangles")).isEqualTo("–");
    open(scan);
    assertThat(mesh().triangleCount()).isGreaterThan(50_000);
  }

  /** The crop box of a small scan without a unit stays where it is put. */
  @Test
  void theCropBoxKeepsItsPlaceOnASmallScan() throws Exception {
    Path small = dir.resolve("small.off");
    StringBuilder s = new StringBuilder("OFF\n4 4 0\n");
    s.append("0 0 0\n0.03 0 0\n0 0.03 0\n0 0 0.03\n3 0 2 1\n3 0 1 3\n3 1 2 3\n3 0 3 2\n");
    Files.writeString(small, s.toString());
    open(small);
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT9);
    d.settle();
    Node size = d.node("field-size");
    String text = d.on(() -> ((javafx.scene.control.TextField) size).getText());
    double[] typed =
        java.util.Arrays.stream(text.split(",")).mapToDouble(Double::parseDouble).toArray();
    for (double t : typed) {
      assertThat(t).isBetween(0.0239, 0.0241);
    }
  }

  /** Figures of a scan without a unit keep digits that count. */
  @Test
  void figuresOfASmallScanAreNotNought() throws Exception {
    Path small = dir.resolve("tiny.off");
    Files.writeString(
        small,
        "OFF\n4 4 0\n0 0 0\n0.2 0 0\n0 0.2 0\n0 0 0.00021\n3 0 2 1\n3 0 1 3\n3 1 2 3\n3 0 3 2\n");
    open(small);
    assertThat(d.text("fact-size")).contains("0.200").contains("0.000210 units");
  }
}
