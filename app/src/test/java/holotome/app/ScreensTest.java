package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.app.model.Stage;
import holotome.app.window.Contrast;
import holotome.app.window.WindowProbe;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.input.KeyCode;
import javafx.scene.paint.Color;
import org.junit.jupiter.api.Test;

/** Every tool's Sheet at 1280 x 800, in film and in slate: what is to be read can be read. */
class ScreensTest extends WindowCase {
  @Override
  int triangles() {
    return 60_000;
  }

  private void each(Runnable look) {
    for (Runnable take : d.on(() -> WindowProbe.tools(d.desk()))) {
      d.on(
          () -> {
            take.run();
            return null;
          });
      d.on(
          () -> {
            d.desk().applyCss();
            d.desk().layout();
            look.run();
            return null;
          });
    }
  }

  private List<String> contrasts() {
    List<String> found = new ArrayList<>();
    each(
        () -> {
          for (String s : Contrast.tooLow(d.desk(), 4.5)) {
            found.add(d.desk().session().stage().title() + ": " + s);
          }
        });
    return found.stream().distinct().toList();
  }

  @Test
  void everyTextHasContrastInFilmAndSlate() throws Exception {
    assertThat(Contrast.ratio(Color.BLACK, Color.WHITE)).isCloseTo(21, within(1e-9));
    // The boundary that is published with the formula: #767676 on white is 4.54 : 1.
    assertThat(Contrast.ratio(Color.web("#767676"), Color.WHITE)).isCloseTo(4.54, within(0.005));
    d.on(
        () -> {
          d.desk().session().say("Something was done");
          return null;
        });
    assertThat(contrasts()).as("film").isEmpty();
    d.find("film or slate");
    d.settle();
    assertThat(d.on(() -> d.desk().getStyleClass().contains("slate"))).isTrue();
    assertThat(contrasts()).as("slate").isEmpty();
    open(java.nio.file.Files.writeString(dir.resolve("bad.ply"), "ply\n"));
    assertThat(d.on(() -> Contrast.tooLow(d.node("message"), 4.5))).isEmpty();
    for (KeyCode page : new KeyCode[] {KeyCode.F1}) {
      d.keys(page);
      d.settle();
      assertThat(d.on(() -> Contrast.tooLow(d.desk(), 4.5))).as("keys").isEmpty();
      d.keys(KeyCode.ESCAPE);
    }
    d.keys(KeyCode.CONTROL, KeyCode.COMMA);
    d.settle();
    assertThat(d.on(() -> Contrast.tooLow(d.desk(), 4.5))).as("settings").isEmpty();
  }

  /** A stage has no more tools than there are digits. */
  @Test
  void everyStageHasAtMostTenTools() {
    Map<Stage, Integer> count = new TreeMap<>();
    each(() -> count.merge(d.desk().session().stage(), 1, Integer::sum));
    assertThat(count).hasSize(8);
    assertThat(count.values()).allMatch(n -> n <= 10);
  }

  /** The main button stands in one place; the figures above it are whole. */
  @Test
  void theFootStaysWhereItIsAndFiguresAreWhole() {
    Map<String, Double> feet = new TreeMap<>();
    List<String> cut = new ArrayList<>();
    each(
        () -> {
          String tool = d.desk().session().stage().title() + " " + feet.size();
          Node apply = d.node("apply");
          if (!apply.isVisible()) {
            return;
          }
          feet.put(tool, Math.rint(apply.localToScene(0, 0).getY()));
          Bounds figures = d.node("figures").localToScene(d.node("figures").getLayoutBounds());
          Bounds sheet = d.node("sheet").localToScene(d.node("sheet").getLayoutBounds());
          double foot = apply.localToScene(0, 0).getY();
          boolean whole =
              figures.getMinY() >= sheet.getMinY()
                  && figures.getMaxY() <= foot + 0.5
                  && figures.getMaxX() <= sheet.getMaxX();
          if (!whole) {
            cut.add(tool + " " + figures);
          }
          for (Node n : d.node("figures").lookupAll(".figure")) {
            if (n instanceof Labeled l && l.getText().contains("…") && l.getText().length() > 1) {
              cut.add(tool + " " + l.getText());
            }
          }
        });
    assertThat(feet.values().stream().distinct()).as("%s", feet).hasSize(1);
    assertThat(cut).isEmpty();
  }
}
