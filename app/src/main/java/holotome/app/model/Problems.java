package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.task.Failure;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Comparator;
import java.util.List;
import java.util.function.Consumer;
import java.util.logging.FileHandler;
import java.util.logging.Handler;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.logging.SimpleFormatter;
import java.util.stream.Stream;
import javafx.application.Platform;

/**
 * The log of this run, a file among those of the last ones, and what becomes of what is thrown and
 * caught by nobody: it is noted there, and the user is told what is safe and where the log is.
 * Nothing is sent anywhere.
 */
public final class Problems {
  /** So many runs are kept. */
  private static final int KEPT = 8;

  /** A log is no longer than this, in bytes. */
  private static final int MOST = 4 << 20;

  private static final Logger LOG = Logger.getLogger("holotome");
  private static volatile Path file;

  private Problems() {}

  /**
   * Begins a log for this run and takes care of what nobody catches.
   *
   * @param told is told, on the interface thread, of each such trouble in words
   */
  public static void begin(Home home, Consumer<Failure> told) {
    LOG.setUseParentHandlers(false);
    try {
      Files.createDirectories(home.logs());
      clear(home.logs());
      String stamp = LocalDateTime.now().format(DateTimeFormatter.ofPattern("yyyy-MM-dd-HHmmss"));
      file = home.logs().resolve("run-" + stamp + "-" + ProcessHandle.current().pid() + ".log");
      FileHandler out = new FileHandler(file.toString().replace("%", "%%"), MOST, 1, true);
      out.setFormatter(new SimpleFormatter());
      LOG.addHandler(out);
      LOG.info(
          "Java "
              + System.getProperty("java.version")
              + ", "
              + System.getProperty("os.name")
              + ", "
              + Runtime.getRuntime().availableProcessors()
              + " cores, "
              + (Runtime.getRuntime().maxMemory() >> 20)
              + " MB");
    } catch (IOException e) {
      // Without a log the program is as good; what goes wrong is still said.
      file = null;
    }
    Thread.setDefaultUncaughtExceptionHandler(
        (thread, e) -> {
          note("in " + thread.getName(), e);
          Platform.runLater(() -> told.accept(notice(e)));
        });
  }

  /** Ends the log of this run. */
  public static void end() {
    for (Handler h : LOG.getHandlers()) {
      h.close();
      LOG.removeHandler(h);
    }
  }

  /** Where this run's log is; null where it could not be begun. */
  public static Path file() {
    return file;
  }

  /** Notes trouble that the work goes on after. */
  public static void note(String what, Throwable e) {
    LOG.log(Level.WARNING, what, e);
  }

  private static Failure notice(Throwable e) {
    String what = e.getClass().getSimpleName();
    return Failure.cannot(
        file == null
            ? AppWords.of("problems.something-went-wrong-that-should", what)
            : AppWords.of("problems.something-went-wrong-that-should-2", what, file));
  }

  private static void clear(Path directory) throws IOException {
    try (Stream<Path> all = Files.list(directory)) {
      List<Path> logs =
          all.filter(p -> p.getFileName().toString().startsWith("run-"))
              .sorted(Comparator.reverseOrder())
              .toList();
      for (int i = KEPT - 1; i < logs.size(); i++) {
        Files.deleteIfExists(logs.get(i));
      }
    }
  }
}
