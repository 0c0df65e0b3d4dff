package holotome.core.log;

import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.topology.Counts;
import java.util.List;

/**
 * What an entry did, as measured.
 *
 * @param triangles of the mesh in hand (the Cast where there is one) after it
 * @param change against before
 * @param counts of the Scan after it, where it was counted; else null
 */
public record Effect(int triangles, int change, double seconds, List<String> notes, Counts counts) {
  static Effect of(Workpiece before, Outcome outcome, double seconds) {
    int n = outcome.work().current().triangleCount();
    int change = n - before.current().triangleCount();
    return new Effect(n, change, seconds, outcome.notes(), outcome.counts());
  }
}
