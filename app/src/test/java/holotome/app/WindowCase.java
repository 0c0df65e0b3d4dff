package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.pane.FlatPane;
import holotome.core.mesh.Mesh;
import holotome.core.step.Step;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** A window with the demo scan open, and what tests of it do again and again. */
abstract class WindowCase {
  static final int TRIANGLES = 100_000;

  @TempDir Path dir;
  Driver d;
  Node view;
  Path scan;

  /** The size of the scan that is opened. */
  int triangles() {
    return TRIANGLES;
  }

  @BeforeEach
  void openTheScan() throws Exception {
    scan = Scans.bollard(triangles());
    d = Driver.open(dir);
    view = d.desk().view();
    open(scan);
  }

  @AfterEach
  void close() {
    d.close();
  }

  void open(Path file) {
    d.on(
        () -> {
          d.desk().session().open(file);
          return null;
        });
    d.await("an open scan", () -> !d.desk().session().jobs().isBusy());
    d.settle();
  }

  /**
   * A box whose six sides are six charts, three by two in the square, as a file.
   *
   * @param up how far above the lower side of its half of the square each begins
   * @param height of each in the square
   */
  Path crate(double up, double height) throws IOException {
    StringBuilder s = new StringBuilder();
    for (int i = 0; i < 8; i++) {
      s.append("v %d %d %d%n".formatted(i & 1, i >> 1 & 1, i >> 2 & 1));
    }
    int[][] sides = {
      {0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}
    };
    for (int f = 0; f < 6; f++) {
      double u = f % 3 / 3.0 + 0.02;
      double v = f / 3 / 2.0 + up;
      double[][] corners = {{u, v}, {u + 0.28, v}, {u + 0.28, v + height}, {u, v + height}};
      for (double[] c : corners) {
        s.append("vt %s %s%n".formatted(c[0], c[1]));
      }
    }
    for (int f = 0; f < 6; f++) {
      s.append("f");
      for (int k = 0; k < 4; k++) {
        s.append(" %d/%d".formatted(sides[f][k] + 1, 4 * f + k + 1));
      }
      s.append(System.lineSeparator());
    }
    return Files.writeString(dir.resolve("crate.obj"), s.toString());
  }

  /** The same as the Scan and as the Cast, and a tool of Unwrap at hand. */
  void crateAsCast(KeyCode tool) throws IOException {
    Path file = crate(0.1, 0.28);
    open(file);
    castFrom(file);
    stage(KeyCode.DIGIT6);
    d.keys(tool);
    d.settle();
  }

  /** A file as the Cast. */
  void castFrom(Path file) {
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT7);
    d.fill("field-file", file.toString());
    d.settle();
    apply();
  }

  /** Waits until the charts of the Cast as it is are found and drawn. */
  void chartsShown() {
    Node flat = d.node("flat-view");
    d.await(
        "charts",
        () ->
            d.desk().session().charts().sheet(d.desk().session().current().cast()) != null
                && ((FlatPane) flat).isExactShown());
    d.settle();
  }

  void stage(KeyCode digit) {
    d.keys(KeyCode.ALT, digit);
    d.settle();
    int wanted = digit.ordinal() - KeyCode.DIGIT1.ordinal();
    assertThat(d.on(() -> d.desk().session().stage().ordinal())).as("stage").isEqualTo(wanted);
  }

  /** Takes up every tool of every stage, one after the other. */
  void everyTool(Consumer<String> with) {
    for (int stage = 1; stage <= 8; stage++) {
      stage(KeyCode.values()[KeyCode.DIGIT0.ordinal() + stage]);
      int tools = d.on(() -> d.scene().getRoot().lookupAll(".tool").size());
      for (int t = 1; t <= Math.clamp(tools, 1, 10); t++) {
        d.keys(KeyCode.values()[KeyCode.DIGIT0.ordinal() + t % 10]);
        d.settle();
        with.accept("stage " + stage + ", tool " + t);
      }
    }
  }

  void apply() {
    int before = entries();
    d.await("a ready tool", () -> !d.node("apply").isDisabled());
    d.keys(KeyCode.ENTER);
    d.await("an entry", () -> d.desk().session().history().size() == before + 1);
    d.settle();
  }

  int entries() {
    return d.on(() -> d.desk().session().history().size());
  }

  Step step(int entry) {
    return d.on(() -> d.desk().session().history().lines().get(entry).entry().step());
  }

  Mesh mesh() {
    return d.on(() -> d.desk().session().current().scan());
  }

  int selected() {
    return d.on(
        () -> {
          var s = d.desk().session().selection();
          return s == null ? 0 : s.cardinality();
        });
  }

  void lasso() {
    d.keys(KeyCode.ESCAPE);
    d.await("no selection", () -> d.desk().session().selection() == null);
    d.drag(view, MouseButton.PRIMARY, 300, 250, 440, 250, 440, 440, 300, 440, 300, 250);
    d.await("a selection", () -> d.desk().session().selection() != null);
    d.settle();
  }
}
