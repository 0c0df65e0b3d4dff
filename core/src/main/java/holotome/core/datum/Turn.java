package holotome.core.datum;

import holotome.core.geometry.Similarity;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.words.CoreWords;

/** Turns the work about an axis of the working space. */
@Describes(
    id = "datum.turn",
    title = "Turn",
    help = "Turns the work about an axis, counter-clockwise seen against the axis.",
    reads = {"scan", "cast", "frame"},
    writes = {"frame"})
public record Turn(
    @Parameter(help = "The axis", preset = "z") Axis axis,
    @Parameter(help = "The angle", unit = "°", min = -360, max = 360, preset = "90") double angle,
    @Parameter(
            help = "What stays where it is: the origin, or the middle of the box",
            preset = "origin")
        About about)
    implements Step {

  /** An axis of the working space. */
  public enum Axis {
    X,
    Y,
    Z
  }

  /** What a turn leaves in place. */
  public enum About {
    ORIGIN,
    CENTRE
  }

  public Turn(Axis axis, double angle) {
    this(axis, angle, About.ORIGIN);
  }

  @Override
  public long memory(Workpiece in) {
    return LITTLE;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    double[] a = {axis == Axis.X ? 1 : 0, axis == Axis.Y ? 1 : 0, axis == Axis.Z ? 1 : 0};
    double[] place =
        about == About.ORIGIN ? new double[3] : in.frame().workBounds(in.current()).centre();
    Similarity turn = Similarity.turning(a, Math.toRadians(angle));
    return Outcome.of(
        in.withFrame(in.frame().placed(Upright.about(place, turn))),
        CoreWords.of(
            "turn.turned-by-about", angle, axis.name().toLowerCase(java.util.Locale.ROOT)));
  }
}
