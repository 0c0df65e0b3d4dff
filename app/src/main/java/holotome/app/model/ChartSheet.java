package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unwrap.ChartFaults;

/**
 * The charts of a mesh, as the flat pane shows them.
 *
 * @param outlines of all of them
 * @param area the share of the square that they take
 * @param faults what is wrong with how they lie
 */
public record ChartSheet(Charts charts, Charts.Outlines outlines, double area, ChartFaults faults) {

  /**
   * Finds them; a second or two for a million triangles.
   *
   * @param picture its size and how far charts are to be apart, in pixels
   */
  static ChartSheet of(Mesh mesh, int[] picture, Work work) {
    String label = AppWords.of("common.finding-the-charts");
    Charts c = Charts.of(mesh, work.part(0.4, label));
    Charts.Outlines outlines = c.outlines(work.part(0.3, label));
    // What is rounded to pixels may come one nearer.
    int apart = Math.max(1, picture[1] - 1);
    ChartFaults faults =
        ChartFaults.of(c, LaidOver.of(mesh), picture[0], apart, work.part(0.3, label));
    return new ChartSheet(c, outlines, c.area(), faults);
  }
}
