package holotome.core.trim;

import holotome.core.frame.Frame;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.task.Work;
import holotome.core.topology.Counts;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

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
    StringBuilder text = new StringBuilder();
    text.append(
        String.format(
            Locale.ROOT,
            "%,d triangles removed, %s of surface (%.3g %%); ",
            Math.max(0, before.triangleCount() - cut.triangleCount()),
            area(lost, frame),
            had > 0 ? 100 * lost / had : 0));
    Counts counts = Counts.of(after, work.part(0.8, "Measuring"));
    text.append(counted(counts.islands(), "island", "islands"));
    if (counts.borders() != Counts.NOT_COUNTED) {
      text.append(" and ").append(counted(counts.borders(), "border", "borders"));
    }
    return new Removal(text.append(" left").toString(), counts);
  }

  /** What a step gave that did nothing else. */
  Outcome outcome(Workpiece work, String... notes) {
    List<String> all = new ArrayList<>(List.of(notes));
    all.add(note);
    return new Outcome(work, all, counts);
  }

  private static String counted(int n, String one, String many) {
    return String.format(Locale.ROOT, "%,d %s", n, n == 1 ? one : many);
  }

  /** An area of base coordinates, in working units. */
  private static String area(double base, Frame frame) {
    double scale = frame.toWork().scale();
    return Length.formatArea(base * scale * scale, frame.trueSize());
  }
}
