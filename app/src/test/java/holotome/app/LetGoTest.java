package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.memory.Claim;
import holotome.core.memory.Spare;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.lang.ref.WeakReference;
import java.nio.file.Path;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * What is no longer worked on is truly let go, however many parts of the window have seen it: of
 * scans of a hundred million triangles two do not fit.
 */
class LetGoTest {
  @TempDir private Path home;

  private static WeakReference<Mesh> mesh(Driver d) {
    return new WeakReference<>(d.on(() -> d.desk().session().current().scan()));
  }

  private static void open(Driver d, Path scan) {
    d.on(
        () -> {
          d.desk().session().open(scan);
          return null;
        });
    d.await(
        "the scan",
        () ->
            d.desk().session().source() != null
                && d.desk().session().source().equals(scan)
                && !d.desk().session().jobs().isBusy());
    d.settle();
    d.await("a prepared view", () -> d.desk().view().isPrepared());
    d.settle();
  }

  private static void assertGone(WeakReference<Mesh> mesh) throws InterruptedException {
    for (int i = 0; i < 60 && mesh.get() != null; i++) {
      Spare.makeRoom(2 * Runtime.getRuntime().maxMemory());
      Thread.sleep(100);
    }
    assertThat(mesh.get()).isNull();
  }

  @Test
  void aScanIsGoneOnceAnotherIsOpen() throws Exception {
    Path large = Scans.bollard(600_000);
    Path small = Scans.bollard(60_000);
    try (Driver d = Driver.open(home)) {
      open(d, large);
      WeakReference<Mesh> first = mesh(d);
      for (KeyCode stage : new KeyCode[] {KeyCode.DIGIT2, KeyCode.DIGIT4, KeyCode.DIGIT3}) {
        d.keys(KeyCode.ALT, stage);
        d.settle();
      }
      open(d, small);
      assertGone(first);
    }
  }

  @Test
  void whatAnEntryWasMadeFromIsOnDiskAloneAndUndoBringsItBack() throws Exception {
    Path scan = Scans.bollard(600_000);
    try (Driver d = Driver.open(home)) {
      open(d, scan);
      int before = d.on(() -> d.desk().session().current().scan().triangleCount());
      WeakReference<Mesh> first = mesh(d);
      d.keys(KeyCode.ALT, KeyCode.DIGIT2);
      d.settle();
      d.keys(KeyCode.DIGIT5);
      d.settle();
      d.keys(KeyCode.ENTER);
      d.await("an entry", () -> d.desk().session().history().size() == 1);
      d.settle();
      d.await("a prepared view", () -> d.desk().view().isPrepared());
      int after = d.on(() -> d.desk().session().current().scan().triangleCount());
      assertThat(after).isLessThan(before);
      assertGone(first);
      // What is worked on stays at hand, whatever is asked for.
      assertThat(d.on(() -> d.desk().session().history().atHand(1))).isNotNull();
      d.keys(KeyCode.CONTROL, KeyCode.Z);
      d.await("the entry undone", () -> d.desk().session().history().size() == 0);
      d.settle();
      assertThat(d.on(() -> d.desk().session().current().scan().triangleCount())).isEqualTo(before);
      d.await("a prepared view", () -> d.desk().view().isPrepared());
      d.await("the full picture", () -> d.desk().view().isExactShown());
    }
  }

  @Test
  void aWindowClosedWhileItWasBusyLeavesNobodyWaitingForMemory() throws Exception {
    Path scan = Scans.bollard(600_000);
    for (int i = 0; i < 3; i++) {
      try (Driver d = Driver.open(home.resolve("home" + i))) {
        d.on(
            () -> {
              d.desk().session().open(scan);
              return null;
            });
        d.await("an open scan", () -> d.desk().session().isOpen());
      }
    }
    Thread t =
        new Thread(
            () -> {
              try (Claim all = Claim.of(2 * Runtime.getRuntime().maxMemory())) {
                all.await(0, Work.unwatched());
              }
            });
    t.start();
    t.join(30_000);
    assertThat(t.isAlive()).isFalse();
  }
}
