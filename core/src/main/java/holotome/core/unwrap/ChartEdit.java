package holotome.core.unwrap;

import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * One change of where charts lie in the texture. Charts are named by points of them on the surface,
 * texture points by where they are at that moment: so a list of edits can be read, and fits a mesh
 * whose numbers are others.
 *
 * @param charts x, y, z in working space, one after the other
 * @param at u, v in the texture, one after the other; null for whole charts
 * @param move u, v; null for none
 */
public record ChartEdit(
    @Parameter(help = "The charts, each by a point of it, x y z in working space") double[] charts,
    @Parameter(
            help =
                "Texture points of those charts that are moved alone, u v each; else the whole charts",
            optional = true)
        double[] at,
    @Parameter(
            help = "How far and whereto, u v, where the texture is 1 wide and 1 high",
            optional = true)
        double[] move,
    @Parameter(
            help = "Turned by so much about the middle of their common box, counter-clockwise",
            unit = "°",
            min = -360,
            max = 360,
            preset = "0")
        double turn,
    @Parameter(
            help = "So many times as wide and high, about the same middle",
            min = 0.001,
            max = 1000,
            preset = "1")
        double times) {

  public ChartEdit {
    boolean fits =
        charts != null
            && charts.length > 0
            && charts.length % 3 == 0
            && (at == null || at.length > 0 && at.length % 2 == 0 && move != null)
            && (move == null || move.length == 2);
    if (!fits) {
      throw Failure.usage(CoreWords.of("chart-edit.does-not-fit"));
    }
  }

  /** Charts moved as they are. */
  public static ChartEdit moved(double[] charts, double u, double v) {
    return new ChartEdit(charts, null, new double[] {u, v}, 0, 1);
  }
}
