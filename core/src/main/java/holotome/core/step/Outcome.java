package holotome.core.step;

import holotome.core.part.Workpiece;
import holotome.core.topology.Counts;
import java.util.List;

/**
 * What a step gave.
 *
 * @param work the new workpiece
 * @param notes what was done, in plain sentences without a full stop; figures included
 * @param counts of the new Scan, where the step had to count anyway; else null
 */
public record Outcome(Workpiece work, List<String> notes, Counts counts) {
  public Outcome {
    notes = List.copyOf(notes);
  }

  public Outcome(Workpiece work, List<String> notes) {
    this(work, notes, null);
  }

  public static Outcome of(Workpiece work, String... notes) {
    return new Outcome(work, List.of(notes));
  }
}
