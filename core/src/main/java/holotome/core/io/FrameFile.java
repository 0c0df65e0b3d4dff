package holotome.core.io;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import holotome.core.frame.Frame;
import holotome.core.frame.Mirrored;
import holotome.core.frame.NamedFrame;
import holotome.core.geometry.Similarity;
import holotome.core.task.Failure;
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
 * The side file that carries where a mesh file's coordinates stand, for other tools and for reading
 * the file back: JSON beside the mesh, under its name with {@code .frames.json} after it.
 *
 * <pre>
 * { "holotome-frames": 1,
 *   "mirrored": false,
 *   "frames": [
 *     { "name": "original", "matrix": [16 numbers by rows] },
 *     { "name": "working", "unit": 1.0, "matrix": [...] },
 *     { "name": "site grid", "unit": 1.0, "matrix": [...] } ] }
 * </pre>
 *
 * <p>Each matrix takes a column of the mesh file's x, y, z, 1 to the frame's coordinates; "unit" is
 * how many metres one unit of the frame is, left out where that is not known. "original" is the
 * file that the scan came from; "working" is metres, right-handed, Z up. A "mirrored" file is
 * left-handed: its x changes sign before any matrix is applied. A "mirrored" frame is left-handed:
 * its x changes sign after its matrix is applied.
 */
public final class FrameFile {
  private static final int VERSION = 1;

  /** What the first of several files in a row is kept as; if it was left-handed, with x turned. */
  private static final String FIRST = "first file";

  private static final String FIRST_TURNED = "first file, x turned";
  private static final long MOST_BYTES = 1 << 20;
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  private FrameFile() {}

  /** What a side file said of the capture's own frame; null where there was none. */
  public static NamedFrame original(Frame frame) {
    NamedFrame first = frame.named(FIRST);
    return first != null ? first : frame.named(FIRST_TURNED);
  }

  /** Where the side file of a mesh file stands. */
  public static Path beside(Path mesh) {
    return mesh.resolveSibling(mesh.getFileName() + ".frames.json");
  }

  /**
   * Adds the side file of a mesh file.
   *
   * @param placing from base coordinates to those written, before any mirroring
   * @param mirroredAxis of the written coordinates, or -1 for none
   */
  public static void add(
      SafeFiles files, Path mesh, Frame frame, Similarity placing, int mirroredAxis) {
    Similarity written = mirroredAxis < 0 ? placing : Mirrored.placing(placing, mirroredAxis);
    Similarity back = written.inverse();
    if (mirroredAxis >= 0) {
      // From the mirrored file to the mirrored base, and from there to the base: x before and
      // after.
      back = Mirrored.placing(back, 0);
    }
    List<Map<String, Object>> list = new ArrayList<>();
    Map<String, Object> original = entry("original", back.then(frame.toFile()), 0);
    if (frame.leftHandedFile()) {
      original.put("mirrored", true);
    }
    list.add(original);
    list.add(entry("working", back.then(frame.toWork()), frame.trueSize() ? 1 : 0));
    for (NamedFrame f : frame.named()) {
      list.add(entry(f.name(), back.then(f.fromBase()), f.unit()));
    }
    Map<String, Object> root = new LinkedHashMap<>();
    root.put("holotome-frames", VERSION);
    root.put("mirrored", mirroredAxis >= 0);
    root.put("frames", list);
    files.add(
        beside(mesh),
        out -> out.write((JSON.writeValueAsString(root) + "\n").getBytes(StandardCharsets.UTF_8)));
  }

  private static Map<String, Object> entry(String name, Similarity s, double unit) {
    double[] r = s.rotation();
    double[] t = s.shift();
    double k = s.scale();
    Map<String, Object> e = new LinkedHashMap<>();
    e.put("name", name);
    if (unit > 0) {
      e.put("unit", unit);
    }
    e.put(
        "matrix",
        List.of(
            k * r[0], k * r[1], k * r[2], t[0], k * r[3], k * r[4], k * r[5], t[1], k * r[6],
            k * r[7], k * r[8], t[2], 0.0, 0.0, 0.0, 1.0));
    return e;
  }

  /**
   * Puts a mesh that was read where its side file says it stands; gives it back as it is where
   * there is none.
   */
  static Loaded applied(Loaded loaded, Path mesh) throws IOException {
    Path file = beside(mesh);
    if (!Files.isRegularFile(file)) {
      return loaded;
    }
    if (Files.size(file) > MOST_BYTES) {
      throw Failure.badInput(CoreWords.of("frame-file.is-too-large-for-a", file));
    }
    JsonNode root;
    try {
      root = JSON.readTree(Files.readString(file, StandardCharsets.UTF_8));
    } catch (JsonProcessingException e) {
      throw new Failure(
          Failure.Kind.BAD_INPUT, CoreWords.of("frame-file.is-not-valid-json-mend", file), e);
    }
    if (root.path("holotome-frames").asInt(0) != VERSION) {
      throw Failure.badInput(CoreWords.of("frame-file.has-no-holotome-frames-1", file));
    }
    boolean mirrored = root.path("mirrored").asBoolean(false);
    Similarity toFile = loaded.frame().toFile();
    if (mirrored) {
      toFile = Mirrored.placing(toFile, 0);
    }
    Frame frame = new Frame(toFile, loaded.frame().toWork(), false);
    frame = mirrored ? frame.ofLeftHandedFile() : frame;
    for (JsonNode e : root.path("frames")) {
      String name = e.path("name").asText("");
      Similarity fromFile = similarity(e.path("matrix"), file, name);
      double unit = e.path("unit").asDouble(0);
      switch (name) {
        case "working" -> frame = frame.working(toFile.then(fromFile), unit == 1);
        case "original" -> {
          String first = e.path("mirrored").asBoolean(false) ? FIRST_TURNED : FIRST;
          frame = frame.keeping(new NamedFrame(first, toFile.then(fromFile), unit));
        }
        default -> frame = frame.keeping(new NamedFrame(name, toFile.then(fromFile), unit));
      }
    }
    List<String> notes = new ArrayList<>(loaded.notes());
    notes.add(CoreWords.of("frame-file.placed-as-says", file.getFileName()));
    return new Loaded(
        mirrored ? Mirrored.mesh(loaded.mesh()) : loaded.mesh(), frame, loaded.format(), notes);
  }

  private static Similarity similarity(JsonNode matrix, Path file, String name) {
    double[] m = new double[16];
    for (int i = 0; i < 16; i++) {
      m[i] = matrix.size() == 16 ? matrix.get(i).asDouble(Double.NaN) : Double.NaN;
    }
    Similarity s = Similarity.ofMatrix(m);
    if (s == null) {
      throw Failure.badInput(CoreWords.of("frame-file.the-matrix-of-is-no", file, name));
    }
    return s;
  }
}
