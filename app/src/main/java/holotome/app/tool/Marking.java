package holotome.app.tool;

import holotome.app.model.Session;
import java.util.BitSet;
import java.util.function.Supplier;

/**
 * Triangles that a tool marks in the view, worked out in the background; the newest wish counts.
 */
final class Marking {
  private final Session session;
  private BitSet set;
  private int wish;

  Marking(Session session) {
    this.session = session;
  }

  BitSet set() {
    return set;
  }

  void clear() {
    wish++;
    set = null;
  }

  /** Works a set out, then has the view drawn with it. */
  void ask(Supplier<BitSet> what, Runnable redraw) {
    int mine = ++wish;
    session
        .jobs()
        .fetch(
            () -> mine == wish ? what.get() : null,
            answer -> {
              if (mine == wish) {
                set = answer == null || answer.isEmpty() ? null : answer;
                redraw.run();
              }
            });
  }
}
