package holotome.core.trim;

import holotome.core.frame.Frame;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.task.Work;
import holotome.core.topology.Counts;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Says in words what a step took away, so that nothing goes silently.
 *
 * @param counts of what is left
 */
record Removal(String note, Counts counts) {

  /** A forecast of what removing and its note take, in bytes; measured at 10 and 100 million. */
  static long memory(Mesh mesh) {
    return (Counts.countsBorders(mesh) ? 56L : 32L) * mesh.triangleCount();
  }

  /**
   * How many triangles and how much area went, and how many islands and borders are left.
   *
   * @param cut what was left of the mesh
   * @param after the same with what was added to close a cut
   */
  static Removal of(Mesh before, Mesh cut, Mesh after, Frame frame, Work work) {
    double had = Measures.area(before);
    double lost = Math.max(0, had - Measures.area(cut));
    work.advance(0.2);
    String gone =
        CoreWords.of(
            "removal.triangles-removed-of-surface",
            Math.max(0, before.triangleCount() - cut.triangleCount()),
            area(lost, frame),
            had > 0 ? 100 * lost / had : 0);
    Counts counts = Counts.of(after, work.part(0.8, CoreWords.of("work.measuring")));
    String islands = CoreWords.count("removal.islands", counts.islands());
    String left =
        counts.borders() == Counts.NOT_COUNTED
            ? CoreWords.of("removal.left", islands)
            : CoreWords.of(
                "removal.and-left", islands, CoreWords.count("removal.borders", counts.borders()));
    return new Removal(gone + "; " + left, counts);
  }

  /** What a step gave that did nothing else. */
  Outcome outcome(Workpiece work, String... notes) {
    List<String> all = new ArrayList<>(List.of(notes));
    all.add(note);
    return new Outcome(work, all, counts);
  }

  /** An area of base coordinates, in working units. */
  private static String area(double base, Frame frame) {
    double scale = frame.toWork().scale();
    return Length.formatArea(base * scale * scale, frame.trueSize());
  }
}
