package holotome.app;

import com.fasterxml.jackson.databind.*;
import holotome.core.mesh.*;
import holotome.core.task.Work;
import holotome.demo.DemoFiles;
import java.nio.file.*;
import javafx.scene.Node;
import javafx.scene.input.*;
import org.junit.jupiter.api.Test;

class WalkTest {
  Driver d;
  Path dir = Path.of("/tmp/walk");
  int n;

  void shot() throws Exception {
    Thread.sleep(700);
    d.settle();
    d.picture(dir.resolve(String.format("%02d.png", n++)));
  }

  void stage(KeyCode k) {
    d.keys(KeyCode.ALT, k);
    d.settle();
  }

  void enter() throws Exception {
    Thread.sleep(500);
    d.settle();
    d.keys(KeyCode.ENTER);
    d.settle();
    System.err.println(d.message());
  }

  @Test
  void walk() throws Exception {
    Files.createDirectories(dir);
    Path scan = dir.resolve("quay.ply");
    if (!Files.exists(scan)) DemoFiles.write("bollard", scan, 1_200_000, Work.unwatched());
    try (Driver driver = Driver.open(dir.resolve("home"))) {
      d = driver;
      shot();
      d.on(
          () -> {
            d.desk().session().open(scan);
            return null;
          });
      d.settle();
      stage(KeyCode.DIGIT2);
      Node v = d.desk().view();
      // lasso over debris
      d.drag(v, MouseButton.PRIMARY, 150, 150, 600, 150, 600, 270, 150, 270, 150, 150);
      shot();
      d.keys(KeyCode.ESCAPE);
      d.keys(KeyCode.DIGIT2);
      enter();
      d.keys(KeyCode.DIGIT3);
      shot();
      enter();
      d.keys(KeyCode.DIGIT2);
      enter();
      shot();
      d.keys(KeyCode.DIGIT4);
      shot();
      stage(KeyCode.DIGIT3);
      shot();
      d.keys(KeyCode.DIGIT1);
      enter();
      d.keys(KeyCode.DIGIT2);
      enter();
      shot();
      stage(KeyCode.DIGIT4);
      JsonNode t = new ObjectMapper().readTree(DemoFiles.truthBeside(scan).toFile());
      for (int e = 0; e < 2; e++) {
        JsonNode p = t.at("/scaleBar/ends").get(e);
        double[] px =
            d.pixel(new double[] {p.get(0).asDouble(), p.get(1).asDouble(), p.get(2).asDouble()});
        System.err.println(px[0] + " " + px[1]);
        d.clickAt(v, px[0], px[1]);
        Thread.sleep(300);
        if (e == 0) {
          d.drag(v, MouseButton.NONE, px[0] + 10, px[1]);
          shot();
        }
      }
      d.fill("field-is", "500 mm");
      shot();
      enter();
      d.keys(KeyCode.DIGIT2);
      enter();
      d.keys(KeyCode.DIGIT3);
      enter();
      shot();
      stage(KeyCode.DIGIT5);
      shot();
      enter();
      d.keys(KeyCode.HOME);
      shot();
      stage(KeyCode.DIGIT6);
      enter();
      shot();
      stage(KeyCode.DIGIT7);
      enter();
      shot();
      stage(KeyCode.DIGIT8);
      shot();
      enter();
      shot();
    }
  }
}
