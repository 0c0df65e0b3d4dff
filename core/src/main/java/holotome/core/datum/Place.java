package holotome.core.datum;

import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;

/** Moves, turns and scales the work by figures. */
@Describes(
    id = "datum.place",
    title = "Place",
    help =
        "Moves, turns and scales the work by figures or by handles: first the size, then the turn about X, Y and Z in turn, all about one place, then the move.",
    reads = {"frame"},
    writes = {"frame"})
public record Place(
    @Parameter(help = "How far along X, Y and Z, three lengths in metres", preset = "0, 0, 0")
        double[] move,
    @Parameter(help = "How far about X, then Y, then Z, in degrees", preset = "0, 0, 0")
        double[] turn,
    @Parameter(help = "The factor of size", preset = "1", min = 1e-9, max = 1e9) double factor,
    @Parameter(
            help = "The place that turning and scaling leave where it is, x y z in working space",
            preset = "0, 0, 0")
        double[] about)
    implements Step {

  public Place {
    if (move.length != 3 || turn.length != 3 || about.length != 3) {
      throw Failure.usage(CoreWords.of("place.move-turn-and-about-need"));
    }
  }

  /** The similarity in working space. */
  public Similarity similarity() {
    return Similarity.translation(Vec.mul(about, -1))
        .then(Similarity.scaling(factor))
        .then(rotation(turn))
        .then(Similarity.translation(Vec.add(about, move)));
  }

  /** The turn by three angles in degrees, about X first. */
  public static Similarity rotation(double[] degrees) {
    Similarity s = Similarity.IDENTITY;
    for (int k = 0; k < 3; k++) {
      double[] axis = new double[3];
      axis[k] = 1;
      if (degrees[k] != 0) {
        s = s.then(Similarity.turning(axis, Math.toRadians(degrees[k])));
      }
    }
    return s;
  }

  /** The three angles in degrees of a turn, 3 x 3 by rows; the inverse of {@link #rotation}. */
  public static double[] angles(double[] r) {
    double y = Math.asin(Math.clamp(-r[6], -1.0, 1.0));
    boolean locked = Math.abs(r[6]) > 1 - 1e-12;
    double x = locked ? Math.atan2(-r[5], r[4]) : Math.atan2(r[7], r[8]);
    double z = locked ? 0 : Math.atan2(r[3], r[0]);
    return new double[] {Math.toDegrees(x), Math.toDegrees(y), Math.toDegrees(z)};
  }

  @Override
  public long memory(Workpiece in) {
    return LITTLE;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    run.work().check();
    boolean size = in.frame().trueSize();
    return Outcome.of(
        in.withFrame(in.frame().placed(similarity())),
        CoreWords.of(
            "place.scaled-by-turned-by-moved",
            factor,
            turn[0],
            turn[1],
            turn[2],
            Length.format(move[0], size),
            Length.format(move[1], size),
            Length.format(move[2], size)));
  }
}
