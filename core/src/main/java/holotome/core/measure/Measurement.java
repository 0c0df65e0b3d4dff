package holotome.core.measure;

import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.List;

/**
 * Something to be measured, by where: kept with a project and measured anew on the mesh as it
 * stands.
 *
 * @param pins in the scan file's own coordinates, so that placing the work moves none of them
 */
public record Measurement(
    @Parameter(help = "What it is called") String name,
    @Parameter(help = "What is measured") Kind kind,
    @Parameter(help = "Where") List<Pin> pins) {

  /** A picked place. */
  public record Pin(
      @Parameter(help = "x y z in the scan file's own coordinates") double[] at,
      @Parameter(
              help = "How far around the surface is taken in, in the file's units; 0 for the point",
              preset = "0",
              min = 0)
          double reach) {
    public Pin {
      if (at.length != 3) {
        throw Failure.usage(CoreWords.of("measurement.a-place-needs-three-numbers"));
      }
    }
  }

  /** What can be measured, and by how many pins. */
  public enum Kind {
    DISTANCE(2, 2, false),
    SURFACE(2, 2, false),
    FROM_PLANE(2, 2, true),
    ANGLE(2, 2, true),
    CIRCLE(3, 64, false),
    SPHERE(1, 1, true),
    CYLINDER(1, 1, true),
    PLANE(1, 1, true),
    SIZE(0, 0, false),
    SMALLEST_BOX(0, 0, false),
    AREA(0, 0, false),
    VOLUME(0, 0, false);

    private final int least;
    private final int most;
    private final boolean patch;

    Kind(int least, int most, boolean patch) {
      this.least = least;
      this.most = most;
      this.patch = patch;
    }

    public String title() {
      return CoreWords.of("measurement.kind." + name());
    }

    /** So many pins are needed. */
    public int least() {
      return least;
    }

    /** No more pins are taken. */
    public int most() {
      return most;
    }

    /** Whether the surface around a pin is measured, not the point alone. */
    public boolean takesPatches() {
      return patch;
    }
  }

  public Measurement {
    pins = List.copyOf(pins);
    if (pins.size() < kind.least || pins.size() > kind.most) {
      throw Failure.usage(
          kind.least == kind.most
              ? CoreWords.of("measurement.needs-places-not", kind.title(), kind.least, pins.size())
              : CoreWords.of(
                  "measurement.needs-at-least-places-not", kind.title(), kind.least, pins.size()));
    }
  }
}
