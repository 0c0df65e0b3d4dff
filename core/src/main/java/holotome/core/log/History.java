package holotome.core.log;

import holotome.core.memory.Claim;
import holotome.core.memory.Spare;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
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

  public Workpiece current() {
    return stateAfter(lines.size());
  }

  /** Adds a step at the end. */
  public History apply(Step step, Run run) {
    return with(lines.size(), List.of(Entry.of(step)), run);
  }

  /** Puts another step in place of an entry's and runs all that follow again. */
  public History revise(int index, Step step, Run run) {
    List<Entry> rest = new ArrayList<>(entries().subList(index, lines.size()));
    rest.set(0, new Entry(step, rest.getFirst().on()));
    return with(index, rest, run);
  }

  /** Switches an entry on or off and runs all that follow again. */
  public History setOn(int index, boolean on, Run run) {
    List<Entry> rest = new ArrayList<>(entries().subList(index, lines.size()));
    rest.set(0, new Entry(rest.getFirst().step(), on));
    return with(index, rest, run);
  }

  /** Takes an entry out and runs all that follow again. */
  public History remove(int index, Run run) {
    return with(index, new ArrayList<>(entries().subList(index + 1, lines.size())), run);
  }

  /** Replays entries after the end. */
  public History replay(List<Entry> entries, Run run) {
    return with(lines.size(), entries, run);
  }

  /** Keeps the first {@code keep} lines and runs the entries after them. */
  private History with(int keep, List<Entry> entries, Run run) {
    List<Line> out = new ArrayList<>(lines.subList(0, keep));
    List<Checkpoint> after = new ArrayList<>(states.subList(0, keep + 1));
    Workpiece at = stateAfter(keep);
    for (Entry e : entries) {
      if (!e.on()) {
        Effect none = Effect.of(at, Outcome.of(at, "Switched off"), 0);
        out.add(new Line(e, none));
        after.add(after.getLast());
        continue;
      }
      long start = System.nanoTime();
      Outcome outcome =
          applyChecked(e.step(), at, new Run(run.work().part(1.0 / entries.size(), ""), run.out()));
      double seconds = (System.nanoTime() - start) * 1e-9;
      Effect effect = Effect.of(at, outcome, seconds);
      at = outcome.work();
      out.add(new Line(e, effect));
      after.add(checkpoints.keep(at));
    }
    return new History(checkpoints, after, out);
  }

  /** Applies a step after holding its forecast of memory against what is free. */
  public static Outcome applyChecked(Step step, Workpiece in, Run run) {
    long need = step.memory(in);
    String id = StepKind.of(step).id();
    try (Claim room = Claim.urgent(need)) {
      if (!room.await(0, run.work())) {
        throw Spare.lacking(
            id,
            need,
            "; lighten the scan first with reduce.decimate and \"as\": \"scan\", or trim more");
      }
      return applied(step, id, in, run);
    }
  }

  private static Outcome applied(Step step, String id, Workpiece in, Run run) {
    try {
      return step.apply(in, run);
    } catch (Failure f) {
      throw f.kind() == Failure.Kind.CANCELLED
          ? f
          : new Failure(f.kind(), id + ": " + f.getMessage(), f);
    } catch (OutOfMemoryError e) {
      throw Failure.of(e);
    }
  }
}
