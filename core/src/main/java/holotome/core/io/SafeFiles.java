package holotome.core.io;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.DirectoryStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Files that appear whole or not at all: written beside their place under another name, then
 * renamed. Several files can be committed together, so that a set is never half new.
 */
public final class SafeFiles implements AutoCloseable {
  private static final String PART = ".part";

  private final Map<Path, Path> parts = new LinkedHashMap<>();

  /** An empty set. */
  public SafeFiles() {}

  /** Writes the content of one file. */
  @FunctionalInterface
  public interface Content {
    void write(OutputStream out) throws IOException;
  }

  /** Writes one file. */
  public static void write(Path target, Content content) {
    try (SafeFiles files = new SafeFiles()) {
      files.add(target, content);
      files.commit();
    }
  }

  /** Writes a file's content beside its place; {@link #commit} puts it there. */
  public void add(Path target, Content content) {
    Path place = target.toAbsolutePath();
    if (Files.isDirectory(place)) {
      throw Failure.cannot(CoreWords.of("safe-files.is-a-directory-name-a", target));
    }
    Path part =
        place.resolveSibling("." + place.getFileName() + PART + ProcessHandle.current().pid());
    try {
      Files.createDirectories(place.getParent());
      clearLeftovers(place);
      parts.put(place, part);
      try (OutputStream out =
          Files.newOutputStream(
              part,
              StandardOpenOption.CREATE,
              StandardOpenOption.TRUNCATE_EXISTING,
              StandardOpenOption.WRITE)) {
        content.write(out);
      }
    } catch (IOException e) {
      throw failed(target, e);
    }
  }

  /** Takes away what runs that were killed left beside a place; those still at work keep theirs. */
  private static void clearLeftovers(Path place) {
    String prefix = "." + place.getFileName() + PART;
    try (DirectoryStream<Path> beside =
        Files.newDirectoryStream(
            place.getParent(), p -> p.getFileName().toString().startsWith(prefix))) {
      for (Path p : beside) {
        String owner = p.getFileName().toString().substring(prefix.length());
        boolean isOurs =
            owner.matches("\\d{1,18}")
                && ProcessHandle.of(Long.parseLong(owner)).map(h -> !h.isAlive()).orElse(true);
        if (isOurs) {
          Files.deleteIfExists(p);
        }
      }
    } catch (IOException | java.nio.file.DirectoryIteratorException e) {
      // What cannot be cleared does no harm; whether the place can be written to is seen next.
      return;
    }
  }

  /** Puts every file in its place. */
  public void commit() {
    for (Map.Entry<Path, Path> e : parts.entrySet()) {
      try {
        Files.move(
            e.getValue(),
            e.getKey(),
            StandardCopyOption.ATOMIC_MOVE,
            StandardCopyOption.REPLACE_EXISTING);
      } catch (IOException x) {
        throw failed(e.getKey(), x);
      }
    }
    parts.clear();
  }

  private static Failure failed(Path target, IOException e) {
    String why =
        switch (e) {
          case java.nio.file.AccessDeniedException x ->
              CoreWords.of("safe-files.access-is-denied-choose-another");
          case FileAlreadyExistsException x ->
              CoreWords.of("safe-files.is-a-file-not-a", x.getFile());
          case java.nio.file.NoSuchFileException x ->
              CoreWords.of("safe-files.its-directory-does-not-exist");
          default ->
              String.valueOf(e.getMessage()).contains("No space left")
                  ? CoreWords.of("safe-files.the-disk-is-full-free")
                  : e.getMessage();
        };
    return new Failure(
        Failure.Kind.CANNOT, CoreWords.of("safe-files.cannot-be-written", target, why), e);
  }

  @Override
  public void close() {
    for (Path part : parts.values()) {
      try {
        Files.deleteIfExists(part);
      } catch (IOException e) {
        // A left-over part file does no harm; the failure that led here is what matters.
        continue;
      }
    }
    parts.clear();
  }
}
