package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.log.Effect;
import holotome.core.log.Entry;
import holotome.core.log.History;
import holotome.core.mend.Edit;
import holotome.core.mend.EditMesh;
import holotome.core.task.Failure;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;

/**
 * Edits by hand: as long as the last entry is one of edits the next ones go into it, so that a
 * sitting is one entry, and undo takes back one after the other.
 */
public final class HandEditing {
  private final Session session;

  public HandEditing(Session session) {
    this.session = session;
  }

  /** The edits of the entry that the next ones go into; empty for a new one. */
  public List<Edit> edits() {
    EditMesh last = last();
    return last == null ? List.of() : last.edits();
  }

  private EditMesh last() {
    History h = session.history();
    if (h == null || h.size() == 0) {
      return null;
    }
    Entry e = h.lines().getLast().entry();
    return e.on()
            && e.step() instanceof EditMesh m
            && Objects.equals(e.part(), session.partAtHand().entry(m).part())
        ? m
        : null;
  }

  /** Makes edits, all of them or none. */
  public void make(List<Edit> more) {
    EditMesh last = last();
    EditMesh step = last == null ? new EditMesh(more) : last.with(more);
    int done = last == null ? 0 : session.history().lines().getLast().effect().amount();
    Entry entry = session.partAtHand().entry(step);
    session.change(
        AppWords.of("hand-editing.editing"),
        (h, run) -> {
          History next = last == null ? h.apply(entry, run) : h.revise(h.size() - 1, step, run);
          Effect effect = next.lines().getLast().effect();
          if (effect.amount() < done + more.size()) {
            throw Failure.cannot(effect.notes().getLast());
          }
          return next;
        });
  }

  /** Takes one edit out of the entry; those after it are made without it. */
  public void takeOut(int index) {
    List<Edit> left = new ArrayList<>(edits());
    left.remove(index);
    session.change(
        AppWords.of("hand-editing.editing"),
        (h, run) ->
            left.isEmpty()
                ? h.remove(h.size() - 1, run)
                : h.revise(h.size() - 1, new EditMesh(left), run));
  }
}
