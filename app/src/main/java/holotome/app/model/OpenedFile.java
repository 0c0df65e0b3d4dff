package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.intake.Gathering;
import holotome.core.io.Loaded;
import holotome.core.log.Checkpoints;
import holotome.core.log.History;
import holotome.core.log.LogFile;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * What opening a file gave.
 *
 * @param file that was opened
 * @param scan the first mesh file of the work
 * @param scans all mesh files that make up the Scan
 * @param history the Log with its states
 * @param log what the project holds beside; empty for a mesh file
 */
record OpenedFile(
    Path file, ScanFile scan, List<Path> scans, History history, boolean isProject, LogFile log) {

  /** By its ending, or by what it begins with: one saved without its ending is known as well. */
  static boolean isProject(Path file) {
    return file.toString().endsWith(LogFile.PROJECT_ENDING) || LogFile.isLog(file);
  }

  /**
   * Reads a project and runs its Log, or mesh files as one Scan. Any thread.
   *
   * @param file the project, or the first of the mesh files
   */
  static OpenedFile read(
      Path file, boolean isProject, List<Path> files, Checkpoints states, Home home, Work work) {
    LogFile log = isProject ? LogFile.read(file) : new LogFile(List.of(), null);
    List<Path> scans = isProject ? scansOf(file, log) : files;
    Path scan = scans.getFirst();
    Loaded mesh =
        Gathering.read(scans, work.part(isProject ? 0.2 : 0.6, AppWords.of("opened-file.reading")));
    History h = History.of(Workpiece.of(mesh.mesh(), mesh.frame()), states);
    if (isProject) {
      h =
          h.replay(
              log.entries(),
              new Run(work.part(0.6, AppWords.of("opened-file.replaying")), home.output(scan)));
    }
    return new OpenedFile(
        file, ScanFile.of(scan, mesh), scans, Session.measured(h), isProject, log);
  }

  private static List<Path> scansOf(Path file, LogFile log) {
    if (log.sources().isEmpty()) {
      throw Failure.badInput(AppWords.of("opened-file.names-no-scan-open-the", file));
    }
    List<Path> out = new ArrayList<>();
    for (String source : log.sources()) {
      Path beside = file.toAbsolutePath().getParent().resolve(source);
      out.add(Files.exists(beside) ? beside : Path.of(source));
    }
    return out;
  }
}
