package holotome.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.Driver;
import holotome.core.task.Failure;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What nobody catches is noted in this run's log and told; the logs of the last runs are kept. */
class ProblemsTest {
  private final Thread.UncaughtExceptionHandler before =
      Thread.getDefaultUncaughtExceptionHandler();

  @TempDir Path dir;

  @AfterEach
  void end() {
    Problems.end();
    Thread.setDefaultUncaughtExceptionHandler(before);
  }

  @Test
  void whatNobodyCatchesIsNotedAndTold() throws Exception {
    Driver.startToolkit();
    Home home = new Home(dir);
    Files.createDirectories(home.logs());
    for (int i = 0; i < 12; i++) {
      Files.writeString(
          home.logs().resolve("run-2020-01-%02d-120000-1.log".formatted(i + 1)), "old");
    }
    BlockingQueue<Failure> told = new ArrayBlockingQueue<>(4);
    Problems.begin(home, told::add);
    Thread t =
        new Thread(
            () -> {
              throw new IllegalStateException("a made-up fault");
            },
            "made-up");
    t.start();
    t.join();
    Failure f = told.poll(20, TimeUnit.SECONDS);
    assertThat(f).isNotNull();
    assertThat(f.getMessage())
        .contains("IllegalStateException")
        .contains("is kept")
        .contains(Problems.file().toString());
    Problems.note("the view could not be drawn", new RuntimeException("another one"));
    Problems.end();
    assertThat(Files.readString(Problems.file()))
        .contains("in made-up")
        .contains("a made-up fault")
        .contains("the view could not be drawn")
        .contains("another one")
        .contains("cores");
    try (var logs = Files.list(home.logs())) {
      assertThat(logs.filter(p -> p.toString().endsWith(".log")))
          .hasSize(8)
          .contains(Problems.file());
    }
  }
}
