package holotome.core.io;

import holotome.core.mesh.Colours;
import holotome.core.mesh.Material;
import holotome.core.mesh.Raster;
import java.io.IOException;
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
  private MtlReader() {}

  static Map<String, Material> read(Path objFile, String name, List<String> notes) {
    Map<String, Material> out = new LinkedHashMap<>();
    Path mtl = beside(objFile, name);
    if (mtl == null || !Files.isRegularFile(mtl)) {
      notes.add("Material library " + name + " is not beside the file; its colours are missing");
      return out;
    }
    List<String> lines;
    try {
      lines = Files.readAllLines(mtl, StandardCharsets.ISO_8859_1);
    } catch (IOException e) {
      notes.add("Material library " + name + " cannot be read; its colours are missing");
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
    // Options such as "-s 1 1 1" stand before the name; a name may hold blanks.
    Path path = beside(objFile, rest);
    if (path == null || !Files.isRegularFile(path)) {
      path = beside(objFile, rest.substring(rest.lastIndexOf(' ') + 1));
    }
    if (path == null || !Files.isRegularFile(path)) {
      notes.add("Picture " + rest + " is not beside the file; its colours are missing");
      return null;
    }
    if (!known.containsKey(path)) {
      try {
        known.put(path, Pictures.read(path));
      } catch (IOException e) {
        notes.add(
            "Picture "
                + rest
                + " cannot be read ("
                + e.getMessage()
                + "); its colours are missing");
        known.put(path, null);
      }
    }
    return known.get(path);
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
