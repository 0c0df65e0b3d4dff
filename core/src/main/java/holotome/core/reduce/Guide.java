package holotome.core.reduce;

import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * A line drawn on the Scan that quads follow.
 *
 * @param line points, 3 doubles each, in the scan file's own coordinates
 */
public record Guide(
    @Parameter(help = "Where it runs: points of the Scan, x y z each, in its file's coordinates")
        double[] line) {

  public Guide {
    boolean fits =
        line != null
            && line.length >= 6
            && line.length % 3 == 0
            && Arrays.stream(line).allMatch(Double::isFinite);
    if (!fits) {
      throw Failure.usage(CoreWords.of("quads.guide"));
    }
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Guide g && Arrays.equals(line, g.line);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(line);
  }
}
