package holotome.core.datum;

import holotome.core.step.Parameter;
import holotome.core.unit.Length;

/**
 * Two points in working space (3 doubles each) and the true distance between them.
 *
 * @param within how exactly each end was picked (one standard deviation, working space); null where
 *     that is not known
 */
public record KnownLength(
    @Parameter(help = "One end, x y z in working space") double[] from,
    @Parameter(help = "The other end") double[] to,
    @Parameter(help = "The true distance between them") Length is,
    @Parameter(
            help = "How exactly each end was picked, in working space before scaling",
            min = 0,
            optional = true)
        Length within) {

  public KnownLength(double[] from, double[] to, Length is) {
    this(from, to, is, null);
  }
}
