package holotome.core.task;

import java.util.concurrent.atomic.AtomicLong;

/**
 * The progress of one running computation, and the way to cancel it.
 *
 * <p>The computation calls {@link #advance} and {@link #check}; a watcher on another thread polls
 * {@link #fraction}, {@link #label} and {@link #secondsLeft}. A part of a computation is handed a
 * {@link #part}, whose own 0 to 1 becomes a share of its parent's.
 */
public final class Work {
  private static final double SCALE = 1L << 40;

  private final Work parent;
  private final double share;
  private final AtomicLong done = new AtomicLong();
  private final long started = System.nanoTime();
  private volatile boolean cancelled;
  private volatile String label = "";
  private volatile Object offered;

  public Work() {
    this(null, 1);
  }

  private Work(Work parent, double share) {
    this.parent = parent;
    this.share = share;
  }

  /** Work that nobody watches. */
  public static Work unwatched() {
    return new Work();
  }

  /** A part that covers the given share (0 to 1) of this work, named for the watcher. */
  public Work part(double partShare, String partLabel) {
    check();
    setLabel(partLabel);
    return new Work(this, partShare);
  }

  public void setLabel(String text) {
    for (Work w = this; w != null; w = w.parent) {
      w.label = text;
    }
  }

  /**
   * Lets the watcher look at what is being made, while it is being made.
   *
   * @param made may change until the work is done
   */
  public void offer(Object made) {
    for (Work w = this; w != null; w = w.parent) {
      w.offered = made;
    }
  }

  /** What there is to look at meanwhile; null for nothing. */
  public Object offered() {
    return offered;
  }

  /** Adds a share (0 to 1) of this work to what is done; throws if the work was cancelled. */
  public void advance(double delta) {
    double d = delta;
    for (Work w = this; w != null; w = w.parent) {
      w.done.addAndGet((long) (d * SCALE));
      d *= w.share;
    }
    check();
  }

  /** Throws a {@link Failure} of kind CANCELLED once {@link #cancel} has been called. */
  public void check() {
    for (Work w = this; w != null; w = w.parent) {
      if (w.cancelled) {
        throw Failure.cancelled();
      }
    }
  }

  public void cancel() {
    cancelled = true;
  }

  public boolean isCancelled() {
    return cancelled;
  }

  /** How much is done, 0 to 1. */
  public double fraction() {
    return Math.min(1, done.get() / SCALE);
  }

  public String label() {
    return label;
  }

  public double secondsSoFar() {
    return (System.nanoTime() - started) * 1e-9;
  }

  /** Estimated seconds to go from the pace so far; NaN while there is nothing to go by. */
  public double secondsLeft() {
    double f = fraction();
    return f < 0.01 ? Double.NaN : secondsSoFar() * (1 - f) / f;
  }
}
