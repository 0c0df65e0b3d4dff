package holotome.core.unwrap;

import holotome.core.select.Pick;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.List;

/**
 * One change of where seams run. Places are points in working space, so that an edit can be read
 * and fits a mesh whose numbers are others.
 *
 * @param points x, y, z in working space, one after the other
 * @param sharp for {@link How#SHARP}
 * @param picks for {@link How#AROUND}
 */
public record SeamEdit(
    @Parameter(
            help =
                "What is done: cut along edges from point to point, cut a ring around a limb at each point, cut along edges that turn sharply, cut around a selection, or sew the seams that lie nearest to the points",
            preset = "way")
        How how,
    @Parameter(
            help = "Points on the surface, x y z in working space, one after the other",
            optional = true)
        double[] points,
    @Parameter(
            help = "Whether the way goes on from the last point to the first",
            when = "how=way",
            preset = "false")
        boolean closed,
    @Parameter(
            help = "Edges that turn by more",
            when = "how=sharp",
            unit = "°",
            min = 1,
            max = 180,
            preset = "45")
        double sharp,
    @Parameter(
            help = "What is selected, one pick after the other",
            when = "how=around",
            optional = true)
        List<Pick> picks) {

  /** What is done. */
  public enum How {
    WAY,
    RING,
    SHARP,
    AROUND,
    SEW
  }

  public SeamEdit {
    int n = points == null ? 0 : points.length;
    boolean fits =
        n % 3 == 0
            && switch (how) {
              case WAY -> n >= 6;
              case RING, SEW -> n >= 3;
              case SHARP -> n == 0;
              case AROUND -> n == 0 && picks != null && !picks.isEmpty();
            };
    if (!fits) {
      throw Failure.usage(CoreWords.of("seams.does-not-fit"));
    }
    picks = picks == null ? null : List.copyOf(picks);
  }

  /** A way cut from point to point. */
  public static SeamEdit way(boolean closed, double... points) {
    return new SeamEdit(How.WAY, points, closed, 45, null);
  }

  /** A ring at each point, or seams sewn. */
  public static SeamEdit at(How how, double... points) {
    return new SeamEdit(how, points, false, 45, null);
  }

  /** Cut along all edges that turn by more than an angle in degrees. */
  public static SeamEdit sharp(double angle) {
    return new SeamEdit(How.SHARP, null, false, angle, null);
  }

  /** Cut around what is selected. */
  public static SeamEdit around(List<Pick> picks) {
    return new SeamEdit(How.AROUND, null, false, 45, picks);
  }

  /** Whether it makes seams. */
  public boolean isCut() {
    return how != How.SEW;
  }
}
