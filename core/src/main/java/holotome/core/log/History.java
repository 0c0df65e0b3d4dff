package holotome.core.log;

import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * A Log with the state after each entry: an immutable value. Every change makes a new History that
 * shares the states before the change, so going back is keeping the old value.
 */
public final class History {
  private final Checkpoints checkpoints;

  /** The source, then the state after each line. */
  private final List<Checkpoint> states;

  private final List<Line> lines;

  /** An entry with what it led to. */
  public record Line(Entry entry, Effect effect) {}

  private History(Checkpoints checkpoints, List<Checkpoint> states, List<Line> lines) {
    this.checkpoints = checkpoints;
    this.states = List.copyOf(states);
    this.lines = List.copyOf(lines);
  }

  public static History of(Workpiece source, Checkpoints checkpoints) {
    return new History(checkpoints, List.of(checkpoints.keep(source)), List.of());
  }

  public List<Line> lines() {
    return lines;
  }

  public int size() {
    return lines.size();
  }

  public List<Entry> entries() {
    return lines.stream().map(Line::entry).toList();
  }

  /** The state after so many entries; 0 is the source. */
  public Workpiece stateAfter(int entries) {
    return states.get(entries).get();
  }

  /**
   * The state after so many entries where it is in memory; null where it takes a moment to read.
   */
  public Workpiece atHand(int entries) {
    return states.get(entries).atHand();
  }

  /** The History of the first entries, sharing all of it. */
  public History first(int entries) {
    return new History(checkpoints, states.subList(0, entries + 1), lines.subList(0, entries));
  }

  public Workpiece current() {
    return stateAfter(lines.size());
  }

  /** Adds a step at the end. */
  public History apply(Step step, Run run) {
    return apply(Entry.of(step), run);
  }

  /** Adds an entry at the end. */
  public History apply(Entry entry, Run run) {
    return with(lines.size(), List.of(new Next(entry, NONE)), run);
  }

  /**
   * Puts another step in place of an entry's; of those that follow, what depends on it runs again.
   */
  public History revise(int index, Step step, Run run) {
    return with(index, changed(index, lines.get(index).entry().with(step)), run);
  }

  /** Switches an entry on or off; of those that follow, what depends on it runs again. */
  public History setOn(int index, boolean on, Run run) {
    return with(index, changed(index, lines.get(index).entry().switched(on)), run);
  }

  /** Takes an entry out; of those that follow, what depends on it runs again. */
  public History remove(int index, Run run) {
    return with(index, following(index + 1), run);
  }

  /** Replays entries after the end. */
  public History replay(List<Entry> entries, Run run) {
    return with(lines.size(), entries.stream().map(e -> new Next(e, NONE)).toList(), run);
  }

  private static final int NONE = -1;

  /**
   * An entry to come.
   *
   * @param was its line before, where it was run with the same parameters; {@link #NONE} for none
   */
  private record Next(Entry entry, int was) {}

  private List<Next> changed(int index, Entry entry) {
    List<Next> all = new ArrayList<>(List.of(new Next(entry, NONE)));
    all.addAll(following(index + 1));
    return all;
  }

  private List<Next> following(int from) {
    List<Next> out = new ArrayList<>();
    for (int i = from; i < lines.size(); i++) {
      out.add(new Next(lines.get(i).entry(), i));
    }
    return out;
  }

  /** Keeps the first {@code keep} lines and runs the entries after them. */
  private History with(int keep, List<Next> entries, Run run) {
    List<Line> out = new ArrayList<>(lines.subList(0, keep));
    List<Checkpoint> after = new ArrayList<>(states.subList(0, keep + 1));
    for (Next n : entries) {
      Checkpoint before = after.getLast();
      Line known = known(n, before, run);
      if (known != null) {
        Checkpoint then = before.with(LogRun.writes(n.entry), states.get(n.was + 1));
        out.add(new Line(n.entry, known.effect().in(then.frame())));
        after.add(then);
        run.work().advance(1.0 / entries.size());
        continue;
      }
      Workpiece at = before.get();
      if (!n.entry.on()) {
        out.add(
            new Line(
                n.entry, Effect.of(at, Outcome.of(at, CoreWords.of("history.switched-off")), 0)));
        after.add(before);
        continue;
      }
      if (n.entry.step().writesFiles() && run.out() == null) {
        out.add(
            new Line(
                n.entry,
                Effect.of(
                    at, Outcome.of(at, CoreWords.of("history.not-written-while-trying")), 0)));
        after.add(before);
        continue;
      }
      long start = System.nanoTime();
      Run part = new Run(run.work().part(1.0 / entries.size(), ""), run.out());
      Outcome outcome = LogRun.apply(n.entry, at, part);
      double seconds = (System.nanoTime() - start) * 1e-9;
      out.add(new Line(n.entry, Effect.of(at, outcome, seconds)));
      after.add(checkpoints.keep(outcome.work()));
    }
    return new History(checkpoints, after, out);
  }

  /**
   * The line that an entry led to before, where it would lead to the same again: it was run on the
   * very parts it looks at. Null where it must run.
   */
  private Line known(Next n, Checkpoint before, Run run) {
    if (n.was == NONE || !n.entry.on() || n.entry.step().writesFiles() && run.out() != null) {
      return null;
    }
    return before.hasSame(LogRun.reads(n.entry), states.get(n.was)) ? lines.get(n.was) : null;
  }
}
