package holotome.core.step;

import holotome.core.part.Workpiece;

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

  /** What a step takes that does not touch the mesh, in bytes. */
  long LITTLE = 1 << 20;

  /** A forecast of the memory the step takes beside the workpiece, in bytes. */
  default long memory(Workpiece in) {
    return 60L * in.scan().triangleCount();
  }
}
