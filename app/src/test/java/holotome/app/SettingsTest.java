package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.model.Home;
import holotome.app.model.Settings;
import holotome.core.unit.Length;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** What is set stays set: by the pages of the window, and in the file. */
class SettingsTest extends WindowCase {
  @Override
  int triangles() {
    return 30_000;
  }

  @Test
  void whatIsSetIsReadBack() throws Exception {
    Home home = new Home(dir.resolve("own"));
    Settings s = new Settings(home);
    s.setPaper(Settings.Paper.SLATE);
    s.setTextSize(130);
    s.setUnit(Length.Unit.CM);
    s.setTurnsByMiddle(true);
    s.setMemory(50);
    s.setOutput(Path.of("/tmp/ä ö"));
    s.setKeys(Map.of("view.clip", "Ctrl K"));
    s.keep();
    Settings back = new Settings(home);
    assertThat(back.paper()).isEqualTo(Settings.Paper.SLATE);
    assertThat(back.textSize()).isEqualTo(130);
    assertThat(back.unit()).isEqualTo(Length.Unit.CM);
    assertThat(back.turnsByMiddle()).isTrue();
    assertThat(back.memory()).isEqualTo(50);
    assertThat(back.output()).isEqualTo(Path.of("/tmp/ä ö"));
    assertThat(back.keys()).containsExactly(Map.entry("view.clip", "Ctrl K"));
  }

  @Test
  void whatCannotBeReadIsTakenAsUsual() throws Exception {
    Home home = new Home(dir.resolve("odd"));
    Files.createDirectories(dir.resolve("odd"));
    Files.writeString(
        dir.resolve("odd").resolve("settings.properties"),
        "paper=parchment\ntext-size=huge\nunit=furlong\nkey.view.clip=Hyper Q\nx=\\u00zz\n");
    Settings s = new Settings(home);
    assertThat(s.paper()).isEqualTo(Settings.Paper.FILM);
    assertThat(s.textSize()).isEqualTo(100);
    assertThat(s.unit()).isNull();
  }

  /** A key is changed on the page of keys, does what it says at once, and after the next start. */
  @Test
  void aKeyIsChangedAndKept() throws Exception {
    d.keys(KeyCode.F1);
    d.settle();
    assertThat(d.text("key-view-through")).isEqualTo("V");
    d.click("key-view-through");
    d.keys(KeyCode.CONTROL, KeyCode.K);
    assertThat(d.text("key-view-through")).isEqualTo("Ctrl K");
    // A key that is taken changes hands, and it is said.
    d.click("key-view-clip");
    d.keys(KeyCode.L);
    assertThat(d.text("keys-said")).contains("\"Next look\" has no key");
    d.keys(KeyCode.ESCAPE);
    boolean through = d.on(() -> d.desk().view().isThrough());
    d.keys(KeyCode.V);
    assertThat(d.on(() -> d.desk().view().isThrough())).isEqualTo(through);
    d.keys(KeyCode.CONTROL, KeyCode.K);
    assertThat(d.on(() -> d.desk().view().isThrough())).isNotEqualTo(through);
    d.close();
    d = Driver.open(dir);
    view = d.desk().view();
    open(scan);
    through = d.on(() -> d.desk().view().isThrough());
    d.keys(KeyCode.CONTROL, KeyCode.K);
    assertThat(d.on(() -> d.desk().view().isThrough())).isNotEqualTo(through);
    d.keys(KeyCode.F1);
    d.settle();
    d.click("keys-usual");
    assertThat(d.text("key-view-through")).isEqualTo("V");
  }

  @Test
  void theSettingsPageTakesEffectAtOnce() {
    d.keys(KeyCode.CONTROL, KeyCode.COMMA);
    d.settle();
    d.choose("setting-paper", 1);
    assertThat(d.on(() -> d.desk().getStyleClass().contains("slate"))).isTrue();
    d.choose("setting-text", 3);
    assertThat(d.on(() -> d.desk().getStyle())).contains("19.5px");
    d.choose("setting-turn", 1);
    d.keys(KeyCode.ESCAPE);
    d.settle();
    assertThat(d.on(() -> d.node("settings-page").isVisible())).isFalse();
    var before = d.on(() -> d.desk().view().camera());
    d.drag(view, javafx.scene.input.MouseButton.MIDDLE, 300, 300, 360, 300);
    d.settle();
    assertThat(d.on(() -> d.desk().view().camera().yaw())).isNotEqualTo(before.yaw());
  }
}
