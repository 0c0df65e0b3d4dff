package holotome.core.memory;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.lang.ref.WeakReference;
import java.util.ArrayList;
import java.util.List;

/**
 * Memory that can be had back: parts of the program that keep what they could make again say so
 * here, and are asked to let it go before a computation is refused for want of memory. Any thread.
 */
public final class Spare {
  private static final List<WeakReference<Holder>> HOLDERS = new ArrayList<>();

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
   * What to throw where there is too little memory.
   *
   * @param what needs it
   * @param advice what to do about it, with what joins it to the sentence; empty for none
   */
  public static Failure lacking(String what, long bytes, String advice) {
    return new Failure(
        Failure.Kind.MEMORY,
        CoreWords.of("spare.needs-about-gb-of-memory", what, bytes / 1e9, free() / 1e9) + advice);
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
