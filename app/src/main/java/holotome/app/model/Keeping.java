package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.log.LogFile;
import holotome.core.task.Failure;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;

/**
 * Keeps the work: after every entry in its project, or, while there is none, where the next start
 * finds it. Lives on the interface thread.
 */
public final class Keeping {
  private final Session session;
  private final Home home;
  private Path project;
  private Path recovery;
  private boolean unsaved;
  private String savedAt = "";

  Keeping(Session session, Home home) {
    this.session = session;
    this.home = home;
  }

  /** The project that the work is kept in; null for none. */
  public Path project() {
    return project;
  }

  /** Whether there is work that no project holds. */
  public boolean isUnsaved() {
    return unsaved;
  }

  /** When it was last kept or saved, in words; empty for not yet. */
  public String savedAt() {
    return savedAt;
  }

  /** Takes up other work; its file may be work of an earlier run that was not saved. */
  void begin(OpenedFile o) {
    boolean recovered = home.isRecovery(o.file());
    recovery = recovered ? o.file() : home.freshRecovery();
    project = o.isProject() && !recovered ? o.file() : null;
    unsaved = recovered;
  }

  void end() {
    project = null;
    unsaved = false;
    savedAt = "";
  }

  /** Keeps the work as it is now; what went wrong, or null. */
  Failure afterChange() {
    unsaved = true;
    try {
      if (project != null) {
        saveTo(project);
      } else {
        session.logFile().write(recovery);
        savedAt = AppWords.of("session.kept-at", now());
      }
      return null;
    } catch (Failure f) {
      return f;
    }
  }

  private static String now() {
    return LocalTime.now().format(DateTimeFormatter.ofPattern("HH:mm"));
  }

  private void saveTo(Path file) {
    session.logFile().write(file);
    unsaved = false;
    savedAt = AppWords.of("session.saved-at", now());
  }

  /** Saves to a project file and keeps the work there from now on; gives its full name. */
  Path save(Path given) {
    // Without its ending it would not be offered when projects are opened.
    Path file =
        given.toString().endsWith(LogFile.PROJECT_ENDING)
            ? given
            : given.resolveSibling(given.getFileName() + LogFile.PROJECT_ENDING);
    saveTo(file);
    project = file;
    try {
      Files.deleteIfExists(recovery);
    } catch (IOException e) {
      throw Failure.of(e);
    }
    home.addRecent(file);
    return file;
  }

  /** Throws kept work of an earlier run away. */
  public void discard(Path unsavedWork) {
    try {
      Files.deleteIfExists(unsavedWork);
      session.changed();
    } catch (IOException e) {
      session.fail(Failure.of(e));
    }
  }
}
