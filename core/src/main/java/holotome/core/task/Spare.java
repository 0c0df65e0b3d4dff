package holotome.core.task;

import java.lang.ref.WeakReference;
import java.util.ArrayList;
import java.util.List;

/**
 * Memory that can be had back: parts of the program that keep what they could make again say so
 * here, and are asked to let it go before a computation is refused for want of memory. Any thread.
 */
public final class Spare {
  private static final List<WeakReference<Holder>> HOLDERS = new ArrayList<>();

  /** Between looks at what is free, in milliseconds: each may cost a collection. */
  private static final long PAUSE = 3000;

  /** Between looks at whose turn it is, in milliseconds. */
  private static final long TURN = 50;

  /** So few bytes are there for the asking: nobody waits for them. */
  private static final long SMALL = 16 << 20;

  /** Those at work, then those who wait, in their order; guards itself. */
  private static final List<Claim> CLAIMS = new ArrayList<>();

  private Spare() {}

  /** Keeps what it could make again. */
  @FunctionalInterface
  public interface Holder {
    /** Lets go of it; may be called by any thread while the holder is in use. */
    void letGo();
  }

  /** Makes a holder known, for as long as something else refers to it. */
  public static synchronized void add(Holder holder) {
    HOLDERS.removeIf(r -> r.get() == null);
    HOLDERS.add(new WeakReference<>(holder));
  }

  /** Bytes that are free, as far as is known: garbage not collected yet counts as used. */
  public static long free() {
    Runtime r = Runtime.getRuntime();
    return r.maxMemory() - (r.totalMemory() - r.freeMemory());
  }

  /**
   * Sees to it that so much is free, if it can be: collects garbage, then has all holders let go.
   * Costs a second or so for each gigabyte in use when memory is short, else nothing.
   *
   * @return the bytes that are free now; less than asked for where there is no more
   */
  public static long makeRoom(long bytes) {
    long free = free();
    if (free >= bytes) {
      return free;
    }
    System.gc();
    if (free() >= bytes) {
      return free();
    }
    holders().forEach(Holder::letGo);
    System.gc();
    return free();
  }

  /**
   * Takes a place in the queue for memory, behind all others. Large computations that would not fit
   * beside each other run one after the other then, in the order of their claims.
   *
   * @param bytes a forecast of what the computation takes at most
   */
  public static Claim claim(long bytes) {
    Claim c = new Claim(bytes);
    synchronized (CLAIMS) {
      CLAIMS.add(c);
    }
    return c;
  }

  /** As {@link #claim}, but ahead of all who still wait: for what the user waits for. */
  public static Claim urgentClaim(long bytes) {
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

  /** A place in the queue for memory, given up by closing it. Any thread. */
  public static final class Claim implements AutoCloseable {
    private final long bytes;
    private boolean begun;

    private Claim(long bytes) {
      this.bytes = bytes;
    }

    /**
     * Waits for this one's turn: until it fits beside what others were promised, or no other is at
     * work. Then has memory let go where need be, and waits for it; throws a Failure once the work
     * is cancelled.
     *
     * @param seconds how long to wait at most once it is alone
     * @return whether so much is free
     */
    public boolean await(double seconds, Work work) {
      if (!isAlone(work)) {
        return true;
      }
      long begin = System.nanoTime();
      while (makeRoom(bytes) < bytes) {
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
        throw new Failure(
            Failure.Kind.MEMORY,
            String.format(
                "%s needs about %.1f GB of memory, %.1f GB are free",
                what, bytes / 1e9, free() / 1e9));
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
          if (first || isNext() && free() - promised() >= bytes) {
            begun = true;
            return first;
          }
        }
        work.setLabel("Waiting for memory");
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

  private static synchronized List<Holder> holders() {
    List<Holder> out = new ArrayList<>();
    for (WeakReference<Holder> r : HOLDERS) {
      Holder h = r.get();
      if (h != null) {
        out.add(h);
      }
    }
    return out;
  }
}
