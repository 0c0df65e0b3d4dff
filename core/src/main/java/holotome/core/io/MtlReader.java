package holotome.core.io;

import holotome.core.image.Colours;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Reads the material library beside an OBJ file: the diffuse colour and picture of each material.
 * What cannot be read is noted, not refused: the mesh is of use without it. Names that lead out of
 * the file's directory are not followed.
 */
final class MtlReader {
  private static final long LARGEST = 64L << 20;

  private MtlReader() {}

  static Map<String, Material> read(Path objFile, String name, List<String> notes) {
    Map<String, Material> out = new LinkedHashMap<>();
    Path mtl = beside(objFile, name);
    if (mtl == null || !Files.isRegularFile(mtl)) {
      notes.add(CoreWords.of("mtl-reader.material-library-is-not-beside", name));
      return out;
    }
    List<String> lines;
    try {
      lines = lines(mtl);
    } catch (IOException e) {
      notes.add(CoreWords.of("mtl-reader.material-library-cannot-be-read", name));
      return out;
    }
    Map<Path, Raster> pictures = new LinkedHashMap<>();
    String current = null;
    for (String line : lines) {
      String[] w = line.strip().split("\\s+", 2);
      String rest = w.length > 1 ? w[1].strip() : "";
      if (w[0].equals("newmtl")) {
        current = rest;
        out.put(current, new Material(current, 0xffffffff, null));
      } else if (current != null && w[0].equals("Kd")) {
        out.put(current, new Material(current, colour(rest), out.get(current).image()));
      } else if (current != null && w[0].equals("map_Kd")) {
        Raster r = picture(objFile, rest, pictures, notes);
        out.put(current, new Material(current, out.get(current).argb(), r));
      }
    }
    return out;
  }

  private static int colour(String text) {
    String[] w = text.split("\\s+");
    double[] c = new double[3];
    for (int i = 0; i < 3; i++) {
      byte[] b = (i < w.length ? w[i] : "1").getBytes(StandardCharsets.ISO_8859_1);
      double v = AsciiNumber.parse(b, 0, b.length);
      c[i] = Double.isFinite(v) ? 255 * v : 255;
    }
    return Colours.argb(c[0], c[1], c[2]);
  }

  private static Raster picture(
      Path objFile, String rest, Map<Path, Raster> known, List<String> notes) {
    Path path = beside(objFile, rest);
    if (path == null || !Files.isRegularFile(path)) {
      path = beside(objFile, withoutOptions(rest));
    }
    if (path == null || !Files.isRegularFile(path)) {
      notes.add(CoreWords.of("mtl-reader.picture-is-not-beside-the", rest));
      return null;
    }
    if (!known.containsKey(path)) {
      try {
        known.put(path, Pictures.read(path));
      } catch (IOException e) {
        notes.add(CoreWords.of("mtl-reader.picture-cannot-be-read-its", rest, e.getMessage()));
        known.put(path, null);
      }
    }
    return known.get(path);
  }

  /**
   * The name of a picture after options such as "-s 1 1 1" or "-clamp on" (Wavefront, "MTL material
   * format", 1995); the name itself may hold blanks.
   */
  static String withoutOptions(String text) {
    String rest = text;
    while (rest.startsWith("-")) {
      String[] w = rest.split("\\s+", 2);
      rest = w.length > 1 ? w[1] : "";
      int most =
          switch (w[0]) {
            case "-o", "-s", "-t" -> 3;
            case "-mm" -> 2;
            default -> 1;
          };
      boolean numbers = most > 1;
      for (int i = 0; i < most; i++) {
        String[] v = rest.split("\\s+", 2);
        if (v.length < 2 || numbers && !v[0].matches("[-+.0-9eE]+")) {
          break;
        }
        rest = v[1];
      }
    }
    return rest;
  }

  /** The lines of a text in UTF-8, or in Latin-1 where it is no UTF-8. */
  private static List<String> lines(Path file) throws IOException {
    if (Files.size(file) > LARGEST) {
      throw new IOException(CoreWords.of("mtl-reader.it-is-larger-than-any"));
    }
    try {
      return Files.readAllLines(file, StandardCharsets.UTF_8);
    } catch (CharacterCodingException e) {
      return Files.readAllLines(file, StandardCharsets.ISO_8859_1);
    }
  }

  private static Path beside(Path objFile, String name) {
    try {
      Path directory = objFile.toAbsolutePath().normalize().getParent();
      Path p = directory.resolve(name.replace('\\', '/')).normalize();
      return p.startsWith(directory) ? p : null;
    } catch (java.nio.file.InvalidPathException e) {
      return null;
    }
  }
}
