package holotome.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import holotome.core.task.Work;
import java.util.Map;
import java.util.concurrent.Callable;

/**
 * What commands share: JSON to standard output, progress to standard error, cancel by interrupt.
 */
final class Console {
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  private Console() {}

  static void json(Map<String, ?> values) {
    try {
      System.out.println(JSON.writeValueAsString(values));
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
  }

  /** JSON has no NaN: null stands for what could not be measured. */
  static Object finite(double x) {
    return Double.isFinite(x) ? x : null;
  }

  /** A job that is told of its progress and can be cancelled. */
  interface Job<T> {
    T run(Work work) throws Exception;
  }

  /** Runs a job; a progress line is kept up where standard error is a terminal. */
  static <T> T watched(Job<T> job) throws Exception {
    Work work = new Work();
    Thread main = Thread.currentThread();
    Thread hook =
        new Thread(
            () -> {
              work.cancel();
              try {
                // Time to take back what is half written.
                main.join(2000);
              } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
              }
            });
    Runtime.getRuntime().addShutdownHook(hook);
    Thread watcher =
        System.console() == null ? null : Thread.ofPlatform().daemon().start(() -> watch(work));
    try {
      Callable<T> call = () -> job.run(work);
      return call.call();
    } finally {
      if (watcher != null) {
        watcher.interrupt();
        System.err.print("\r\u001b[K");
      }
      try {
        Runtime.getRuntime().removeShutdownHook(hook);
      } catch (IllegalStateException e) {
        // Already shutting down: the hook is what brought us here. The JVM waits in it for this
        // thread, which must not call exit again; the failure's own code is what counts.
        Runtime.getRuntime().halt(130);
      }
    }
  }

  private static void watch(Work work) {
    try {
      while (true) {
        Thread.sleep(200);
        double left = work.secondsLeft();
        String estimate =
            Double.isNaN(left) || work.secondsSoFar() < 1
                ? ""
                : String.format(", %.0f s left", left);
        System.err.printf(
            "\r\u001b[K%3.0f %%  %s%s", 100 * work.fraction(), work.label(), estimate);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
