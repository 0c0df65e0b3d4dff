package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.datum.Scale;
import holotome.core.geometry.Vec;
import holotome.core.log.LogFile;
import holotome.core.mesh.Mesh;
import holotome.core.step.Step;
import holotome.core.trim.KeepIslands;
import holotome.view.camera.Camera;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import javafx.event.Event;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.input.DragEvent;
import javafx.scene.input.Dragboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.input.TransferMode;
import javafx.scene.text.Text;
import org.junit.jupiter.api.Test;
import org.mockito.Mockito;

/** The parts of the window one by one, driven by real events. */
class WindowTest extends WindowCase {
  private static final List<KeyCode> TOOLS =
      List.of(
          KeyCode.DIGIT1,
          KeyCode.DIGIT2,
          KeyCode.DIGIT3,
          KeyCode.DIGIT4,
          KeyCode.DIGIT5,
          KeyCode.DIGIT6,
          KeyCode.DIGIT7,
          KeyCode.DIGIT8,
          KeyCode.DIGIT9,
          KeyCode.DIGIT0);

  // --- the Log -----------------------------------------------------------------------------------

  @Test
  void undoRedoLookingBackAndReopening() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    Mesh islandsOff = mesh();
    d.keys(KeyCode.DIGIT6);
    apply();
    Mesh groundOff = mesh();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(mesh()).isSameAs(islandsOff);
    d.keys(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
    d.settle();
    assertThat(mesh()).isSameAs(groundOff);

    // Space holds the state before the last entry up.
    d.on(
        () -> {
          view.requestFocus();
          return null;
        });
    d.hold(KeyCode.SPACE);
    d.await("the state before", () -> d.desk().view().mesh() == islandsOff);
    d.release(KeyCode.SPACE);
    d.await("the state now", () -> d.desk().view().mesh() == groundOff);

    // Dragging along the Tape looks back; nothing can be applied meanwhile; Esc ends it.
    Node tape = d.node("tape");
    d.drag(tape, MouseButton.PRIMARY, 500, 60, 300, 60);
    assertThat(d.on(() -> d.desk().session().lookBack())).isEqualTo(1);
    assertThat(d.text("selected-count")).isEqualTo("Looking back at step 1 of 2");
    assertThat(d.on(() -> d.node("apply").isDisabled())).isTrue();
    d.keys(KeyCode.ESCAPE);
    assertThat(d.on(() -> d.desk().session().lookBack())).isEqualTo(-1);

    // A click on an entry reopens it: other parameters, run again from there.
    d.clickAt(tape, 300, 60);
    d.settle();
    assertThat(d.text("sheet-heading")).isEqualTo("Entry 1: Islands");
    d.on(
        () -> {
          ((javafx.scene.control.ChoiceBox<?>) d.node("field-keep")).getSelectionModel().select(1);
          return null;
        });
    d.fill("field-triangles", "30");
    d.settle();
    d.click("apply");
    d.await("another first entry", () -> ((KeepIslands) stepNow(0)).triangles() == 30);
    d.settle();
    assertThat(entries()).isEqualTo(2);

    // Switched off and taken out.
    d.clickAt(tape, 300, 60);
    d.settle();
    d.click("entry-on-off");
    d.await("it is off", () -> !d.desk().session().history().entries().getFirst().on());
    d.settle();
    d.clickAt(tape, 300, 60);
    d.settle();
    d.click("entry-remove");
    d.await("it is out", () -> d.desk().session().history().size() == 1);
    d.settle();
  }

  private Step stepNow(int entry) {
    return d.desk().session().history().lines().get(entry).entry().step();
  }

  @Test
  void savedWorkComesBackAndUnsavedWorkIsOffered() throws Exception {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    int triangles = mesh().triangleCount();
    // As after a crash: the window goes without saving.
    d.close();
    d = Driver.open(dir);
    view = d.desk().view();
    d.click("recover");
    d.await("the work", () -> d.desk().session().isOpen() && !d.desk().session().jobs().isBusy());
    d.settle();
    assertThat(entries()).isEqualTo(1);
    assertThat(mesh().triangleCount()).isEqualTo(triangles);
    assertThat(d.on(() -> d.desk().session().keeping().isUnsaved())).isTrue();

    Path project = dir.resolve("work.holotome");
    d.on(
        () -> {
          d.desk().session().save(project);
          return null;
        });
    assertThat(project).exists();
    assertThat(d.on(() -> d.desk().session().home().unsaved())).isEmpty();
    d.keys(KeyCode.ALT, KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT6);
    apply();
    assertThat(LogFile.read(project).text()).contains("trim.ground");
    d.close();
    d = Driver.open(dir);
    view = d.desk().view();
    d.click("recent-0");
    d.await(
        "the project", () -> d.desk().session().isOpen() && !d.desk().session().jobs().isBusy());
    d.settle();
    assertThat(entries()).isEqualTo(2);
  }

  @Test
  void openingAnotherScanKeepsTheUnsavedWorkOfTheFirst() throws Exception {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    open(Scans.bollard(60_000));
    d.keys(KeyCode.ALT, KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    List<Path> kept = d.on(() -> d.desk().session().home().unsaved());
    assertThat(kept).hasSize(2);
    assertThat(LogFile.read(kept.get(1)).text()).contains("quay-" + TRIANGLES);
  }

  @Test
  void cancelLeavesTheStateAsItWas() {
    stage(KeyCode.DIGIT5);
    Mesh before = mesh();
    d.fill("field-triangles", "1000");
    d.keys(KeyCode.ENTER);
    d.await("running work", () -> d.desk().session().jobs().isBusy());
    d.on(
        () -> {
          d.desk().session().jobs().cancel();
          return null;
        });
    d.await("rest", () -> !d.desk().session().jobs().isBusy());
    assertThat(entries()).isZero();
    assertThat(mesh()).isSameAs(before);
    assertThat(d.message()).contains("Cancelled; nothing was changed");
    apply();
    assertThat(entries()).isEqualTo(1);
  }

  @Test
  void troubleIsSaidInlineAndTheWorkGoesOn() throws Exception {
    Path bad = Files.writeString(dir.resolve("bad.ply"), "ply\nformat ascii 1.0\nelement vert");
    open(bad);
    assertThat(d.message()).startsWith(bad.toString()).doesNotContain("\n");
    assertThat(d.on(() -> d.desk().session().failure())).isNotNull();
    assertThat(mesh().triangleCount()).isGreaterThan(90_000);
    d.click("message");
    assertThat(d.message()).isEmpty();
    stage(KeyCode.DIGIT5);
    d.fill("field-triangles", "many");
    assertThat(d.text("problem")).contains("\"many\" is not a number");
    assertThat(d.on(() -> d.node("apply").isDisabled())).isTrue();
  }

  @Test
  void aFileDroppedOnTheViewIsOpened() throws Exception {
    Path other = Scans.bollard(60_000);
    Dragboard board = Mockito.mock(Dragboard.class);
    Mockito.when(board.hasFiles()).thenReturn(true);
    Mockito.when(board.getFiles()).thenReturn(List.of(other.toFile()));
    for (var type : List.of(DragEvent.DRAG_OVER, DragEvent.DRAG_DROPPED)) {
      d.on(
          () -> {
            // The platform's own drag and drop needs a second program; its events do not.
            DragEvent e =
                new DragEvent(type, board, 300, 300, 300, 300, TransferMode.COPY, null, view, null);
            Event.fireEvent(view, e);
            return null;
          });
    }
    d.await(
        "the other scan",
        () ->
            d.desk().session().source() != null
                && d.desk().session().source().endsWith(other.getFileName()));
    d.settle();
    assertThat(mesh().triangleCount()).isLessThan(70_000);
  }

  @Test
  void everyFindingsActionLeadsToItsTool() {
    record Way(KeyCode stage, String words, String heading, String field) {}
    List<Way> ways =
        List.of(
            new Way(KeyCode.DIGIT1, "Set the unit", "Intake", "field-unit"),
            new Way(KeyCode.DIGIT2, "Cut it away", "Trim", "field-margin"),
            new Way(KeyCode.DIGIT2, "Remove loose pieces", "Trim", "field-keep"),
            new Way(KeyCode.DIGIT3, "Fill the holes", "Mend", "field-how"),
            new Way(KeyCode.DIGIT4, "Set the scale", "Datum", "field-is"),
            new Way(KeyCode.DIGIT4, "Level it", "Datum", "field-by"),
            new Way(KeyCode.DIGIT4, "Move the origin", "Datum", "field-at"),
            new Way(KeyCode.DIGIT5, "Make a Cast", "Reduce", "field-triangles"),
            new Way(KeyCode.DIGIT6, "Make a Cast", "Reduce", "field-triangles"),
            new Way(KeyCode.DIGIT8, "Write it", "Ship", "field-name"));
    for (Way w : ways) {
      stage(w.stage());
      d.clickWords("findings", w.words());
      d.await(w.words(), () -> d.node(w.field()) != null);
      assertThat(d.text("findings")).as(w.words()).contains("Findings in " + w.heading());
    }
    // Showing the loose pieces selects them; showing the ground selects it.
    stage(KeyCode.DIGIT2);
    d.clickWords("findings", "Show");
    d.await("the ground selected", () -> d.desk().session().selection() != null);
    assertThat(selected()).isGreaterThan(20_000);
  }

  /** A list made anew takes the button that had the focus with it. */
  @Test
  void keysWorkWhereWhatHadTheFocusIsGone() {
    for (int i = 0; i < 4; i++) {
      stage(KeyCode.DIGIT2);
      d.on(
          () -> {
            Node link = d.node("findings").lookup(".link");
            link.requestFocus();
            assertThat(link.isFocused()).isTrue();
            ((javafx.scene.layout.Pane) link.getParent()).getChildren().remove(link);
            return null;
          });
      stage(KeyCode.DIGIT4);
    }
  }

  // --- figures typed in ------------------------------------------------------------------------

  @Test
  void lengthsAreReadInAnyUnitWithCommaOrPoint() throws Exception {
    stage(KeyCode.DIGIT4);
    for (int end = 0; end < 2; end++) {
      double[] px = d.pixel(Scans.barEnd(scan, end));
      d.clickAt(view, px[0], px[1]);
      String next = end == 0 ? "the other end" : "true length";
      d.await("a picked end", () -> d.textNow("problem").contains(next));
    }
    String[] typed = {"500 mm", "0,5 m", "0.5m", "50 cm", "19.685 in", "1,6404 ft", "500"};
    for (String t : typed) {
      d.fill("field-is", t);
      Supplier<Step> made = () -> d.desk().sheetStep();
      Scale s = (Scale) d.on(made::get);
      assertThat(s.lengths().getFirst().is().metres()).as(t).isCloseTo(0.5, within(1e-4));
    }
    for (String t : new String[] {"", "long", "5 parsec"}) {
      d.fill("field-is", t);
      assertThat(d.on(() -> d.node("apply").isDisabled())).as(t).isTrue();
    }
    // What would make the quay as large as a country is refused.
    d.fill("field-is", "500 km");
    assertThat(d.text("problem")).contains("km across");
    d.fill("field-is", "500 mm");
    d.settle();
    apply();
    assertThat(d.text("fact-size")).contains("m");
    assertThat(d.text("stage-datum")).contains("mm");
  }

  @Test
  void theScaleIsSetByKeysAloneAndTheSizeReadInAnyUnit() throws Exception {
    stage(KeyCode.DIGIT4);
    double[] a = Scans.barEnd(scan, 0);
    double[] b = Scans.barEnd(scan, 1);
    for (int i = 0; i < 60 && !"field-from".equals(focus()); i++) {
      d.keys(KeyCode.TAB);
    }
    d.type(String.format("%.1f, %.1f, %.1f", a[0], a[1], a[2]));
    d.keys(KeyCode.TAB);
    d.type(String.format("%.1f %.1f", b[0], b[1]));
    assertThat(d.text("problem")).contains("Pick the other end");
    d.type(String.format(" %.1f", b[2]));
    d.keys(KeyCode.TAB);
    d.type("19.685 in");
    d.keys(KeyCode.ENTER);
    d.settle();
    apply();
    double factor = ((Scale) step(0)).factorFor(holotome.core.geometry.Box.EMPTY);
    // The bar's ends were taken a hair inside, 0.3 % in all.
    assertThat(factor * 3137.4).isCloseTo(1, within(0.004));
    assertThat(d.text("fact-size")).contains(" mm × ");
    List<String> seen = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      d.click("fact-size");
      seen.add(d.text("fact-size").replaceAll(".* ", ""));
    }
    assertThat(seen).startsWith("mm", "cm", "m", "in", "ft");
  }

  private String focus() {
    return d.on(
        () -> {
          Node n = d.scene().getFocusOwner();
          return n == null ? "" : String.valueOf(n.getId());
        });
  }

  @Test
  void fieldsShowOnlyWhereTheyApply() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    d.settle();
    assertThat(d.on(() -> d.node("field-across").getParent().isVisible())).isFalse();
    d.on(
        () -> {
          ((javafx.scene.control.ChoiceBox<?>) d.node("field-keep")).getSelectionModel().select(1);
          return null;
        });
    assertThat(d.on(() -> d.node("field-across").getParent().isVisible())).isTrue();
    stage(KeyCode.DIGIT5);
    d.fill("field-percent", "10");
    assertThat(d.on(() -> ((TextField) d.node("field-triangles")).getText())).isEmpty();
    assertThat(d.on(() -> d.desk().sheetStep())).isNotNull();
    // A click in the view fills in the point that goes with the choice.
    stage(KeyCode.DIGIT4);
    d.keys(KeyCode.DIGIT3);
    d.settle();
    d.clickAt(view, 370, 300);
    d.await("a point", () -> ((TextField) d.node("field-point")).getText().split(",").length == 3);
    assertThat(d.on(() -> d.node("field-point").getParent().isVisible())).isTrue();
  }

  // --- the view --------------------------------------------------------------------------------

  @Test
  void theRightButtonTurnsAboutWhatIsUnderThePointer() {
    Camera before = d.on(() -> d.desk().view().camera());
    d.drag(view, MouseButton.SECONDARY, 370, 300, 470, 340);
    d.settle();
    Camera after = d.on(() -> d.desk().view().camera());
    assertThat(after.yaw()).isNotEqualTo(before.yaw());
    assertThat(after.pitch()).isNotEqualTo(before.pitch());
    d.drag(view, MouseButton.MIDDLE, 300, 300, 340, 300);
    d.settle();
    Camera shifted = d.on(() -> d.desk().view().camera());
    assertThat(shifted.yaw()).isEqualTo(after.yaw());
    assertThat(Vec.distance(shifted.target(), after.target())).isGreaterThan(1);
    d.keys(KeyCode.O);
    assertThat(d.on(() -> d.desk().view().camera().perspective())).isFalse();
    d.hold(KeyCode.SHIFT);
    d.keys(KeyCode.RIGHT);
    d.release(KeyCode.SHIFT);
    double yaw = d.on(() -> d.desk().view().camera().yaw());
    assertThat(Math.IEEEremainder(yaw, Math.PI / 2)).isCloseTo(0, within(1e-9));
    d.keys(KeyCode.HOME);
    d.settle();
    String look = d.text("look");
    d.keys(KeyCode.L);
    assertThat(d.text("look")).isNotEqualTo(look);
  }

  @Test
  void whatIsFoundByNameIsDone() {
    d.keys(KeyCode.CONTROL, KeyCode.SPACE);
    d.type("go to datum");
    d.keys(KeyCode.ENTER);
    assertThat(d.text("findings")).contains("Datum");
    d.keys(KeyCode.CONTROL, KeyCode.SPACE);
    d.type("from above");
    d.keys(KeyCode.ENTER);
    assertThat(d.on(() -> d.desk().view().camera().pitch())).isCloseTo(Math.PI / 2, within(1e-9));
    d.keys(KeyCode.CONTROL, KeyCode.SPACE);
    d.keys(KeyCode.ESCAPE);
    assertThat(d.on(() -> d.node("finder").isVisible())).isFalse();
  }

  @Test
  void theSceneIsReachedByTabAlone() {
    List<String> reached = new ArrayList<>();
    for (int i = 0; i < 60; i++) {
      d.keys(KeyCode.TAB);
      Node n = d.on(() -> d.scene().getFocusOwner());
      reached.add(n == null ? "" : String.valueOf(n.getId()));
    }
    assertThat(reached).contains("stage-trim", "apply", "look", "view", "find-action");
  }

  // --- what is cut off -------------------------------------------------------------------------

  @Test
  void noTextIsCutOffInAnyStageAtTheLeastSize() throws Exception {
    d.close();
    d = Driver.open(dir, 1024, 700);
    view = d.desk().view();
    open(scan);
    List<String> cut = new ArrayList<>();
    KeyCode[] digits = {
      KeyCode.DIGIT1, KeyCode.DIGIT2, KeyCode.DIGIT3, KeyCode.DIGIT4,
      KeyCode.DIGIT5, KeyCode.DIGIT6, KeyCode.DIGIT7, KeyCode.DIGIT8
    };
    for (KeyCode digit : digits) {
      stage(digit);
      for (KeyCode tool : TOOLS) {
        d.keys(tool);
        d.settle();
        cut.addAll(d.on(() -> cutOff(d.scene().getRoot())));
      }
    }
    assertThat(cut).isEmpty();
    // The check itself must see a cut text where there is one.
    List<String> made =
        d.on(
            () -> {
              Label l = new Label("A text that is longer than its place");
              l.setMaxWidth(60);
              d.desk().getChildren().add(l);
              d.desk().applyCss();
              d.desk().layout();
              return cutOff(d.scene().getRoot());
            });
    assertThat(made).hasSize(1);
  }

  /** What is hidden, or within something hidden, was never laid out. */
  private static boolean isShown(Node n) {
    return n == null || n.isVisible() && isShown(n.getParent());
  }

  /** Texts that are shown with an ellipsis in place of their end. */
  private static List<String> cutOff(Parent root) {
    // A text that came since the last pulse is set but not yet laid out: that is no cut text.
    root.applyCss();
    root.layout();
    List<String> out = new ArrayList<>();
    for (Node n : root.lookupAll("*")) {
      if (n instanceof Labeled l
          && isShown(l)
          && l.getScene() != null
          && !"folder".equals(l.getId())
          && l.lookup(".text") instanceof Text t
          && t.getParent() == l
          && !t.getText().equals(l.getText())) {
        out.add(l.getText() + " shown as " + t.getText());
      }
    }
    return out;
  }
}
