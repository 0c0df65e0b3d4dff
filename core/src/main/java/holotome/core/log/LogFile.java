package holotome.core.log;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import holotome.core.io.SafeFiles;
import holotome.core.measure.Measurement;
import holotome.core.part.Part;
import holotome.core.select.Pick;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.trim.CutSelection;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A Log as a file: JSON, fit to be read and written by hand. A project is the same file with the
 * path of its Scan.
 *
 * @param sources the paths of the files that are the Scan, as written in the file; none in a plain
 *     Log
 * @param selections what was kept under names
 * @param measurements what is measured on the work
 */
public record LogFile(
    List<Entry> entries,
    List<String> sources,
    Map<String, List<Pick>> selections,
    List<Measurement> measurements) {
  private static final int VERSION = 1;
  private static final StepKind SELECTION = StepKind.of(CutSelection.class);
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  public LogFile {
    entries = List.copyOf(entries);
    sources = List.copyOf(sources);
    selections = new LinkedHashMap<>(selections);
    measurements = List.copyOf(measurements);
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
      String begins = new String(in.readNBytes(200), StandardCharsets.UTF_8);
      return begins.stripLeading().startsWith("{") && begins.contains("\"holotome\"");
    } catch (IOException e) {
      return false;
    }
  }

  public static LogFile read(Path file) {
    if (!Files.isRegularFile(file)) {
      throw Failure.badInput(file + ": no such Log");
    }
    try {
      if (Files.size(file) > 1L << 30) {
        throw Failure.badInput(file + ": is larger than any Log; it is another kind of file");
      }
      return parse(Files.readString(file, StandardCharsets.UTF_8), file.toString());
    } catch (IOException e) {
      throw new Failure(Failure.Kind.BAD_INPUT, file + ": cannot be read: " + e.getMessage(), e);
    }
  }

  /** Reads a Log's text; {@code name} is used in messages. */
  public static LogFile parse(String text, String name) {
    Map<String, Object> root;
    try {
      root = JSON.readValue(text, new TypeReference<LinkedHashMap<String, Object>>() {});
    } catch (JsonProcessingException e) {
      String at = e.getLocation() == null ? "" : "line " + e.getLocation().getLineNr() + ": ";
      throw new Failure(
          Failure.Kind.BAD_INPUT,
          name
              + ": "
              + at
              + "not valid JSON: "
              + e.getOriginalMessage().lines().findFirst().orElse(""),
          e);
    }
    if (root == null || !(root.get("holotome") instanceof Integer version)) {
      throw Failure.badInput(name + ": has no \"holotome\": 1; it is no Log");
    }
    if (version != VERSION) {
      throw Failure.badInput(
          name + ": is a Log of version " + version + "; this program reads version " + VERSION);
    }
    if (!(root.get("entries") instanceof List<?> list)) {
      throw Failure.badInput(name + ": has no list of \"entries\"");
    }
    List<Entry> entries = new ArrayList<>();
    for (Object o : list) {
      int number = entries.size() + 1;
      if (!(o instanceof Map<?, ?> m)) {
        throw Failure.badInput(name + ": entry " + number + " is no group { ... }");
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
            Failure.Kind.BAD_INPUT, name + ": entry " + number + ": " + e.getMessage(), e);
      }
    }
    return new LogFile(
        entries, sources(root.get("scan"), name), selections(root, name), measurements(root, name));
  }

  private static List<String> sources(Object scan, String name) {
    return switch (scan) {
      case null -> List.of();
      case String s -> List.of(s);
      case List<?> l when l.stream().allMatch(String.class::isInstance) ->
          l.stream().map(String.class::cast).toList();
      default -> throw Failure.badInput(name + ": \"scan\" is neither a path nor a list of paths");
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
                  name + ": selection \"" + key + "\": " + e.getMessage(),
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
        String where = "measurement " + (out.size() + 1);
        try {
          out.add(StepKind.read(Measurement.class, o instanceof Map<?, ?> m ? m : Map.of(), where));
        } catch (Failure e) {
          throw new Failure(Failure.Kind.BAD_INPUT, name + ": " + e.getMessage(), e);
        }
      }
    }
    return out;
  }

  public String text() {
    Map<String, Object> root = new LinkedHashMap<>();
    root.put("holotome", VERSION);
    if (!sources.isEmpty()) {
      root.put("scan", sources.size() == 1 ? sources.getFirst() : sources);
    }
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
    root.put("entries", list);
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
    try {
      return JSON.writeValueAsString(root) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
  }

  public void write(Path file) {
    SafeFiles.write(file, out -> out.write(text().getBytes(StandardCharsets.UTF_8)));
  }
}
