package holotome.core.step;

import holotome.core.frame.Frame;
import holotome.core.part.Workpiece;
import holotome.core.topology.Counts;
import holotome.core.unit.Length;
import java.util.List;

/**
 * What a step gave.
 *
 * <p>A note may state lengths in base coordinates ({@link Length#inBase}): they are read in the
 * frame of the work, whenever they are read, so that another scale changes the words and not the
 * work.
 *
 * @param work the new workpiece
 * @param stated what was done, in plain sentences without a full stop; figures included
 * @param counts of the new Scan, where the step had to count anyway; else null
 * @param amount how many things it dealt with (holes filled), where it counts them; else nought
 */
public record Outcome(Workpiece work, List<String> stated, Counts counts, int amount) {
  public Outcome {
    stated = List.copyOf(stated);
  }

  /** The notes as they are to be read. */
  public List<String> notes() {
    Frame f = work.frame();
    return stated.stream().map(n -> Length.read(n, f.toWork().scale(), f.trueSize())).toList();
  }

  public Outcome(Workpiece work, List<String> notes, Counts counts) {
    this(work, notes, counts, 0);
  }

  public Outcome(Workpiece work, List<String> notes) {
    this(work, notes, null, 0);
  }

  public static Outcome of(Workpiece work, String... notes) {
    return new Outcome(work, List.of(notes));
  }

  public static Outcome of(Workpiece work, List<String> notes) {
    return new Outcome(work, notes);
  }
}
