package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.task.Work;
import java.nio.file.Path;
import java.util.concurrent.CountDownLatch;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.io.TempDir;

/**
 * A large scan in the window: opened, turned, lassoed, cut, made light, undone. Prints how long
 * each took and the longest time the interface thread did not answer. Runs only when told a size:
 * scripts/big-scan does.
 */
@EnabledIfSystemProperty(named = "holotome.big", matches = "\\d+")
class BigScanTest {
  @TempDir private Path home;
  private double lapBegan = now();
  private volatile double stall;

  private static double now() {
    return System.nanoTime() * 1e-9;
  }

  private void lap(String what) {
    System.err.printf("%-28s %7.2f s   longest stall %5.2f s%n", what, now() - lapBegan, stall);
    stall = 0;
    lapBegan = now();
  }

  /** Asks the interface thread for an answer again and again and keeps the longest wait. */
  private void watchForStalls() {
    Thread t =
        new Thread(
            () -> {
              try {
                while (true) {
                  double asked = now();
                  CountDownLatch answered = new CountDownLatch(1);
                  Platform.runLater(answered::countDown);
                  answered.await();
                  stall = Math.max(stall, now() - asked);
                  Thread.sleep(10);
                }
              } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
              }
            });
    t.setDaemon(true);
    t.start();
  }

  /** The most memory the process has held, as the kernel counts it. */
  private static double peak() throws java.io.IOException {
    for (String line : java.nio.file.Files.readAllLines(Path.of("/proc/self/status"))) {
      if (line.startsWith("VmHWM:")) {
        return 1024.0 * Long.parseLong(line.replaceAll("\\D", ""));
      }
    }
    return Double.NaN;
  }

  /** Made light once, undone, and given up half-way: all is as it was. */
  private void reduceAndCancel(Driver d, int before) {
    d.keys(KeyCode.ALT, KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    lap("curve foretold");
    int wanted = before / 100;
    d.fill("field-triangles", "" + wanted);
    d.settle();
    lap("number typed");
    d.keys(KeyCode.ENTER);
    d.await("a Cast", () -> d.desk().session().history().size() == 1);
    lap("reduced to a hundredth");
    d.settle();
    lap("measured again");
    assertThat(d.on(() -> d.desk().session().current().cast().triangleCount()))
        .isBetween(wanted / 2, wanted + wanted / 20);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    lap("undone");
    d.fill("field-triangles", "" + wanted);
    d.settle();
    d.keys(KeyCode.ENTER);
    d.await(
        "a third of it",
        () -> {
          Work running = d.desk().session().jobs().running();
          return running != null && running.fraction() > 0.3;
        });
    lap("a third of the way");
    d.on(
        () -> {
          d.desk().session().jobs().cancel();
          return null;
        });
    d.await("an end", () -> !d.desk().session().jobs().isBusy());
    lap("cancelled");
    d.settle();
    assertThat(d.on(() -> d.desk().session().history().size())).isZero();
    assertThat(d.on(() -> d.desk().session().current().scan().triangleCount())).isEqualTo(before);
    assertThat(d.on(() -> d.desk().session().current().cast())).isNull();
  }

  @Test
  void openedTurnedLassoedCutUndone() throws Exception {
    Path scan = Scans.bollard(Integer.getInteger("holotome.big"));
    try (Driver d = Driver.open(home)) {
      watchForStalls();
      lap("window");
      d.on(
          () -> {
            d.desk().session().open(scan);
            return null;
          });
      d.await("an open scan", () -> d.desk().session().isOpen());
      lap("opened");
      d.await("a picture", () -> d.desk().view().frameSeconds() > 0);
      lap("first picture");
      d.await("the full picture", () -> d.desk().view().isExactShown());
      lap("full picture");
      d.settle();
      lap("measured");
      d.await("a prepared view", () -> d.desk().view().isPrepared());
      d.settle();
      lap("view prepared");
      Node view = d.desk().view();
      d.drag(view, MouseButton.SECONDARY, 370, 300, 470, 340);
      lap("turned");
      d.await("the full picture", () -> d.desk().view().isExactShown());
      lap("full picture again");
      d.settle();
      lap("figures of the open tool");
      d.keys(KeyCode.ALT, KeyCode.DIGIT2);
      d.drag(view, MouseButton.PRIMARY, 60, 560, 160, 420, 330, 500, 470, 470, 520, 360, 700, 380);
      d.await("a selection", () -> d.desk().session().selection() != null);
      lap("lassoed, visible");
      d.settle();
      lap("figures before applying");
      int before = d.on(() -> d.desk().session().current().scan().triangleCount());
      int selected = d.on(() -> d.desk().session().selection().cardinality());
      d.keys(KeyCode.ENTER);
      d.await("an entry", () -> d.desk().session().history().size() == 1);
      lap("removed");
      int after = d.on(() -> d.desk().session().current().scan().triangleCount());
      assertThat(after).isEqualTo(before - selected);
      d.settle();
      lap("measured again");
      d.keys(KeyCode.CONTROL, KeyCode.Z);
      d.settle();
      lap("undone");
      assertThat(d.on(() -> d.desk().session().current().scan().triangleCount())).isEqualTo(before);
      d.keys(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
      d.settle();
      lap("redone");
      assertThat(d.on(() -> d.desk().session().current().scan().triangleCount())).isEqualTo(after);
      d.keys(KeyCode.CONTROL, KeyCode.Z);
      d.settle();
      lap("undone again");
      reduceAndCancel(d, before);
      d.keys(KeyCode.ALT, KeyCode.DIGIT2);
      d.settle();
      d.keys(KeyCode.DIGIT6);
      d.settle();
      lap("figures of the ground cut");
      d.keys(KeyCode.ENTER);
      d.await("an entry", () -> d.desk().session().history().size() == 1);
      d.settle();
      lap("ground cut");
      assertThat(d.on(() -> d.desk().session().failure())).isNull();
      Path project = home.resolve("big.holotome");
      int saved = d.on(() -> d.desk().session().current().scan().triangleCount());
      d.on(
          () -> {
            d.desk().session().save(project);
            d.desk().session().open(project);
            return null;
          });
      d.await("the project again", () -> !d.desk().session().jobs().isBusy());
      lap("saved and reopened");
      assertThat(d.on(() -> d.desk().session().failure())).isNull();
      // Opened anew: there is nothing to undo.
      assertThat(d.on(() -> d.desk().session().canUndo())).isFalse();
      assertThat(d.on(() -> d.desk().session().history().size())).isEqualTo(1);
      assertThat(d.on(() -> d.desk().session().current().scan().triangleCount())).isEqualTo(saved);
      System.out.printf("peak memory of the process %.2f GB%n", peak() / 1e9);
    }
  }
}
