package holotome.app.model;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** Where the program keeps its own files: recent files, unsaved work, generated scans, states. */
public final class Home {
  private static final int MOST_RECENT = 8;
  private static final int MOST_UNSAVED = 20;
  private static final String UNSAVED = ".holotome";

  private final Path root;
  private final Path output;

  /** Everything in one directory, written assets under "out". */
  public Home(Path root) {
    this(root, root.resolve("out"));
  }

  private Home(Path root, Path output) {
    this.root = root;
    this.output = output;
  }

  /** The user's cache directory, or what the property holotome.home says. */
  public static Home ofUser() {
    String given = System.getProperty("holotome.home");
    if (given != null) {
      return new Home(Path.of(given));
    }
    String cache = System.getenv("XDG_CACHE_HOME");
    Path base =
        cache != null && !cache.isBlank()
            ? Path.of(cache)
            : Path.of(System.getProperty("user.home"), ".cache");
    return new Home(base.resolve("holotome"), Path.of(System.getProperty("user.home"), "Holotome"));
  }

  public Path states() {
    return root.resolve("states-" + ProcessHandle.current().pid());
  }

  public Path demoScan(int triangles) {
    return root.resolve("demo").resolve("quay-bollard-" + triangles + ".ply");
  }

  /** Where files of work on this scan are written while no project says otherwise. */
  public Path output(Path scan) {
    String name = scan.getFileName().toString();
    int dot = name.lastIndexOf('.');
    return output.resolve(dot > 0 ? name.substring(0, dot) : name);
  }

  /** A fresh place for autosaving work on a scan that is not saved elsewhere. */
  public Path freshRecovery() {
    Path file;
    long stamp = System.currentTimeMillis();
    do {
      file = unsavedDirectory().resolve(stamp++ + UNSAVED);
    } while (Files.exists(file));
    return file;
  }

  public boolean isRecovery(Path file) {
    return file.toAbsolutePath().startsWith(unsavedDirectory().toAbsolutePath());
  }

  /** Autosaved work that was not saved elsewhere, newest first. */
  public List<Path> unsaved() {
    try (Stream<Path> files = Files.list(unsavedDirectory())) {
      return files
          .filter(p -> p.toString().endsWith(UNSAVED))
          .sorted(Comparator.reverseOrder())
          .limit(MOST_UNSAVED)
          .toList();
    } catch (IOException e) {
      return List.of();
    }
  }

  private Path unsavedDirectory() {
    return root.resolve("unsaved");
  }

  public List<Path> recent() {
    try {
      List<Path> out = new ArrayList<>();
      for (String line : Files.readAllLines(root.resolve("recent.txt"), StandardCharsets.UTF_8)) {
        Path p = Path.of(line);
        if (Files.isRegularFile(p)) {
          out.add(p);
        }
      }
      return out;
    } catch (IOException | java.nio.file.InvalidPathException e) {
      return List.of();
    }
  }

  public void addRecent(Path file) {
    List<Path> list = new ArrayList<>(recent());
    Path p = file.toAbsolutePath().normalize();
    list.remove(p);
    list.addFirst(p);
    String text = String.join("\n", list.stream().limit(MOST_RECENT).map(Path::toString).toList());
    holotome.core.io.SafeFiles.write(
        root.resolve("recent.txt"), out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
  }
}
