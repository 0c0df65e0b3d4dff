package holotome.core.log;

import holotome.core.memory.Claim;
import holotome.core.memory.Spare;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Runs the entries of a Log: the one place where that is done, for the window, the command line and
 * whoever uses the core as a library.
 */
public final class LogRun {
  private LogRun() {}

  /** Is told of each entry that was run. */
  @FunctionalInterface
  public interface Listener {
    void done(Entry entry, Outcome outcome, double seconds);
  }

  /** Runs the entries that are switched on, one after the other, keeping no state between. */
  public static Workpiece run(List<Entry> entries, Workpiece start, Run run, Listener listener) {
    Workpiece at = start;
    double share = 1.0 / Math.max(1, entries.size());
    for (Entry e : entries) {
      if (e.on()) {
        long begun = System.nanoTime();
        String id = StepKind.of(e.step()).id();
        Outcome o = apply(e, at, new Run(run.work().part(share, id), run.out()));
        at = o.work();
        listener.done(e, o, (System.nanoTime() - begun) * 1e-9);
      }
    }
    return at;
  }

  /**
   * Runs one entry, after holding its forecast of memory against what is free.
   *
   * @throws Failure if it cannot do what was asked, was cancelled, or finds no room
   */
  public static Outcome apply(Entry entry, Workpiece in, Run run) {
    Part<Mesh> part = entry.part();
    if (part == null) {
      return apply(entry.step(), in, run);
    }
    Mesh scan = in.scan();
    Outcome o = apply(entry.step(), in.withScan(in.require(part)), run);
    Workpiece out = o.work();
    Mesh made = out.scan();
    out = out.withScan(scan);
    if (made != in.get(part)) {
      out = out.withMesh(part, made);
    }
    return new Outcome(out, o.stated(), null);
  }

  /** The parts that an entry's result depends on. */
  static Set<Part<?>> reads(Entry e) {
    return onPart(e.step().reads(), e.part());
  }

  /** The parts that an entry may change. */
  static Set<Part<?>> writes(Entry e) {
    Set<Part<?>> out = new HashSet<>(onPart(e.step().writes(), e.part()));
    if (out.contains(Part.CAST)) {
      out.add(Part.MAPS);
    }
    return out;
  }

  private static Set<Part<?>> onPart(Set<Part<?>> some, Part<Mesh> part) {
    if (part == null || !some.contains(Part.SCAN)) {
      return some;
    }
    Set<Part<?>> out = new HashSet<>(some);
    out.remove(Part.SCAN);
    out.add(part);
    return out;
  }

  private static Outcome apply(Step step, Workpiece in, Run run) {
    long need = step.memory(in);
    String id = StepKind.of(step).id();
    try (Claim room = Claim.urgent(need)) {
      if (!room.await(0, run.work())) {
        throw Spare.lacking(id, need, "; " + CoreWords.of("log-run.lighten-the-scan-first-with"));
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
