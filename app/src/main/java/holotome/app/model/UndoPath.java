package holotome.app.model;

import holotome.core.log.History;
import holotome.core.log.Lines;
import java.util.ArrayDeque;
import java.util.Deque;

/** What undo and redo come back to: the Log and what is selected, moment by moment. */
final class UndoPath {

  /** So many changes of the selection since the last entry can be undone. */
  private static final int KEPT_SELECTIONS = 40;

  private final Deque<Moment> undo = new ArrayDeque<>();
  private final Deque<Moment> redo = new ArrayDeque<>();

  /** A state to come back to. */
  record Moment(Lines lines, Selected selected) {
    History history() {
      return lines.current().history();
    }
  }

  void clear() {
    undo.clear();
    redo.clear();
  }

  /** Goes on from a moment to something new. */
  void leave(Moment m) {
    undo.push(m);
    redo.clear();
    forgetOldSelections(m.history());
  }

  private void forgetOldSelections(History now) {
    long of = undo.stream().filter(m -> m.history() == now).count();
    if (of > KEPT_SELECTIONS) {
      Moment oldest = null;
      for (Moment m : undo) {
        oldest = m.history() == now ? m : oldest;
      }
      undo.removeLastOccurrence(oldest);
    }
  }

  boolean canGo(boolean back) {
    return !(back ? undo : redo).isEmpty();
  }

  /** The moment that undo, or redo, leads to. */
  Moment next(boolean back) {
    return (back ? undo : redo).peek();
  }

  /** Goes there from a moment, which the other way leads to then. */
  void go(boolean back, Moment from) {
    (back ? undo : redo).pop();
    (back ? redo : undo).push(from);
  }
}
