package holotome.app.model;

import holotome.core.mesh.Adjacency;
import holotome.core.mesh.Borders;
import holotome.core.mesh.Box;
import holotome.core.mesh.Islands;
import holotome.core.mesh.Mesh;
import holotome.core.step.Workpiece;
import holotome.core.task.Work;

/**
 * The figures that the Sheet compares before and after a step.
 *
 * @param borders loops of open edges; {@link #NOT_COUNTED} of very large meshes
 */
public record Figures(int triangles, int islands, int borders, Box size, boolean trueSize) {
  /** Of larger meshes the borders are counted with the findings only: they want much memory. */
  private static final int COUNTED = 20_000_000;

  public static final int NOT_COUNTED = -1;

  public static Figures of(Workpiece w, Work work) {
    Mesh m = w.scan();
    Islands islands = Islands.of(m, work.part(0.4, "Measuring"));
    int borders =
        m.triangleCount() > COUNTED
            ? NOT_COUNTED
            : Borders.of(Adjacency.of(m, work.part(0.6, "Measuring"))).loops().length;
    return new Figures(
        m.triangleCount(), islands.count(), borders, w.frame().workBounds(m), w.frame().trueSize());
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
