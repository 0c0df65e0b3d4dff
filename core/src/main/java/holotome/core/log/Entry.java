package holotome.core.log;

import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * One step in a Log.
 *
 * @param on whether it takes effect; a switched-off entry stands by and can be switched on again
 * @param part the mesh that the step works on in place of the Scan; null for the Scan
 */
public record Entry(Step step, boolean on, Part<Mesh> part) {
  public Entry {
    if (Part.SCAN.equals(part)) {
      part = null;
    }
    if (part != null && !StepKind.of(step).worksOnAnyMesh()) {
      throw Failure.usage(CoreWords.of("entry.works-on-no-other-mesh", StepKind.of(step).id()));
    }
  }

  public Entry(Step step, boolean on) {
    this(step, on, null);
  }

  public static Entry of(Step step) {
    return new Entry(step, true);
  }

  /** The same entry with another step. */
  public Entry with(Step other) {
    return new Entry(other, on, part);
  }

  /** The same entry, switched on or off. */
  public Entry switched(boolean now) {
    return new Entry(step, now, part);
  }
}
