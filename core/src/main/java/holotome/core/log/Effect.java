package holotome.core.log;

import holotome.core.frame.Frame;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.topology.Counts;
import holotome.core.unit.Length;
import java.util.List;

/**
 * What an entry did, as measured.
 *
 * @param triangles of the mesh in hand (the Cast where there is one) after it
 * @param change against before
 * @param seconds it took when it was last run
 * @param stated what was done; see {@link Outcome}
 * @param counts of the Scan after it, where it was counted; else null
 * @param amount how many things it dealt with; see {@link Outcome}
 * @param frame where the lengths in the notes stand
 */
public record Effect(
    int triangles,
    int change,
    double seconds,
    List<String> stated,
    Counts counts,
    int amount,
    Frame frame) {
  static Effect of(Workpiece before, Outcome outcome, double seconds) {
    int n = outcome.work().current().triangleCount();
    int change = n - before.current().triangleCount();
    return new Effect(
        n,
        change,
        seconds,
        outcome.stated(),
        outcome.counts(),
        outcome.amount(),
        outcome.work().frame());
  }

  /** The same effect on work that was placed otherwise meanwhile. */
  Effect in(Frame other) {
    return new Effect(triangles, change, seconds, stated, counts, amount, other);
  }

  /** What was done, in plain sentences. */
  public List<String> notes() {
    return stated.stream()
        .map(n -> Length.read(n, frame.toWork().scale(), frame.trueSize()))
        .toList();
  }
}
