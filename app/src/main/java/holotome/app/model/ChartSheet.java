package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Charts;

/**
 * The charts of a mesh, as the flat pane shows them.
 *
 * @param outlines of all of them
 * @param area the share of the square that they take
 */
public record ChartSheet(Charts charts, Charts.Outlines outlines, double area) {

  /** Finds them; a second or so for a million triangles. */
  static ChartSheet of(Mesh mesh, Work work) {
    Charts c = Charts.of(mesh, work.part(0.5, AppWords.of("common.finding-the-charts")));
    return new ChartSheet(
        c, c.outlines(work.part(0.5, AppWords.of("common.finding-the-charts"))), c.area());
  }
}
