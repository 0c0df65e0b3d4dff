package holotome.core.log;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import holotome.core.io.SafeFiles;
import holotome.core.measure.Measurement;
import holotome.core.part.Part;
import holotome.core.select.Pick;
import holotome.core.step.Blob;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.trim.CutSelection;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A Log as a file: JSON, fit to be read and written by hand. A project is the same with the path of
 * its Scan, in an archive with what its entries carry ({@link ProjectFile}); older ones are the
 * JSON alone. See {@code docs/PROJECT.md}.
 *
 * @param sources the paths of the files that are the Scan, as written in the file; none in a plain
 *     Log
 * @param selections what was kept under names
 * @param measurements what is measured on the work
 * @param line the name of the line that {@code entries} is; null where there is but one
 * @param others further lines
 */
public record LogFile(
    List<Entry> entries,
    List<String> sources,
    Map<String, List<Pick>> selections,
    List<Measurement> measurements,
    String line,
    List<LineFile> others) {
  /** What a project's name ends with. */
  public static final String PROJECT_ENDING = ".holotome";

  private static final int VERSION = 1;
  private static final StepKind SELECTION = StepKind.of(CutSelection.class);
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  public LogFile {
    entries = List.copyOf(entries);
    sources = List.copyOf(sources);
    selections = new LinkedHashMap<>(selections);
    measurements = List.copyOf(measurements);
    others = List.copyOf(others);
  }

  public LogFile(
      List<Entry> entries,
      List<String> sources,
      Map<String, List<Pick>> selections,
      List<Measurement> measurements) {
    this(entries, sources, selections, measurements, null, List.of());
  }

  public LogFile(List<Entry> entries, String source) {
    this(entries, source == null ? List.of() : List.of(source), Map.of(), List.of());
  }

  /** The path of the Scan, the first of several; null in a plain Log. */
  public String source() {
    return sources.isEmpty() ? null : sources.getFirst();
  }

  /** Whether a file is a Log or a project, told by how it begins and not by its name. */
  public static boolean isLog(Path file) {
    try (var in = Files.newInputStream(file)) {
      String begins = new String(in.readNBytes(200), StandardCharsets.ISO_8859_1);
      return isArchive(begins)
          ? begins.contains(ProjectFile.LOG)
          : begins.stripLeading().startsWith("{") && begins.contains("\"holotome\"");
    } catch (IOException e) {
      return false;
    }
  }

  private static boolean isArchive(String begins) {
    return begins.startsWith("PK\u0003\u0004");
  }

  /** The entries of a line by its name; null for the current one. */
  public List<Entry> line(String name) {
    if (name == null || name.equals(line)) {
      return entries;
    }
    for (LineFile l : others) {
      if (l.name().equals(name)) {
        return l.all(entries);
      }
    }
    List<String> names = new ArrayList<>(others.stream().map(LineFile::name).toList());
    if (line != null) {
      names.addFirst(line);
    }
    throw Failure.usage(
        names.isEmpty()
            ? CoreWords.of("log-file.there-is-no-line-there", name)
            : CoreWords.of("log-file.there-is-no-line-there-2", name, String.join(", ", names)));
  }

  /** Reads a Log or a project. */
  public static LogFile read(Path file) {
    if (!Files.isRegularFile(file)) {
      throw Failure.badInput(CoreWords.of("log-file.no-such-log", file));
    }
    try {
      String begins;
      try (var in = Files.newInputStream(file)) {
        begins = new String(in.readNBytes(4), StandardCharsets.ISO_8859_1);
      }
      if (isArchive(begins)) {
        ProjectFile.Content c = ProjectFile.read(file);
        return parse(c.text(), file.toString(), c.blobs());
      }
      if (Files.size(file) > 1L << 30) {
        throw Failure.badInput(CoreWords.of("log-file.is-larger-than-any-log", file));
      }
      return parse(Files.readString(file, StandardCharsets.UTF_8), file.toString());
    } catch (IOException e) {
      throw new Failure(
          Failure.Kind.BAD_INPUT, CoreWords.of("common.cannot-be-read", file, e.getMessage()), e);
    }
  }

  /** Reads a Log's text; {@code name} is used in messages. */
  public static LogFile parse(String text, String name) {
    return parse(text, name, Map.of());
  }

  private static LogFile parse(String text, String name, Map<String, Blob> blobs) {
    Map<String, Object> root;
    try {
      root = JSON.readValue(text, new TypeReference<LinkedHashMap<String, Object>>() {});
    } catch (JsonProcessingException e) {
      String why = e.getOriginalMessage().lines().findFirst().orElse("");
      throw new Failure(
          Failure.Kind.BAD_INPUT,
          e.getLocation() == null
              ? CoreWords.of("log-file.not-valid-json", name, why)
              : CoreWords.of(
                  "log-file.not-valid-json-in-line", name, e.getLocation().getLineNr(), why),
          e);
    }
    if (root == null || !(root.get("holotome") instanceof Integer version)) {
      throw Failure.badInput(CoreWords.of("log-file.has-no-holotome-1-it", name));
    }
    if (version != VERSION) {
      throw Failure.badInput(CoreWords.of("log-file.is-a-log-of-version", name, version, VERSION));
    }
    root.replaceAll((key, value) -> withBlobs(value, blobs, name));
    List<Entry> entries = entries(root.get("entries"), name);
    return new LogFile(
        entries,
        sources(root.get("scan"), name),
        selections(root, name),
        measurements(root, name),
        root.get("line") instanceof String s ? s : null,
        others(root.get("lines"), entries.size(), name));
  }

  /** A value with what it refers to by name put in its place. */
  private static Object withBlobs(Object value, Map<String, Blob> blobs, String name) {
    return switch (value) {
      case Map<?, ?> m when m.size() == 1 && m.get("blob") instanceof String id -> {
        Blob b = blobs.get(id);
        if (b == null) {
          throw Failure.badInput(CoreWords.of("log-file.is-not-among-its-blobs", name, id));
        }
        yield b;
      }
      case Map<?, ?> m -> {
        Map<String, Object> out = new LinkedHashMap<>();
        m.forEach((k, v) -> out.put(k.toString(), withBlobs(v, blobs, name)));
        yield out;
      }
      case List<?> l -> {
        List<Object> out = new ArrayList<>();
        l.forEach(v -> out.add(withBlobs(v, blobs, name)));
        yield out;
      }
      case null, default -> value;
    };
  }

  private static List<LineFile> others(Object lines, int most, String name) {
    if (!(lines instanceof List<?> list)) {
      return List.of();
    }
    List<LineFile> out = new ArrayList<>();
    for (Object o : list) {
      boolean whole =
          o instanceof Map<?, ?> m
              && m.get("name") instanceof String
              && m.get("from") instanceof Integer from
              && from >= 0
              && from <= most;
      if (!whole) {
        throw Failure.badInput(
            CoreWords.of("log-file.line-needs-a-name-and", name, (out.size() + 1)));
      }
      Map<?, ?> m = (Map<?, ?>) o;
      out.add(
          new LineFile(
              (String) m.get("name"),
              (Integer) m.get("from"),
              entries(m.get("entries"), CoreWords.of("log-file.line", name, m.get("name")))));
    }
    return out;
  }

  private static List<Entry> entries(Object of, String name) {
    if (!(of instanceof List<?> list)) {
      throw Failure.badInput(CoreWords.of("log-file.has-no-list-of-entries", name));
    }
    List<Entry> entries = new ArrayList<>();
    for (Object o : list) {
      int number = entries.size() + 1;
      if (!(o instanceof Map<?, ?> m)) {
        throw Failure.badInput(CoreWords.of("log-file.entry-is-no-group", name, number));
      }
      Map<String, Object> values = new LinkedHashMap<>();
      m.forEach((k, v) -> values.put(k.toString(), v));
      boolean on = !Boolean.FALSE.equals(values.remove("on"));
      Object part = values.remove("part");
      try {
        entries.add(
            new Entry(
                Catalogue.create(values), on, part == null ? null : Part.mesh(part.toString())));
      } catch (Failure e) {
        throw new Failure(
            Failure.Kind.BAD_INPUT,
            CoreWords.of("log-file.entry", name, number, e.getMessage()),
            e);
      }
    }
    return entries;
  }

  private static List<String> sources(Object scan, String name) {
    return switch (scan) {
      case null -> List.of();
      case String s -> List.of(s);
      case List<?> l when l.stream().allMatch(String.class::isInstance) ->
          l.stream().map(String.class::cast).toList();
      default -> throw Failure.badInput(CoreWords.of("log-file.scan-is-neither-a-path", name));
    };
  }

  /** Named selections are lists of picks, as in an entry that removes a selection. */
  private static Map<String, List<Pick>> selections(Map<String, Object> root, String name) {
    Map<String, List<Pick>> out = new LinkedHashMap<>();
    if (root.get("selections") instanceof Map<?, ?> all) {
      all.forEach(
          (key, picks) -> {
            try {
              CutSelection read = (CutSelection) SELECTION.create(Map.of("picks", picks));
              out.put(key.toString(), read.picks());
            } catch (Failure e) {
              throw new Failure(
                  Failure.Kind.BAD_INPUT,
                  CoreWords.of("log-file.selection", name, key, e.getMessage()),
                  e);
            }
          });
    }
    return out;
  }

  private static List<Measurement> measurements(Map<String, Object> root, String name) {
    List<Measurement> out = new ArrayList<>();
    if (root.get("measurements") instanceof List<?> all) {
      for (Object o : all) {
        String where = CoreWords.of("log-file.measurement", out.size() + 1);
        try {
          out.add(StepKind.read(Measurement.class, o instanceof Map<?, ?> m ? m : Map.of(), where));
        } catch (Failure e) {
          throw new Failure(Failure.Kind.BAD_INPUT, name + ": " + e.getMessage(), e);
        }
      }
    }
    return out;
  }

  /** As JSON to be read and written by hand; what entries carry stands in it as base 64. */
  public String text() {
    return text(new LinkedHashMap<>(), false);
  }

  /**
   * @param blobs filled with what is carried, where that is to stand elsewhere
   * @param apart whether it is
   */
  private String text(Map<String, Blob> blobs, boolean apart) {
    Map<String, Object> root = new LinkedHashMap<>();
    root.put("holotome", VERSION);
    if (!sources.isEmpty()) {
      root.put("scan", sources.size() == 1 ? sources.getFirst() : sources);
    }
    if (line != null) {
      root.put("line", line);
    }
    root.put("entries", plain(entries));
    if (!others.isEmpty()) {
      List<Map<String, Object>> lines = new ArrayList<>();
      for (LineFile l : others) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("name", l.name());
        m.put("from", l.from());
        m.put("entries", plain(l.entries()));
        lines.add(m);
      }
      root.put("lines", lines);
    }
    if (!selections.isEmpty()) {
      Map<String, Object> kept = new LinkedHashMap<>();
      selections.forEach(
          (name, picks) -> {
            CutSelection step = CutSelection.of(picks, CutSelection.Then.REMOVE);
            kept.put(name, SELECTION.values(step).get("picks"));
          });
      root.put("selections", kept);
    }
    if (!measurements.isEmpty()) {
      root.put("measurements", measurements.stream().map(StepKind::write).toList());
    }
    root.replaceAll((key, value) -> written(value, blobs, apart));
    try {
      return JSON.writeValueAsString(root) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
  }

  private static List<Map<String, Object>> plain(List<Entry> entries) {
    List<Map<String, Object>> list = new ArrayList<>();
    for (Entry e : entries) {
      Map<String, Object> values = StepKind.of(e.step()).values(e.step());
      if (e.part() != null) {
        values.put("part", e.part().name());
      }
      if (!e.on()) {
        values.put("on", false);
      }
      list.add(values);
    }
    return list;
  }

  /** A value with what it carries as text, or as the name of a file of its own. */
  private static Object written(Object value, Map<String, Blob> blobs, boolean apart) {
    return switch (value) {
      case Blob b when apart -> Map.of("blob", kept(b, blobs));
      case Blob b -> b.text();
      case Map<?, ?> m -> {
        Map<String, Object> out = new LinkedHashMap<>();
        m.forEach((k, v) -> out.put(k.toString(), written(v, blobs, apart)));
        yield out;
      }
      case List<?> l -> l.stream().map(v -> written(v, blobs, apart)).toList();
      case null, default -> value;
    };
  }

  private static String kept(Blob b, Map<String, Blob> blobs) {
    for (Map.Entry<String, Blob> e : blobs.entrySet()) {
      if (e.getValue().equals(b)) {
        return e.getKey();
      }
    }
    String id = String.format("%04d", blobs.size() + 1);
    blobs.put(id, b);
    return id;
  }

  /**
   * Writes a project where the name ends so, else a Log to be read by hand; whole or not at all.
   */
  public void write(Path file) {
    if (file.toString().endsWith(PROJECT_ENDING)) {
      Map<String, Blob> blobs = new LinkedHashMap<>();
      String text = text(blobs, true);
      ProjectFile.write(file, new ProjectFile.Content(text, blobs));
    } else {
      SafeFiles.write(file, out -> out.write(text().getBytes(StandardCharsets.UTF_8)));
    }
  }
}
