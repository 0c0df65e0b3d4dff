package holotome.app.model;

import holotome.core.log.Effect;
import holotome.core.log.Entry;
import holotome.core.log.History;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import java.util.function.UnaryOperator;

/**
 * Edits of one kind made by hand: as long as the last entry is of that kind the next edits go into
 * it, so that a sitting is one entry, and undo takes back one after the other.
 *
 * @param <S> the step whose amount tells how many of its edits were made
 */
public final class Sitting<S extends Step> {
  private final Session session;
  private final Class<S> type;

  /** What was said when the last edit was made. */
  private String making;

  public Sitting(Session session, Class<S> type) {
    this.session = session;
    this.type = type;
  }

  /** The step that the next edits go into; null where they begin a new one. */
  public S last() {
    History h = session.history();
    if (h == null || h.size() == 0) {
      return null;
    }
    Entry e = h.lines().getLast().entry();
    return e.on() && type.isInstance(e.step()) ? type.cast(e.step()) : null;
  }

  /** Whether an edit is being made. */
  public boolean isMaking() {
    return making != null && session.jobs().isBusy() && making.equals(session.jobs().title());
  }

  /**
   * Makes one edit more.
   *
   * @param label what is said meanwhile
   * @param more the step with it, from the one before, which may be null
   */
  public void make(String label, UnaryOperator<S> more) {
    making = label;
    S last = last();
    S step = more.apply(last);
    int done = last == null ? 0 : session.history().lines().getLast().effect().amount();
    session.change(
        label,
        (h, run) -> {
          History next =
              last == null
                  ? h.apply(new Entry(step, true, null), run)
                  : h.revise(h.size() - 1, step, run);
          Effect effect = next.lines().getLast().effect();
          if (effect.amount() <= done) {
            throw Failure.cannot(effect.notes().getLast());
          }
          return next;
        });
  }
}
