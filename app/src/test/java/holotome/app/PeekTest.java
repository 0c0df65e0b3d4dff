package holotome.app;

import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PeekTest {
  @TempDir private Path home;
  private Driver d;

  private void save(String name) throws Exception {
    Thread.sleep(1000);
    d.settle();
    d.picture(Path.of("/tmp/w/shots/" + name + ".png"));
  }

  private void apply() {
    int before = d.on(() -> d.desk().session().history().size());
    d.await("a ready tool", () -> !d.node("apply").isDisabled());
    d.keys(KeyCode.ENTER);
    d.await("an entry", () -> d.desk().session().history().size() == before + 1);
    d.settle();
  }

  @Test
  void peek() throws Exception {
    Path scan = Scans.bollard(1_200_000);
    Files.createDirectories(Path.of("/tmp/w/shots"));
    try (Driver driver = Driver.open(home)) {
      d = driver;
      Node view = d.desk().view();
      d.on(
          () -> {
            d.desk().session().open(scan);
            return null;
          });
      d.settle();
      d.keys(KeyCode.ALT, KeyCode.DIGIT2);
      d.settle();
      d.keys(KeyCode.DIGIT5);
      d.settle();
      apply();
      d.keys(KeyCode.ALT, KeyCode.DIGIT4);
      d.settle();
      d.await("a proposed scale bar", () -> d.scene().lookup("#bar-500") != null);
      d.click("bar-500");
      d.settle();
      apply();
      d.keys(KeyCode.ALT, KeyCode.DIGIT5);
      d.settle();
      save("reduce0");
      apply();
      d.keys(KeyCode.HOME);
      d.settle();
      d.keys(KeyCode.D);
      d.settle();
      save("deviation");
      d.drag(d.node("deviation-scale"), MouseButton.PRIMARY, 60, 45, 10, 45);
      d.settle();
      d.click("deviation-worst");
      d.settle();
      save("deviation-worst");
      System.out.println("PEEK " + d.text("deviation-figures"));
    }
  }
}
