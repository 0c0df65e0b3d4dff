package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.log.Lines;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import java.util.List;
import java.util.Map;
import java.util.WeakHashMap;

/**
 * The ways of doing the work that stand side by side. One is the current one; beginning another,
 * taking one up, renaming and dropping are undone like entries.
 */
public final class Trials {
  private final Session session;
  private String compared;

  /** What was measured of those whose page was looked at. */
  private final Map<History, TrialFigures> figures = new WeakHashMap<>();

  Trials(Session session) {
    this.session = session;
  }

  /**
   * All of them in the order they were begun; one alone, without a name, where there is no other.
   */
  public List<Lines.Named> all() {
    return session.isOpen() ? session.lines().all() : List.of();
  }

  public boolean areSeveral() {
    return all().size() > 1;
  }

  public String current() {
    return session.lines().current().name();
  }

  /** Those beside the current one. */
  public List<Lines.Named> others() {
    return all().stream().filter(l -> !l.name().equals(current())).toList();
  }

  /** How many entries a Trial shares with the current one. */
  public int shared(String name) {
    return session.lines().shared(name);
  }

  /** Begins another after the entry that is looked back at, else after the last; takes it up. */
  public void begin() {
    if (!mayChange()) {
      return;
    }
    int back = session.lookBack();
    int entries = back >= 0 ? back : session.history().size();
    Lines from = session.lines();
    if (!areSeveral()) {
      from = from.renamed(current(), AppWords.of("trials.nth", 1));
    }
    compared = from.current().name();
    session.move(from.part(free(from), entries), session.selected());
  }

  private static String free(Lines of) {
    for (int n = of.all().size() + 1; ; n++) {
      String name = AppWords.of("trials.nth", n);
      if (of.all().stream().noneMatch(l -> l.name().equals(name))) {
        return name;
      }
    }
  }

  /** Takes another up; one from a file runs first. */
  public void take(String name) {
    if (!mayChange() || name.equals(current())) {
      return;
    }
    Lines from = session.lines();
    Lines.Named line = from.named(name);
    String left = current();
    if (line.ahead().isEmpty()) {
      compared = left;
      session.move(from.take(name), null);
      return;
    }
    session
        .jobs()
        .run(
            AppWords.of("trials.running", name),
            work -> {
              Lines.Named run = line.run(new Run(work, null));
              Session.measured(run.history());
              return run;
            },
            run -> {
              compared = left;
              session.move(from.take(run), null);
            });
    session.changed();
  }

  /** Takes the next one up. */
  public void next() {
    List<Lines.Named> all = all();
    if (areSeveral()) {
      take(all.get((all.indexOf(session.lines().current()) + 1) % all.size()).name());
    }
  }

  /** Drops one; of the current one, the one before it is taken up. */
  public void drop(String name) {
    if (!mayChange() || !areSeveral()) {
      return;
    }
    Lines left = session.lines().drop(name);
    if (left.current().ahead().isEmpty()) {
      session.move(left, name.equals(current()) ? null : session.selected());
      return;
    }
    session
        .jobs()
        .run(
            AppWords.of("trials.running", left.current().name()),
            work -> left.take(left.current().run(new Run(work, null))),
            next -> session.move(next, null));
    session.changed();
  }

  /** Gives one another name. */
  public void rename(String name, String next) {
    if (next.isBlank() || next.strip().equals(name) || !mayChange()) {
      return;
    }
    try {
      Lines renamed = session.lines().renamed(name, next.strip());
      if (name.equals(compared)) {
        compared = next.strip();
      }
      session.move(renamed, session.selected());
    } catch (Failure f) {
      session.fail(f);
    }
  }

  /** The one that the current one is compared with by the line across the view; null for none. */
  public Lines.Named compared() {
    if (!areSeveral()) {
      return null;
    }
    for (Lines.Named l : others()) {
      if (l.name().equals(compared) && l.ahead().isEmpty()) {
        return l;
      }
    }
    return others().stream().filter(l -> l.ahead().isEmpty()).findFirst().orElse(null);
  }

  /** Compares the current one with another from now on. */
  public void compare(String name) {
    compared = name;
    session.changed();
  }

  /** What one comes to at its end; null where that is not known yet, or it did not run. */
  public TrialFigures figures(Lines.Named line) {
    return figures.get(line.history());
  }

  /** Measures what is not known yet of those that ran. */
  public void measure() {
    for (Lines.Named l : all()) {
      History h = l.history();
      if (l.ahead().isEmpty() && !figures.containsKey(h)) {
        session
            .jobs()
            .look(
                this,
                AppWords.of("trials.measuring", l.name()),
                work -> TrialFigures.of(h, work),
                found -> {
                  figures.put(h, found);
                  session.changed();
                },
                f -> session.changed());
        return;
      }
    }
  }

  private boolean mayChange() {
    if (session.jobs().isBusy()) {
      session.fail(
          Failure.cannot(AppWords.of("common.is-still-running-wait-or", session.jobs().title())));
      return false;
    }
    return session.isOpen();
  }
}
