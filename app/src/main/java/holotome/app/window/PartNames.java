package holotome.app.window;

import holotome.app.words.AppWords;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;

/** What the meshes of the work are called in the window. */
final class PartNames {
  private PartNames() {}

  static String of(Part<Mesh> part) {
    String key = "part." + part.name();
    return AppWords.has(key) ? AppWords.of(key) : part.name();
  }
}
