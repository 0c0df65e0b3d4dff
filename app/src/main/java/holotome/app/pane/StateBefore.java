package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;

/**
 * The state that the work is compared with: the one that is looked back at, else the one before the
 * last entry. It may have to be read back or made again, so it comes later than it is asked for.
 */
final class StateBefore {
  private final Session session;
  private History of;
  private int after = -1;
  private Workpiece state;

  StateBefore(Session session) {
    this.session = session;
  }

  /** Finds the state for the work as it is now, unless it is known. */
  void find(Runnable found) {
    History now = session.history();
    int back = session.lookBack();
    int wanted = now == null ? -1 : back >= 0 ? back : Math.max(0, now.size() - 1);
    if (now == of && wanted == after) {
      return;
    }
    of = now;
    after = wanted;
    state = null;
    if (wanted >= 0) {
      session
          .jobs()
          .fetch(
              () -> now.stateAfter(wanted),
              s -> {
                if (of == now && after == wanted) {
                  state = s;
                  found.run();
                }
              });
    }
  }

  /** Null until it was found. */
  Workpiece state() {
    return state;
  }

  /** What it is, in a word or two. */
  String words() {
    return of == null || after < 0 || after >= of.size() - 1
        ? AppWords.of("state-before.before")
        : AppWords.of("state-before.after-step", after);
  }
}
