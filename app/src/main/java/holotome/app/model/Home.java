package holotome.app.model;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Where the program keeps its own files: recent files, unsaved work, generated scans, states. */
public final class Home {
  private static final int MOST_RECENT = 8;
  private final Path root;

  public Home(Path root) {
    this.root = root;
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
    return new Home(base.resolve("holotome"));
  }

  public Path states() {
    return root.resolve("states-" + ProcessHandle.current().pid());
  }

  public Path demoScan(int triangles) {
    return root.resolve("demo").resolve("quay-bollard-" + triangles + ".ply");
  }

  public Path output() {
    return root.resolve("out");
  }

  /** The autosaved project; there while work is not saved elsewhere. */
  public Path recovery() {
    return root.resolve("unsaved.holotome");
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
