package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unwrap.ChartFaults;
import java.util.BitSet;

/**
 * The charts of a mesh, as the flat pane shows them.
 *
 * @param outlines of all of them
 * @param laid how many lie over another, see {@link LaidOver}
 * @param area the share of the square that the others take
 * @param faults what is wrong with how they lie
 */
public record ChartSheet(
    Charts charts, Charts.Outlines outlines, int laid, double area, ChartFaults faults) {

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
    int[] over = LaidOver.of(mesh);
    BitSet following = new BitSet();
    BitSet laid = new BitSet();
    for (int t = 0; over != null && t < over.length; t++) {
      if (over[t] < 0) {
        following.set(t);
        laid.set(c.ofTriangle()[t]);
      }
    }
    ChartFaults faults = ChartFaults.of(c, over, picture[0], apart, work.part(0.3, label));
    return new ChartSheet(c, outlines, laid.cardinality(), c.area(following), faults);
  }
}
