package holotome.core.datum;

import holotome.core.mesh.Box;
import holotome.core.mesh.Similarity;
import holotome.core.mesh.Vec;
import holotome.core.step.Describes;
import holotome.core.step.Length;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;

/** Moves the work so that its origin makes sense. */
@Describes(
    id = "datum.origin",
    title = "Origin",
    help =
        "Puts the origin where it makes sense: the middle of the base, the middle of the box, or a point.")
public record Origin(
    @Parameter(help = "Where the origin goes", preset = "base-centre") At at,
    @Parameter(help = "The point, x y z in working space", when = "at=point", optional = true)
        double[] point)
    implements Step {

  /** Where the origin goes. */
  public enum At {
    BASE_CENTRE,
    BOX_CENTRE,
    POINT
  }

  public Origin {
    if (at == At.POINT && (point == null || point.length != 3)) {
      throw Failure.usage("an origin at a point needs the point's three numbers");
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Box b = in.frame().workBounds(in.current());
    double[] c = b.centre();
    double[] to =
        switch (at) {
          case BASE_CENTRE -> Vec.of(c[0], c[1], b.minZ());
          case BOX_CENTRE -> c;
          case POINT -> point;
        };
    boolean size = in.frame().trueSize();
    return Outcome.of(
        in.withFrame(in.frame().placed(Similarity.translation(Vec.mul(to, -1)))),
        String.format(
            "Moved by %s, %s, %s",
            Length.format(-to[0], size), Length.format(-to[1], size), Length.format(-to[2], size)));
  }
}
