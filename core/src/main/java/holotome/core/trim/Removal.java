package holotome.core.trim;

import holotome.core.mesh.Adjacency;
import holotome.core.mesh.Borders;
import holotome.core.mesh.Frame;
import holotome.core.mesh.Islands;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.step.Length;
import holotome.core.task.Work;
import java.util.Locale;

/** Says in words what a step took away, so that nothing goes silently. */
final class Removal {
  /** Above so many triangles borders are left to the findings: counting them takes a minute. */
  private static final int COUNTED = 20_000_000;

  private Removal() {}

  /** A forecast of what removing and its note take, in bytes; measured at 10 and 100 million. */
  static long memory(Mesh mesh) {
    return (mesh.triangleCount() <= COUNTED ? 56L : 32L) * mesh.triangleCount();
  }

  /**
   * How many triangles and how much area went, and how many islands and borders are left.
   *
   * @param cut what was left of the mesh
   * @param after the same with what was added to close a cut
   */
  static String note(Mesh before, Mesh cut, Mesh after, Frame frame, Work work) {
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
    int islands = Islands.of(after, work.part(0.3, "Measuring")).count();
    text.append(counted(islands, "island", "islands"));
    if (after.triangleCount() <= COUNTED) {
      int borders = Borders.of(Adjacency.of(after, work.part(0.5, "Measuring"))).loops().length;
      text.append(" and ").append(counted(borders, "border", "borders"));
    }
    return text.append(" left").toString();
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
