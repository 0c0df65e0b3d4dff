package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.UvSquares;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unwrap.ChartFaults;
import java.util.BitSet;

/**
 * The charts of a mesh, as the flat pane shows them.
 *
 * @param outlines of all of them
 * @param laid how many lie over another, see {@link LaidOver}
 * @param squares of the texture that they lie in
 * @param area what the others take, in squares
 * @param perUnit length in the texture to one on the surface, in the mean of those
 * @param faults what is wrong with how they lie
 */
public record ChartSheet(
    Charts charts,
    Charts.Outlines outlines,
    int laid,
    UvSquares squares,
    double area,
    double perUnit,
    ChartFaults faults) {

  /** The share of the squares that have charts. */
  public double share() {
    return area / squares.count();
  }

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
    double area = c.area(following);
    double surface = 0;
    for (int t = following.nextClearBit(0);
        t < mesh.triangleCount();
        t = following.nextClearBit(t + 1)) {
      surface += Vec.length(Measures.cross(mesh, t)) / 2;
    }
    double perUnit = Math.sqrt(area / surface);
    return new ChartSheet(
        c, outlines, laid.cardinality(), UvSquares.of(mesh.uv()), area, perUnit, faults);
  }
}
