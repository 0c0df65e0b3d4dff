package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.model.Home;
import holotome.app.model.Settings;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** The first steps lead from the raw scan to baked maps, by what they say. */
class GuideTest extends WindowCase {

  private boolean isShown() {
    return d.on(() -> d.scene().lookup("#guide").isVisible());
  }

  @Test
  void leadsThroughTheJobAndMayBeClosedAndCalledAgain() {
    assertThat(isShown()).isFalse();
    d.find("first steps");
    assertThat(d.text("guide-heading")).isEqualTo("First steps, 1 of 5");
    d.drag(view, MouseButton.SECONDARY, 300, 250, 360, 260);
    d.settle();
    assertThat(d.text("guide-heading")).isEqualTo("First steps, 2 of 5");
    assertThat(d.text("guide-text")).contains("Alt 2, 5");
    d.click("guide-there");
    d.settle();
    apply();
    assertThat(d.text("guide-heading")).isEqualTo("First steps, 3 of 5");
    d.click("guide-there");
    d.settle();
    d.click("bar-500");
    d.settle();
    apply();
    assertThat(d.text("guide-heading")).isEqualTo("First steps, 4 of 5");
    d.click("guide-close");
    assertThat(isShown()).isFalse();
    // Called again, it goes on where the work stands: one step a change, what is done is passed.
    d.find("first steps");
    assertThat(isShown()).isTrue();
    d.click("guide-skip");
    d.settle();
    assertThat(d.text("guide-heading")).isEqualTo("First steps, 4 of 5");
    d.click("guide-there");
    d.settle();
    apply();
    assertThat(d.text("guide-heading")).isEqualTo("First steps, 5 of 5");
    d.click("guide-there");
    d.settle();
    assertThat(d.text("sheet-heading")).isNotEmpty();
    d.fill("field-triangles", "800");
    apply();
    d.click("guide-there");
    d.settle();
    apply();
    d.click("guide-there");
    d.settle();
    d.fill("field-size", "128");
    apply();
    assertThat(d.text("guide-heading")).isEqualTo("First steps: done");
    d.click("guide-close");
    assertThat(isShown()).isFalse();
    d.keys(KeyCode.ESCAPE);
  }

  @Test
  void comesByItselfOnce() {
    Home home = new Home(dir.resolve("another"));
    Settings s = new Settings(home);
    assertThat(s.isGuideSeen()).isFalse();
    s.setGuideSeen();
    s.keep();
    assertThat(new Settings(home).isGuideSeen()).isTrue();
  }
}
