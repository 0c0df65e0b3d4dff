package holotome.core.memory;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * A place in the queue for memory, given up by closing it. Any thread. Large computations that
 * would not fit beside each other run one after the other, in the order of their claims; the memory
 * that others keep but could do without is asked back first (see {@link Spare}).
 */
public final class Claim implements AutoCloseable {
  /** Between looks at what is free, in milliseconds: each may cost a collection. */
  private static final long PAUSE = 3000;

  /** Between looks at whose turn it is, in milliseconds. */
  private static final long TURN = 50;

  /** So few bytes are there for the asking: nobody waits for them. */
  private static final long SMALL = 16 << 20;

  /** Those at work, then those who wait, in their order; guards itself. */
  private static final List<Claim> CLAIMS = new ArrayList<>();

  private final long bytes;
  private boolean begun;

  private Claim(long bytes) {
    this.bytes = bytes;
  }

  /**
   * Takes a place in the queue for memory, behind all others. Large computations that would not fit
   * beside each other run one after the other then, in the order of their claims.
   *
   * @param bytes a forecast of what the computation takes at most
   */
  public static Claim of(long bytes) {
    Claim c = new Claim(bytes);
    synchronized (CLAIMS) {
      CLAIMS.add(c);
    }
    return c;
  }

  /** As {@link #of}, but ahead of all who still wait: for what the user waits for. */
  public static Claim urgent(long bytes) {
    Claim c = new Claim(bytes);
    synchronized (CLAIMS) {
      int at = 0;
      while (at < CLAIMS.size() && CLAIMS.get(at).begun) {
        at++;
      }
      CLAIMS.add(at, c);
    }
    return c;
  }

  /**
   * Waits for this one's turn: until it fits beside what others were promised, or no other is at
   * work. Then has memory let go where need be, and waits for it; throws a Failure once the work is
   * cancelled.
   *
   * @param seconds how long to wait at most once it is alone
   * @return whether so much is free
   */
  public boolean await(double seconds, Work work) {
    if (!isAlone(work)) {
      return true;
    }
    long begin = System.nanoTime();
    while (Spare.makeRoom(bytes) < bytes) {
      if ((System.nanoTime() - begin) * 1e-9 >= seconds) {
        return false;
      }
      pause(PAUSE, work);
    }
    return true;
  }

  /** As {@link #await}, but throws a Failure that says so where there is not so much. */
  public void require(double seconds, String what, Work work) {
    if (!await(seconds, work)) {
      throw Spare.lacking(what, bytes, "");
    }
  }

  /** Waits for the turn; false where it came without being alone, because all fit. */
  private boolean isAlone(Work work) {
    boolean collected = false;
    while (true) {
      synchronized (CLAIMS) {
        if (!CLAIMS.contains(this)) {
          // Given up by another thread: what it was for is no longer wanted.
          throw Failure.cancelled();
        }
        if (bytes <= SMALL) {
          CLAIMS.remove(this);
          return false;
        }
        boolean first = CLAIMS.getFirst() == this;
        if (first || isNext() && Spare.free() - promised() >= bytes) {
          begun = true;
          return first;
        }
      }
      work.setLabel(CoreWords.of("work.waiting-for-memory"));
      if (!collected && isNext()) {
        // What is garbage counts as used until it is collected: once, it costs a while.
        System.gc();
        collected = true;
      } else {
        pause(TURN, work);
      }
    }
  }

  private boolean isNext() {
    synchronized (CLAIMS) {
      int at = CLAIMS.indexOf(this);
      return at == 0 || at > 0 && CLAIMS.get(at - 1).begun;
    }
  }

  /** What those at work may still take, as far as is known. */
  private long promised() {
    return CLAIMS.stream().filter(c -> c.begun).mapToLong(c -> c.bytes).sum();
  }

  @Override
  public void close() {
    synchronized (CLAIMS) {
      CLAIMS.remove(this);
    }
  }

  private static void pause(long milliseconds, Work work) {
    work.check();
    try {
      Thread.sleep(milliseconds);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Failure.cancelled();
    }
  }
}
