package holotome.core.bake;

import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.Objects;

/**
 * The cage made wider or narrower along a stroke.
 *
 * @param line points of the Cast, 3 doubles each, in the scan file's own coordinates
 * @param radius in the file's units; towards it the change runs out
 * @param times as far out as before
 */
public record CageEdit(
    @Parameter(
            help =
                "Where the brush went: points of the Cast, x y z each, in the scan file's coordinates")
        double[] line,
    @Parameter(help = "Of the brush, in the scan file's units of length", min = 0) double radius,
    @Parameter(help = "So many times as far out as before", min = 0.05, max = 20, preset = "2")
        double times) {

  public CageEdit {
    boolean fits =
        line != null
            && line.length > 0
            && line.length % 3 == 0
            && Arrays.stream(line).allMatch(Double::isFinite)
            && radius > 0;
    if (!fits) {
      throw Failure.usage(CoreWords.of("cage.does-not-fit"));
    }
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof CageEdit e
        && Arrays.equals(line, e.line)
        && radius == e.radius
        && times == e.times;
  }

  @Override
  public int hashCode() {
    return Objects.hash(Arrays.hashCode(line), radius, times);
  }
}
