package holotome.core.datum;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;

/** Turns of working space about a place of the work. */
final class Upright {
  private Upright() {}

  /** A turn about a place that is not the origin. */
  static Similarity about(double[] place, Similarity turn) {
    return Similarity.translation(Vec.mul(place, -1))
        .then(turn)
        .then(Similarity.translation(place));
  }

  /** The smallest turn about a place of base coordinates that brings a base direction upright. */
  static Similarity bringing(Frame frame, double[] direction, double[] place) {
    return about(
        frame.toWork().apply(place),
        Similarity.turningTo(Vec.unit(frame.toWork().direction(direction)), Vec.of(0, 0, 1)));
  }
}
