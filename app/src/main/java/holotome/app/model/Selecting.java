package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.part.Workpiece;
import holotome.core.select.CutOff;
import holotome.core.select.Pick;
import holotome.core.select.Reshape;
import holotome.core.select.Rule;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.trim.CutSelection;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Changes what is selected, as jobs; keeps selections under names. */
public final class Selecting {
  private final Session session;
  private final Map<String, List<Pick>> named = new LinkedHashMap<>();

  private CutSelection.Then then = CutSelection.Then.REMOVE;
  private boolean takesAlong = true;
  private int takenAlong;

  /** A change of the selection is being computed; what is asked meanwhile waits in turn. */
  private boolean running;

  private final Deque<Runnable> waiting = new ArrayDeque<>();

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

  /** Whether what a visible selection would leave cut off inside its outline goes along. */
  public boolean takesAlong() {
    return takesAlong;
  }

  public void setTakesAlong(boolean on) {
    takesAlong = on;
  }

  /** How many triangles the last visible selection took along, hidden as they were. */
  public int takenAlong() {
    return takenAlong;
  }

  /** Joins a pick to what is selected. */
  public void pick(Pick pick) {
    pickOn(session.selected(), pick);
  }

  /** Joins a pick to another selection than the present one, which it replaces; null for none. */
  public void pickOn(Selected before, Pick pick) {
    run(before, (from, on, work) -> new Answer(on, Selected.after(from, pick, on, work), 0));
  }

  /** Selects a set of triangles of a state, if that is still the one at hand. */
  public void replace(Workpiece asked, BitSet set) {
    if (session.current() == asked) {
      pickOn(null, Pick.of(Pick.Join.REPLACE, set, asked.scan().triangleCount()));
    }
  }

  /**
   * Joins what is seen within an outline to a selection; null for none.
   *
   * @param asked the state that was looked at: on any other the set means nothing
   * @param outline the outline all the way through
   */
  public void pickSeen(Workpiece asked, Selected before, Pick.Join join, BitSet set, Rule outline) {
    if (session.current() != asked) {
      return;
    }
    boolean along = takesAlong && then == CutSelection.Then.REMOVE;
    boolean grows = join == Pick.Join.REPLACE || join == Pick.Join.ADD;
    run(
        before,
        (from, on, work) -> {
          BitSet seen = set;
          int more = 0;
          if (along) {
            BitSet removed = (BitSet) set.clone();
            if (join == Pick.Join.ADD && from != null) {
              removed.or(from.set());
            }
            BitSet through =
                outline.select(
                    on.scan(),
                    on.frame(),
                    work.part(0.3, AppWords.of("selecting.finding-what-is-cut-off")));
            BitSet cut =
                CutOff.of(
                    on.scan(),
                    removed,
                    through,
                    work.part(0.3, AppWords.of("selecting.finding-what-is-cut-off")));
            more = grows ? cut.cardinality() : 0;
            seen = (BitSet) set.clone();
            seen.or(cut);
          }
          Pick pick = Pick.of(join, seen, on.scan().triangleCount());
          return new Answer(on, Selected.after(from, pick, on, work), more);
        });
  }

  /** What is selected next, from what is selected before. */
  @FunctionalInterface
  private interface Change {
    Answer make(Selected from, Workpiece on, Work work);
  }

  /** Runs a change, or has it wait behind the one that is running: none is lost. */
  private void run(Selected before, Change change) {
    if (running) {
      Selected latest = session.selected();
      waiting.add(() -> run(before == latest ? session.selected() : before, change));
      return;
    }
    if (session.jobs().isBusy()) {
      session.fail(
          Failure.cannot(AppWords.of("common.is-still-running-wait-or", session.jobs().title())));
      return;
    }
    Workpiece on = session.current();
    running = true;
    session
        .jobs()
        .run(
            AppWords.of("common.selecting"),
            work -> change.make(before, on, work),
            this::take,
            f -> {
              running = false;
              waiting.clear();
              session.fail(f);
            });
    session.changed();
  }

  private record Answer(Workpiece on, Selected selected, int along) {}

  private void take(Answer a) {
    running = false;
    // Undone or applied meanwhile: the selection belongs to another state.
    if (session.current() == a.on) {
      takenAlong = a.along;
      session.select(a.selected);
    } else {
      waiting.clear();
    }
    Runnable following = waiting.poll();
    if (following != null) {
      following.run();
    } else {
      session.measureIfIdle();
    }
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
      session.fail(Failure.cannot(AppWords.of("selecting.nothing-is-selected-that-could")));
      return;
    }
    if (name.isBlank()) {
      session.fail(Failure.cannot(AppWords.of("selecting.a-selection-is-kept-under")));
      return;
    }
    named.put(name.strip(), session.selected().picks());
    session.keep(AppWords.of("selecting.kept-the-selection-as", name.strip()));
  }

  public void forget(String name) {
    if (named.remove(name) != null) {
      session.keep(AppWords.of("selecting.forgot-the-selection", name));
    }
  }

  /** Selects what is kept under a name; by geometry where it was selected so. */
  public void recall(String name, Pick.Join join) {
    List<Pick> picks = named.get(name);
    if (picks == null) {
      return;
    }
    Selected before = join == Pick.Join.REPLACE ? null : session.selected();
    run(
        before,
        (from, on, work) -> {
          BitSet set =
              Pick.all(
                  picks, on.scan(), on.frame(), work.part(0.9, AppWords.of("common.selecting")));
          if (from == null) {
            return new Answer(on, Selected.of(picks, set, on.scan(), on.frame()), 0);
          }
          Pick joined = Pick.of(join, set, on.scan().triangleCount());
          return new Answer(on, Selected.after(from, joined, on, work), 0);
        });
  }

  /** Takes over what a project has kept. */
  void load(Map<String, List<Pick>> kept) {
    named.clear();
    kept.forEach((name, picks) -> named.put(name, new ArrayList<>(picks)));
  }
}
