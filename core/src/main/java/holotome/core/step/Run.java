package holotome.core.step;

import holotome.core.task.Work;
import java.nio.file.Path;

/**
 * What a step is given beside the workpiece.
 *
 * @param work progress and cancel
 * @param out the directory for written files; null where nothing may be written
 */
public record Run(Work work, Path out) {
  public static Run unwatched() {
    return new Run(Work.unwatched(), null);
  }

  public static Run of(Work work) {
    return new Run(work, null);
  }
}
