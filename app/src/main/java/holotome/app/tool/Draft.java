package holotome.app.tool;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.function.Consumer;

/**
 * What a tool has been given so far (corners, picked points, lengths), with an undo of its own: the
 * undo of the work takes a draft back step by step before it touches the Log. What comes of a draft
 * is one entry.
 *
 * @param <S> a state, which must not change once it was given
 */
public final class Draft<S> {
  /** So many steps can be undone. */
  private static final int KEPT = 500;

  private final S empty;
  private final Consumer<S> restored;
  private final Deque<S> undo = new ArrayDeque<>();
  private final Deque<S> redo = new ArrayDeque<>();
  private S now;

  /**
   * @param empty the state to begin with
   * @param restored takes a state over that was undone or redone
   */
  public Draft(S empty, Consumer<S> restored) {
    this.empty = empty;
    this.restored = restored;
    now = empty;
  }

  public S now() {
    return now;
  }

  /** Goes on to another state, as a step that can be undone; the same again is none. */
  public void set(S next) {
    if (next.equals(now)) {
      return;
    }
    undo.push(now);
    if (undo.size() > KEPT) {
      undo.removeLast();
    }
    redo.clear();
    now = next;
  }

  /** Changes the state within the same step, as while something is dragged. */
  public void change(S next) {
    now = next;
  }

  /** Begins anew: nothing can be undone. */
  public void clear() {
    begin(empty);
  }

  /** Begins anew with a state, as of an entry that is reopened. */
  public void begin(S with) {
    undo.clear();
    redo.clear();
    now = with;
  }

  public boolean canUndo() {
    return !undo.isEmpty();
  }

  public boolean canRedo() {
    return !redo.isEmpty();
  }

  public void undo() {
    go(undo, redo);
  }

  public void redo() {
    go(redo, undo);
  }

  private void go(Deque<S> from, Deque<S> to) {
    if (!from.isEmpty()) {
      to.push(now);
      now = from.pop();
      restored.accept(now);
    }
  }
}
