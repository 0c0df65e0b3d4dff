package holotome.core.mend;

import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * One change by hand. Points of the surface are named by where they are at that moment, so that a
 * list of edits can be read, and fits a mesh whose numbers are others.
 *
 * @param at points, 3 doubles each, in working space
 * @param to further points, 3 doubles each; null for none
 * @param by 3 doubles; null for none
 */
public record Edit(
    @Parameter(help = "What is done") How how,
    @Parameter(
            help =
                "The points it is done to, x y z each in working space: two are an edge, three a triangle, more a run along a rim")
        double[] at,
    @Parameter(help = "strip and snap: the points of the other run, x y z each", optional = true)
        double[] to,
    @Parameter(help = "move: how far and whereto, x y z", optional = true) double[] by) {

  /** What can be done by hand. */
  public enum How {
    /** Points by a way. */
    MOVE,
    /** The triangles at a point, on both sides of an edge, or one triangle. */
    DELETE,
    /** A triangle between three points. */
    ADD,
    /** Triangles between two runs of a rim. */
    STRIP,
    /** An edge between the two other corners of its triangles. */
    TURN,
    /** An edge into one point. */
    COLLAPSE,
    /** An edge or a triangle in its middle. */
    SPLIT,
    /** A run of a rim onto another; a point onto another. */
    SNAP
  }

  public Edit {
    int n = at == null ? 0 : at.length / 3;
    boolean fits =
        n > 0
            && at.length % 3 == 0
            && (to == null || to.length % 3 == 0)
            && switch (how) {
              case MOVE -> by != null && by.length == 3;
              case DELETE -> n <= 3;
              case ADD -> n == 3;
              case TURN, COLLAPSE -> n == 2;
              case SPLIT -> n == 2 || n == 3;
              case STRIP -> to != null && to.length >= 3 && n + to.length / 3 >= 3;
              case SNAP -> to != null && to.length >= 3;
            };
    if (!fits) {
      throw Failure.usage(CoreWords.of("edit.needs", name(how)));
    }
  }

  /** An edit of points alone. */
  public static Edit of(How how, double[] at) {
    return new Edit(how, at, null, null);
  }

  private static String name(How how) {
    return how == null ? "?" : how.name().toLowerCase(java.util.Locale.ROOT);
  }
}
