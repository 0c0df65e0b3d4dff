package holotome.app.model;

import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.select.Reshape;
import holotome.core.task.Failure;
import holotome.core.trim.CutSelection;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Changes what is selected, as jobs; keeps selections under names. */
public final class Selecting {
  private final Session session;
  private final Map<String, List<Pick>> named = new LinkedHashMap<>();

  private CutSelection.Then then = CutSelection.Then.REMOVE;

  Selecting(Session session) {
    this.session = session;
  }

  /** What the tools that select do with the selection in the end. */
  public CutSelection.Then then() {
    return then;
  }

  public void setThen(CutSelection.Then next) {
    then = next;
  }

  /** Joins a pick to what is selected. */
  public void pick(Pick pick) {
    pickOn(session.selected(), pick);
  }

  /** Joins a pick to another selection than the present one, which it replaces; null for none. */
  public void pickOn(Selected before, Pick pick) {
    Workpiece on = session.current();
    session
        .jobs()
        .run(
            "Selecting",
            work -> new Answer(on, Selected.after(before, pick, on, work)),
            this::take);
    session.changed();
  }

  /** Joins a set of triangles to a selection; null for none. */
  public void pickOn(Selected before, Pick.Join join, BitSet set) {
    Workpiece on = session.current();
    int n = on.scan().triangleCount();
    session
        .jobs()
        .run(
            "Selecting",
            work -> new Answer(on, Selected.after(before, Pick.of(join, set, n), on, work)),
            this::take);
    session.changed();
  }

  private record Answer(Workpiece on, Selected selected) {}

  private void take(Answer a) {
    // Undone or applied meanwhile: the selection belongs to another state.
    if (session.current() == a.on) {
      session.select(a.selected);
    }
    session.measureIfIdle();
  }

  public void reshape(Reshape.How how, int times) {
    if (session.selected() != null || how == Reshape.How.INVERT) {
      pick(Pick.of(new Reshape(how, times)));
    }
  }

  /** The names in the order they were given. */
  public List<String> names() {
    return List.copyOf(named.keySet());
  }

  Map<String, List<Pick>> named() {
    return named;
  }

  /** Keeps what is selected under a name, in place of what had it. */
  public void store(String name) {
    if (session.selected() == null) {
      session.fail(Failure.cannot("Nothing is selected that could be kept"));
      return;
    }
    if (name.isBlank()) {
      session.fail(Failure.cannot("A selection is kept under a name; type one"));
      return;
    }
    named.put(name.strip(), session.selected().picks());
    session.keep("Kept the selection as \"" + name.strip() + "\"");
  }

  public void forget(String name) {
    if (named.remove(name) != null) {
      session.keep("Forgot the selection \"" + name + "\"");
    }
  }

  /** Selects what is kept under a name; by geometry where it was selected so. */
  public void recall(String name, Pick.Join join) {
    List<Pick> picks = named.get(name);
    if (picks == null) {
      return;
    }
    Workpiece on = session.current();
    Selected before = join == Pick.Join.REPLACE ? null : session.selected();
    session
        .jobs()
        .run(
            "Selecting",
            work -> {
              BitSet set = Pick.all(picks, on.scan(), on.frame(), work.part(0.9, "Selecting"));
              if (before == null) {
                return new Answer(on, Selected.of(picks, set, on.scan(), on.frame()));
              }
              Pick joined = Pick.of(join, set, on.scan().triangleCount());
              return new Answer(on, Selected.after(before, joined, on, work));
            },
            this::take);
    session.changed();
  }

  /** Takes over what a project has kept. */
  void load(Map<String, List<Pick>> kept) {
    named.clear();
    kept.forEach((name, picks) -> named.put(name, new ArrayList<>(picks)));
  }
}
