package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.log.LogFile;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.words.Language;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** Where the program keeps its own files: recent files, unsaved work, generated scans, states. */
public final class Home {
  private static final int MOST_RECENT = 8;
  private static final int MOST_UNSAVED = 20;
  private static final String UNSAVED = LogFile.PROJECT_ENDING;
  private static final String RECENT = "recent.txt";

  private final Path cache;
  private final Path data;
  private final Path config;
  private final Path usualOutput;
  private Path output;

  /** Everything in one directory, written assets under "out". */
  public Home(Path root) {
    this(root, root, root, root.resolve("out"));
  }

  private Home(Path cache, Path data, Path config, Path output) {
    this.cache = cache;
    this.data = data;
    this.config = config;
    this.usualOutput = output;
    this.output = output;
  }

  /**
   * The user's directories (XDG Base Directory Specification 0.8): what can be made again in the
   * cache, work that was not saved with the data, settings by themselves; or all where the property
   * holotome.home says.
   */
  public static Home ofUser() {
    String given = System.getProperty("holotome.home");
    if (given != null) {
      return new Home(Path.of(given));
    }
    Path user = Path.of(System.getProperty("user.home"));
    Home home =
        new Home(
            directory("XDG_CACHE_HOME", user.resolve(".cache")),
            directory("XDG_DATA_HOME", user.resolve(".local").resolve("share")),
            directory("XDG_CONFIG_HOME", user.resolve(".config")),
            user.resolve("Holotome"));
    home.takeOver();
    return home;
  }

  private static Path directory(String variable, Path usual) {
    String given = System.getenv(variable);
    Path base = given != null && !given.isBlank() ? Path.of(given) : usual;
    return base.resolve("holotome");
  }

  /** Work that earlier versions kept in the cache, which cleaners delete, is moved to the data. */
  void takeOver() {
    Path before = cache.resolve("unsaved");
    if (before.equals(unsavedDirectory()) || !Files.isDirectory(before)) {
      return;
    }
    try (Stream<Path> files = Files.list(before)) {
      Files.createDirectories(unsavedDirectory());
      for (Path p : files.toList()) {
        Path to = unsavedDirectory().resolve(p.getFileName());
        if (!Files.exists(to)) {
          Files.move(p, to);
        }
      }
      Path recent = cache.resolve(RECENT);
      if (Files.exists(recent) && !Files.exists(data.resolve(RECENT))) {
        Files.move(recent, data.resolve(RECENT));
      }
    } catch (IOException e) {
      // What cannot be moved stays where it was; nothing is lost by it.
      return;
    }
  }

  /** Where the settings are kept. */
  Path settings() {
    return config.resolve("settings.properties");
  }

  /** Where the logs of the last runs are. */
  public Path logs() {
    return data.resolve("logs");
  }

  /** Where files go while neither a project nor the settings say otherwise. */
  Path usualOutput() {
    return usualOutput;
  }

  /** Has files written below another directory from now on. */
  public void setOutput(Path directory) {
    output = directory;
  }

  public Path states() {
    return cache.resolve("states-" + ProcessHandle.current().pid());
  }

  public Path demoScan(int triangles) {
    return cache.resolve("demo").resolve("quay-bollard-" + triangles + ".ply");
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

  /** Of which scan autosaved work is, how far it went, and when that was, in words. */
  public String about(Path file) {
    String when;
    try {
      when =
          Files.getLastModifiedTime(file)
              .toInstant()
              .atZone(ZoneId.systemDefault())
              .format(
                  DateTimeFormatter.ofPattern(AppWords.of("home.day"), Language.now().locale()));
    } catch (IOException e) {
      when = file.getFileName().toString();
    }
    try {
      LogFile log = LogFile.read(file);
      int n = log.entries().size();
      List<String> said = new ArrayList<>();
      if (log.source() != null) {
        said.add(Path.of(log.source()).getFileName().toString());
      }
      said.add(AppWords.count("common.entries", n));
      if (n > 0) {
        said.add(AppWords.of("home.the-last", StepKind.of(log.entries().getLast().step()).title()));
      }
      said.add(when);
      return String.join(", ", said);
    } catch (Failure | java.nio.file.InvalidPathException e) {
      return when;
    }
  }

  private Path unsavedDirectory() {
    return data.resolve("unsaved");
  }

  public List<Path> recent() {
    try {
      List<Path> out = new ArrayList<>();
      for (String line : Files.readAllLines(data.resolve(RECENT), StandardCharsets.UTF_8)) {
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
        data.resolve(RECENT), out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
  }
}
