package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.log.Lines;
import holotome.core.part.Workpiece;

/**
 * The state that the work is compared with: the one that is looked back at, else the end of another
 * Trial, else the one before the last entry. It may have to be read back or made again, so it comes
 * later than it is asked for.
 */
final class StateBefore {
  private final Session session;
  private History of;
  private int after = -1;
  private Workpiece state;
  private String trial;

  StateBefore(Session session) {
    this.session = session;
  }

  /** Finds the state for the work as it is now, unless it is known. */
  void find(Runnable found) {
    int back = session.lookBack();
    Lines.Named beside = back >= 0 || !session.isOpen() ? null : session.trials().compared();
    trial = beside == null ? null : beside.name();
    History now = beside == null ? session.history() : beside.history();
    int wanted = now == null ? -1 : back >= 0 ? back : now.size() - (beside == null ? 1 : 0);
    wanted = now == null ? -1 : Math.max(0, wanted);
    if (now == of && wanted == after) {
      return;
    }
    int there = wanted;
    of = now;
    after = wanted;
    state = null;
    if (wanted >= 0) {
      session
          .jobs()
          .fetch(
              () -> now.stateAfter(there),
              s -> {
                if (of == now && after == there) {
                  state = s;
                  found.run();
                }
              });
    }
  }

  /** Null until it was found. */
  Workpiece state() {
    return session.partAtHand().seen(state);
  }

  /** What the work is called beside it. */
  String wordsNow() {
    return trial == null ? AppWords.of("space-pane.now") : session.trials().current();
  }

  /** What it is, in a word or two. */
  String words() {
    if (trial != null) {
      return trial;
    }
    return of == null || after < 0 || after >= of.size() - 1
        ? AppWords.of("state-before.before")
        : AppWords.of("state-before.after-step", after);
  }
}
