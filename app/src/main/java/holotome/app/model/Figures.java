package holotome.app.model;

import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Work;
import holotome.core.topology.Counts;

/**
 * The figures that the Sheet compares before and after a step.
 *
 * @param borders loops of open edges; {@link Counts#NOT_COUNTED} of very large meshes
 */
public record Figures(int triangles, int islands, int borders, Box size, boolean trueSize) {
  /** From what a step counted; null where it did not, then it is done here. */
  public static Figures of(Workpiece w, Counts known, Work work) {
    Mesh m = w.scan();
    Counts counts = known != null ? known : Counts.of(m, work);
    return new Figures(
        m.triangleCount(),
        counts.islands(),
        counts.borders(),
        w.frame().workBounds(m),
        w.frame().trueSize());
  }

  /** From what was measured already. */
  public static Figures of(Workpiece w, Insight insight) {
    return new Figures(
        w.scan().triangleCount(),
        insight.inspection().islands(),
        insight.inspection().boundaryLoops(),
        w.frame().workBounds(w.scan()),
        w.frame().trueSize());
  }
}
