package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.application.Platform;

/**
 * Computation off the interface thread. One main job at a time, which the user sees and can cancel;
 * one quiet one beside it, which a newer one or a main job puts an end to; and looks, by which
 * tools learn what they show: seen and cancelled as main jobs are where they take long. All methods
 * are called on the interface thread, and so are the answers.
 */
public final class Jobs {
  private final ExecutorService main = thread("holotome-job");
  private final ExecutorService quiet = thread("holotome-quiet");
  private final ExecutorService fetching = thread("holotome-fetch");
  private final Consumer<Failure> onFailure;
  private Work running;
  private String title = "";
  private Work quietRunning;
  private final ExecutorService looking = thread("holotome-look");
  private final Map<Object, Look> looks = new LinkedHashMap<>();

  /** A look is shown as running once it has taken so many seconds. */
  private static final double LONG = 0.4;

  /** What is looked for, for whom, and how far it is. */
  private record Look(String what, Work work) {}

  /** Something to compute. */
  @FunctionalInterface
  public interface Job<T> {
    T run(Work work) throws Exception;
  }

  public Jobs(Consumer<Failure> onFailure) {
    this.onFailure = onFailure;
  }

  /** A thread of its own that does one thing after the other and ends with the program. */
  public static ExecutorService thread(String name) {
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

  /** What is to be shown as running: the main job, else a look that takes long; null for none. */
  public Work shown() {
    return running != null ? running : longLook() == null ? null : longLook().work;
  }

  /** The name of what is to be shown as running. */
  public String shownTitle() {
    return running != null || longLook() == null ? title : longLook().what;
  }

  public boolean isLooking() {
    return !looks.isEmpty();
  }

  private Look longLook() {
    for (Look l : looks.values()) {
      if (l.work.secondsSoFar() > LONG) {
        return l;
      }
    }
    return null;
  }

  public boolean isBusy() {
    return running != null;
  }

  /** Cancels the main job; the looks, where there is none. */
  public void cancel() {
    if (running != null) {
      running.cancel();
    } else {
      looks.values().forEach(l -> l.work.cancel());
    }
  }

  /**
   * Looks for something that a tool shows; an earlier look of the same owner is given up.
   *
   * @param failed is told why there is no answer: cancelled by the user, or what went wrong
   */
  public <T> void look(
      Object owner, String what, Job<T> job, Consumer<T> done, Consumer<Failure> failed) {
    stopLooking(owner);
    Look look = new Look(what, new Work());
    looks.put(owner, look);
    looking.execute(
        () -> {
          try {
            look.work.check();
            T result = job.run(look.work);
            answer(owner, look, () -> done.accept(result));
          } catch (Throwable e) {
            Failure f = Failure.of(e);
            answer(owner, look, () -> failed.accept(f));
          }
        });
  }

  /**
   * Shows what is computed on another thread as a look.
   *
   * @param begin begins it and hands over the answer on the interface thread; null where it was
   *     cancelled or failed
   */
  public <T> void elsewhere(String what, BiConsumer<Work, Consumer<T>> begin, Consumer<T> done) {
    Object owner = new Object();
    Look look = new Look(what, new Work());
    looks.put(owner, look);
    begin.accept(
        look.work,
        found -> {
          looks.remove(owner);
          if (found != null) {
            done.accept(found);
          }
        });
  }

  private void answer(Object owner, Look look, Runnable with) {
    Platform.runLater(
        () -> {
          if (looks.get(owner) == look) {
            looks.remove(owner);
            with.run();
          }
        });
  }

  /** Gives up what an owner looks for: nobody is told. */
  public void stopLooking(Object owner) {
    Look l = looks.remove(owner);
    if (l != null) {
      l.work.cancel();
    }
  }

  /** Runs a main job; refused while another one runs. */
  public <T> void run(String jobTitle, Job<T> job, Consumer<T> done) {
    run(jobTitle, job, done, onFailure);
  }

  /** The same, with an own way to tell of a failure. */
  public <T> void run(String jobTitle, Job<T> job, Consumer<T> done, Consumer<Failure> failed) {
    if (running != null) {
      onFailure.accept(Failure.cannot(AppWords.of("common.is-still-running-wait-or", title)));
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
                  failed.accept(f);
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
    looks.values().forEach(l -> l.work.cancel());
    looking.shutdownNow();
  }
}
