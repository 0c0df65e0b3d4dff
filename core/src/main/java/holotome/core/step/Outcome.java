package holotome.core.step;

import java.util.List;

/**
 * What a step gave.
 *
 * @param work the new workpiece
 * @param notes what was done, in plain sentences without a full stop; figures included
 */
public record Outcome(Workpiece work, List<String> notes) {
  public Outcome {
    notes = List.copyOf(notes);
  }

  public static Outcome of(Workpiece work, String... notes) {
    return new Outcome(work, List.of(notes));
  }
}
