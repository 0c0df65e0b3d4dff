package holotome.core.datum;

import holotome.core.measure.Resting;
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
        "Puts the origin where it makes sense: the middle of the base or the box, the centre of mass, a corner, or a point; and rests the work on Z = 0.")
public record Origin(
    @Parameter(help = "Where the origin goes", preset = "base-centre") At at,
    @Parameter(help = "The point, x y z in working space", when = "at=point", optional = true)
        double[] point,
    @Parameter(help = "Which corner of the box", when = "at=corner", preset = "left-front-bottom")
        Corner corner,
    @Parameter(help = "Whether the lowest point comes to rest on Z = 0", preset = "false")
        boolean rest)
    implements Step {

  /** Where the origin goes. */
  public enum At {
    BASE_CENTRE,
    BOX_CENTRE,
    MASS_CENTRE,
    CORNER,
    POINT,
    KEPT
  }

  /** A corner of the box: X least or most, Y least (front) or most, Z least or most. */
  public enum Corner {
    LEFT_FRONT_BOTTOM,
    RIGHT_FRONT_BOTTOM,
    LEFT_BACK_BOTTOM,
    RIGHT_BACK_BOTTOM,
    LEFT_FRONT_TOP,
    RIGHT_FRONT_TOP,
    LEFT_BACK_TOP,
    RIGHT_BACK_TOP;

    double[] of(Box b) {
      int i = ordinal();
      return Vec.of(
          (i & 1) == 0 ? b.minX() : b.maxX(),
          (i & 2) == 0 ? b.minY() : b.maxY(),
          (i & 4) == 0 ? b.minZ() : b.maxZ());
    }
  }

  public Origin(At at, double[] point) {
    this(at, point, Corner.LEFT_FRONT_BOTTOM, false);
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
          case MASS_CENTRE -> in.frame().toWork().apply(Resting.massCentre(in.current()));
          case CORNER -> corner.of(b);
          case POINT -> point.clone();
          case KEPT -> new double[3];
        };
    if (rest) {
      to[2] = b.minZ();
    }
    boolean size = in.frame().trueSize();
    return Outcome.of(
        in.withFrame(in.frame().placed(Similarity.translation(Vec.mul(to, -1)))),
        String.format(
            "Moved by %s, %s, %s",
            Length.format(-to[0], size), Length.format(-to[1], size), Length.format(-to[2], size)));
  }
}
