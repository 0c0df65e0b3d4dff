package holotome.app.model;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.application.Platform;

/**
 * Computation off the interface thread. One main job at a time, which the user sees and can cancel,
 * and one quiet one beside it, which a newer one or a main job puts an end to. All methods are
 * called on the interface thread, and so are the answers.
 */
public final class Jobs {
  private final ExecutorService main = executor("holotome-job");
  private final ExecutorService quiet = executor("holotome-quiet");
  private final ExecutorService fetching = executor("holotome-fetch");
  private final Consumer<Failure> onFailure;
  private Work running;
  private String title = "";
  private Work quietRunning;

  /** Something to compute. */
  @FunctionalInterface
  public interface Job<T> {
    T run(Work work) throws Exception;
  }

  public Jobs(Consumer<Failure> onFailure) {
    this.onFailure = onFailure;
  }

  private static ExecutorService executor(String name) {
    return Executors.newSingleThreadExecutor(
        r -> {
          Thread t = new Thread(r, name);
          t.setDaemon(true);
          return t;
        });
  }

  /** The running main job's work; null when idle. */
  public Work running() {
    return running;
  }

  public String title() {
    return title;
  }

  public boolean isBusy() {
    return running != null;
  }

  public void cancel() {
    if (running != null) {
      running.cancel();
    }
  }

  /** Runs a main job; refused while another one runs. */
  public <T> void run(String jobTitle, Job<T> job, Consumer<T> done) {
    if (running != null) {
      onFailure.accept(Failure.cannot(title + " is still running; wait or cancel it"));
      return;
    }
    stopQuiet();
    Work work = new Work();
    running = work;
    title = jobTitle;
    main.execute(
        () -> {
          try {
            T result = job.run(work);
            Platform.runLater(
                () -> {
                  running = null;
                  done.accept(result);
                });
          } catch (Throwable e) {
            Failure f = Failure.of(e);
            Platform.runLater(
                () -> {
                  running = null;
                  onFailure.accept(f);
                });
          }
        });
  }

  /**
   * Runs a quiet job in place of any other. Its failure is handed over too: it is not shown as an
   * error, but may be of use beside what was asked.
   */
  public <T> void quietly(Job<T> job, Consumer<T> done, Consumer<Failure> failed) {
    stopQuiet();
    Work work = new Work();
    quietRunning = work;
    quiet.execute(
        () -> {
          try {
            work.check();
            T result = job.run(work);
            Platform.runLater(
                () -> {
                  if (quietRunning == work) {
                    quietRunning = null;
                    done.accept(result);
                  }
                });
          } catch (Throwable e) {
            Failure f = Failure.of(e);
            Platform.runLater(
                () -> {
                  if (quietRunning == work) {
                    quietRunning = null;
                    failed.accept(f);
                  }
                });
          }
        });
  }

  /** Reads something in the background that is needed soon, beside whatever else runs. */
  public <T> void fetch(Supplier<T> what, Consumer<T> done) {
    fetching.execute(
        () -> {
          try {
            T result = what.get();
            Platform.runLater(() -> done.accept(result));
          } catch (RuntimeException | Error e) {
            Failure f = Failure.of(e);
            Platform.runLater(() -> onFailure.accept(f));
          }
        });
  }

  public void stopQuiet() {
    if (quietRunning != null) {
      quietRunning.cancel();
      quietRunning = null;
    }
  }

  public boolean isQuietRunning() {
    return quietRunning != null;
  }

  public void shutDown() {
    cancel();
    stopQuiet();
    main.shutdownNow();
    quiet.shutdownNow();
    fetching.shutdownNow();
  }
}
