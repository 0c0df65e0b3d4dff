package holotome.core.task;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;

/**
 * Data-parallel loops on one shared pool.
 *
 * <p>A range is split into chunks whose bounds depend on the range and the grain alone, never on
 * the number of threads; a computation that writes per element or per chunk therefore gives the
 * same result on any machine. Loops may be nested: an inner loop runs on whoever calls it when the
 * pool is busy.
 */
public final class Parallel {
  private static final int CORES = Runtime.getRuntime().availableProcessors();
  private static final ExecutorService POOL =
      Executors.newFixedThreadPool(
          Math.max(1, CORES),
          r -> {
            Thread t = new Thread(r, "holotome-worker");
            t.setDaemon(true);
            return t;
          });
  private static volatile int limit = CORES;

  private Parallel() {}

  /** A body that handles the elements from (inclusive) to (exclusive). */
  @FunctionalInterface
  public interface Range {
    void run(int from, int to);
  }

  /** A body that also learns which chunk it handles. */
  @FunctionalInterface
  public interface Chunk {
    void run(int chunk, int from, int to);
  }

  /** Threads in use. */
  public static int threads() {
    return limit;
  }

  /** Bounds the threads in use, for the whole process; 1 runs everything on the caller. */
  public static void limitThreads(int threads) {
    limit = Math.max(1, Math.min(threads, CORES));
  }

  public static int chunks(int count, int grain) {
    return (int) (((long) count + grain - 1) / grain);
  }

  public static void range(int count, int grain, Work work, Range body) {
    chunked(count, grain, work, (c, from, to) -> body.run(from, to));
  }

  /**
   * Runs the body over chunks of {@code grain} elements, advancing {@code work} by 1 in all. The
   * first failure of any chunk stops the rest and is thrown here.
   */
  public static void chunked(int count, int grain, Work work, Chunk body) {
    int chunks = chunks(count, grain);
    if (chunks == 0) {
      return;
    }
    AtomicInteger next = new AtomicInteger();
    AtomicReference<Throwable> failed = new AtomicReference<>();
    Runnable loop =
        () -> {
          int c;
          while (failed.get() == null && (c = next.getAndIncrement()) < chunks) {
            try {
              work.check();
              int from = c * grain;
              body.run(c, from, (int) Math.min(count, (long) from + grain));
              work.advance(1.0 / chunks);
            } catch (RuntimeException | Error e) {
              failed.compareAndSet(null, e);
            }
          }
        };
    int helpers = Math.min(limit, chunks) - 1;
    Helper[] running = new Helper[Math.max(0, helpers)];
    for (int i = 0; i < helpers; i++) {
      running[i] = new Helper(loop);
      POOL.execute(running[i]);
    }
    loop.run();
    for (Helper helper : running) {
      helper.finish();
    }
    Throwable t = failed.get();
    if (t instanceof Error e) {
      throw e;
    }
    if (t != null) {
      throw (RuntimeException) t;
    }
  }

  /**
   * A loop offered to the pool. If the pool has not begun it by the time the caller is through,
   * there is nothing left to do and it is withdrawn; that is what keeps nested loops from waiting
   * on a full pool.
   */
  private static final class Helper implements Runnable {
    private final Runnable loop;
    private final AtomicInteger state = new AtomicInteger();
    private final CountDownLatch ended = new CountDownLatch(1);

    Helper(Runnable loop) {
      this.loop = loop;
    }

    @Override
    public void run() {
      if (state.compareAndSet(0, 1)) {
        try {
          loop.run();
        } finally {
          ended.countDown();
        }
      }
    }

    void finish() {
      if (state.compareAndSet(0, 2)) {
        return;
      }
      boolean interrupted = false;
      while (ended.getCount() > 0) {
        try {
          ended.await();
        } catch (InterruptedException e) {
          interrupted = true;
        }
      }
      if (interrupted) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
