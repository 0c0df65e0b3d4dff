package holotome.core.step;

import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import java.util.Set;

/**
 * One step of the job: a record of its parameters and a pure function on workpieces.
 *
 * <p>The same parameters on the same workpiece give the same bytes, on any number of threads.
 * Implementations carry {@link Describes} and, on each component, {@link Parameter}.
 */
public interface Step {
  /**
   * Applies the step.
   *
   * @throws holotome.core.task.Failure if it cannot do what was asked, or was cancelled; nothing
   *     has changed then
   */
  Outcome apply(Workpiece in, Run run);

  /**
   * The parts that the result depends on. After an earlier entry is revised, a step runs again only
   * if one of these changed.
   */
  default Set<Part<?>> reads() {
    return StepKind.parts(getClass().getAnnotation(Describes.class).reads());
  }

  /** The parts that may be others afterwards; all else stays as it was. */
  default Set<Part<?>> writes() {
    return StepKind.parts(getClass().getAnnotation(Describes.class).writes());
  }

  /** Whether the step writes files, for the sake of which it runs again. */
  default boolean writesFiles() {
    return false;
  }

  /** What a step takes that does not touch the mesh, in bytes. */
  long LITTLE = 1 << 20;

  /** A forecast of the memory the step takes beside the workpiece, in bytes. */
  default long memory(Workpiece in) {
    return 60L * in.scan().triangleCount();
  }
}
