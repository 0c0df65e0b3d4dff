package holotome.core.io;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import java.util.List;

/**
 * A mesh as read from a file.
 *
 * @param frame leads back to the file's own coordinates
 * @param notes what was mended or left out in reading, in plain sentences
 */
public record Loaded(Mesh mesh, Frame frame, String format, List<String> notes) {
  public Loaded {
    notes = List.copyOf(notes);
  }
}
