package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.task.Work;
import holotome.core.words.Language;
import holotome.demo.DemoFiles;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.io.TempDir;

/**
 * Takes the pictures of the documentation: walks through the job and saves what each stage shows.
 * Runs only when told where to: scripts/pictures does.
 */
@EnabledIfSystemProperty(named = "holotome.pictures", matches = ".+")
class PicturesTest {
  @TempDir private Path home;
  private final Path into = Path.of(System.getProperty("holotome.pictures", "."));
  private Driver d;
  private Node view;

  private void stage(KeyCode digit, KeyCode tool) {
    d.keys(KeyCode.ALT, digit);
    d.settle();
    d.keys(tool);
    d.settle();
  }

  private void apply() {
    int before = d.on(() -> d.desk().session().history().size());
    d.await("a ready tool", () -> !d.node("apply").isDisabled());
    d.keys(KeyCode.ENTER);
    d.await("an entry", () -> d.desk().session().history().size() == before + 1);
    d.settle();
  }

  /** Once figures are in and the full picture is up. */
  private void save(String name) throws Exception {
    Thread.sleep(1200);
    d.settle();
    d.picture(into.resolve(name + ".png"));
  }

  private void lookCloser(double yaw, double pitch, int notches) {
    d.keys(KeyCode.HOME);
    d.settle();
    d.drag(view, MouseButton.SECONDARY, 370, 300, 370 - yaw, 300 + pitch);
    d.settle();
    if (notches != 0) {
      d.wheel(view, 376, 330, -notches);
      d.settle();
    }
  }

  @Test
  void walk() throws Exception {
    Path scan = Scans.bollard(1_200_000);
    Files.createDirectories(into);
    try (Driver driver = Driver.open(home)) {
      d = driver;
      view = d.desk().view();
      d.on(
          () -> {
            d.desk().session().open(scan);
            return null;
          });
      d.settle();
      lookCloser(40, 20, 4);
      save("intake");

      stage(KeyCode.DIGIT2, KeyCode.DIGIT1);
      d.drag(
          view,
          MouseButton.PRIMARY,
          60,
          560,
          160,
          420,
          330,
          500,
          470,
          470,
          520,
          360,
          700,
          380,
          720,
          600,
          420,
          655,
          60,
          640,
          60,
          560);
      d.settle();
      save("trim-lasso");
      d.keys(KeyCode.ESCAPE);
      stage(KeyCode.DIGIT2, KeyCode.DIGIT5);
      apply();
      stage(KeyCode.DIGIT2, KeyCode.DIGIT9);
      save("trim-crop");
      stage(KeyCode.DIGIT2, KeyCode.DIGIT6);
      apply();
      stage(KeyCode.DIGIT2, KeyCode.DIGIT5);
      apply();

      stage(KeyCode.DIGIT3, KeyCode.DIGIT1);
      apply();
      lookCloser(-330, -95, 0);
      stage(KeyCode.DIGIT3, KeyCode.DIGIT2);
      d.clickWords("findings", "Show");
      save("mend");
      apply();

      stage(KeyCode.DIGIT4, KeyCode.DIGIT1);
      d.await("a proposed scale bar", () -> d.scene().lookup("#bar-500") != null);
      d.click("bar-500");
      lookCloser(300, 110, 0);
      d.settle();
      save("datum-scale");
      apply();
      stage(KeyCode.DIGIT4, KeyCode.DIGIT2);
      apply();
      stage(KeyCode.DIGIT4, KeyCode.DIGIT3);
      apply();
      d.keys(KeyCode.HOME);
      stage(KeyCode.DIGIT4, KeyCode.DIGIT6);
      d.clickAt(view, 376, 300);
      d.settle();
      d.clickAt(view, 382, 470);
      d.await("a distance", () -> d.desk().session().measurements().taken().size() == 1);
      d.choose("field-measure", 6);
      d.clickAt(view, 376, 380);
      d.await("a cylinder", () -> d.desk().session().measurements().taken().size() == 2);
      d.keys(KeyCode.M);
      save("datum-measure");
      d.keys(KeyCode.M);
      stage(KeyCode.DIGIT4, KeyCode.DIGIT8);
      d.choose("field-across", 1);
      d.await("figures", () -> d.scene().lookup("#after-area") != null);
      save("datum-section");
      stage(KeyCode.DIGIT4, KeyCode.DIGIT7);
      save("datum-place");

      d.keys(KeyCode.T);
      d.settle();
      stage(KeyCode.DIGIT5, KeyCode.DIGIT1);
      d.fill("field-triangles", "3000");
      d.settle();
      apply();
      d.keys(KeyCode.SHIFT, KeyCode.T);
      d.settle();
      stage(KeyCode.DIGIT5, KeyCode.DIGIT1);
      d.fill("field-triangles", "20000");
      d.settle();
      apply();
      lookCloser(0, 0, 0);
      d.keys(KeyCode.K);
      d.find("look: wire over");
      save("trials");
      d.keys(KeyCode.K);
      d.find("look: colour, lit");
      d.find("all trials");
      d.click("trial-drop-2");
      d.settle();
      d.keys(KeyCode.ESCAPE);
      d.keys(KeyCode.D);
      d.await("a deviation", () -> d.desk().view().deviation().now() != null);
      save("reduce");
      d.keys(KeyCode.D);
      stage(KeyCode.DIGIT6, KeyCode.DIGIT1);
      apply();
      save("unwrap");
      stage(KeyCode.DIGIT7, KeyCode.DIGIT1);
      apply();
      save("bake");
      stage(KeyCode.DIGIT8, KeyCode.DIGIT1);
      d.fill("field-name", "bollard");
      apply();
      save("ship");
      Node tape = d.node("tape");
      d.drag(tape, MouseButton.PRIMARY, 700, 60, 200, 60);
      save("looking-back");
      d.keys(KeyCode.ESCAPE);
      d.keys(KeyCode.CONTROL, KeyCode.SPACE);
      d.type("slate");
      d.keys(KeyCode.ENTER);
      save("slate");
    }
    try (Driver again = Driver.open(home)) {
      d = again;
      save("welcome");
    }
    proxy();
    swatch();
    Language.speak(Language.GERMAN);
    try (Driver german = Driver.open(home)) {
      d = german;
      d.on(
          () -> {
            d.desk().session().open(scan);
            return null;
          });
      stage(KeyCode.DIGIT2, KeyCode.DIGIT5);
      save("german");
    } finally {
      Language.speak(Language.ENGLISH);
    }
    try (var files = Files.list(into)) {
      assertThat(files.filter(p -> p.toString().endsWith(".png")).count()).isBetween(10L, 19L);
    }
  }

  /** The net shed from planes, a face of it chosen, the Scan coloured by how far it lies off. */
  private void proxy() throws Exception {
    Path shed = home.resolve("net-shed.ply");
    DemoFiles.write("net-shed", shed, 400_000, Work.unwatched());
    try (Driver other = Driver.open(home.resolve("other"))) {
      d = other;
      view = d.desk().view();
      d.on(
          () -> {
            d.desk().session().open(shed);
            return null;
          });
      d.settle();
      stage(KeyCode.DIGIT5, KeyCode.DIGIT0);
      d.click("find-planes");
      d.await("parts", () -> d.textNow("sheet").contains("flat parts"));
      apply();
      d.choose("proxy-kind", 2);
      d.settle();
      lookCloser(110, -14, -3);
      d.choose("proxy-takes", 3);
      double[] wall = d.pixel(new double[] {5, 0, 1.2});
      d.clickAt(view, wall[0], wall[1]);
      d.click("proxy-handles");
      d.find("look: deviation");
      d.await("a deviation", () -> d.desk().view().deviation().now() != null);
      save("proxy");
    }
  }

  /** A place on the setts that tiles, found along their courses, and what it would look like. */
  private void swatch() throws Exception {
    Path setts = home.resolve("setts.ply");
    DemoFiles.write("setts", setts, 1_000_000, Work.unwatched());
    try (Driver other = Driver.open(home.resolve("third"))) {
      d = other;
      view = d.desk().view();
      d.on(
          () -> {
            d.desk().session().open(setts);
            return null;
          });
      d.settle();
      d.find("look: colour, lit");
      stage(KeyCode.DIGIT5, KeyCode.DIGIT9);
      d.fill("field-width", "4.4 m");
      d.fill("field-height", "4.4 m");
      d.clickAt(view, 376, 330);
      d.await("what lies under it", () -> d.scene().lookup("#swatch-times").isVisible());
      d.settle();
      d.choose("field-find", 2);
      d.settle();
      save("swatch");
    }
  }
}
