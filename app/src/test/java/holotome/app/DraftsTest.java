package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.trim.CutFence;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** What was clicked for a tool is taken back click by click, before any entry is. */
class DraftsTest extends WindowCase {

  @Override
  int triangles() {
    return 60_000;
  }

  private void undo() {
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
  }

  private void redo() {
    d.keys(KeyCode.CONTROL, KeyCode.Y);
    d.settle();
  }

  private double[] corners() {
    CutFence f = (CutFence) d.on(() -> d.desk().sheetStep());
    return f == null ? null : f.fence().outline();
  }

  @Test
  void cornersOfAFence() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT8);
    double[][] clicks = {{200, 200}, {400, 200}, {400, 400}, {200, 400}, {200, 200}};
    for (double[] c : clicks) {
      d.clickAt(view, c[0], c[1]);
    }
    d.settle();
    assertThat(corners()).hasSize(8);
    int entries = entries();
    // A corner is dragged: one step, however far.
    d.drag(view, javafx.scene.input.MouseButton.PRIMARY, 400, 400, 430, 430, 460, 470);
    d.settle();
    assertThat(corners()[4]).isEqualTo(460);
    undo();
    assertThat(corners()[4]).isEqualTo(400);
    undo();
    assertThat(corners()).as("open again").isNull();
    assertThat(d.text("problem")).contains("first corner");
    redo();
    assertThat(corners()).hasSize(8);
    for (int i = 0; i < 5; i++) {
      undo();
    }
    assertThat(entries()).as("the entry was not touched").isEqualTo(entries);
    // The draft is empty: now the entry goes.
    undo();
    assertThat(entries()).isEqualTo(entries - 1);
  }

  @Test
  void endsOfAKnownLength() throws Exception {
    stage(KeyCode.DIGIT4);
    d.find("datum: scale");
    d.clickAt(view, 330, 420);
    d.await("one end", () -> d.textNow("measured").contains("other end"));
    d.clickAt(view, 420, 430);
    d.await("a length", () -> d.textNow("measured").matches(".*\\d.*"));
    undo();
    assertThat(d.text("measured")).contains("other end");
    undo();
    assertThat(d.text("measured")).contains("one end");
    redo();
    redo();
    assertThat(d.text("measured")).matches(".*\\d.*");
    assertThat(entries()).isZero();
  }

  @Test
  void pointsOfAPlane() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT7);
    d.settle();
    d.choose("field-along", 4);
    d.clickAt(view, 330, 420);
    d.clickAt(view, 420, 430);
    d.await("two points", () -> d.textNow("problem").contains("1 more"));
    undo();
    assertThat(d.text("problem")).contains("2 more");
    redo();
    d.clickAt(view, 370, 460);
    d.await("a plane", () -> d.desk().sheetStep() != null);
    undo();
    assertThat(d.on(() -> d.desk().sheetStep())).isNull();
    assertThat(d.text("problem")).contains("1 more");
    redo();
    assertThat(d.on(() -> d.desk().sheetStep())).isNotNull();
  }
}
