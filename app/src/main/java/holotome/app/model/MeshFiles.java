package holotome.app.model;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** The files that a mesh is read from, as patterns for choosing one. */
public final class MeshFiles {
  private static final List<String> ENDINGS = List.of("ply", "obj", "stl", "off");

  private MeshFiles() {}

  /** One for each format, in small and in capital letters. */
  public static List<String> patterns() {
    List<String> out = new ArrayList<>();
    ENDINGS.forEach(e -> out.add("*." + e));
    ENDINGS.forEach(e -> out.add("*." + e.toUpperCase(Locale.ROOT)));
    return out;
  }
}
