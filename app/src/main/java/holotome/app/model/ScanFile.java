package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.io.Loaded;
import java.nio.file.Path;
import java.util.List;

/**
 * What is known of the file that the work began with. Not its mesh: that is kept by the Log, which
 * may put it aside.
 *
 * @param notes what was mended or left out in reading, in plain sentences
 * @param colour in words: where the scan's colour stands
 * @param shift what leads from base coordinates to the file's own, in its units
 */
public record ScanFile(
    Path path,
    String format,
    List<String> notes,
    int triangles,
    int points,
    String colour,
    double[] shift) {

  static ScanFile of(Path path, Loaded loaded) {
    return new ScanFile(
        path,
        loaded.format(),
        loaded.notes(),
        loaded.mesh().triangleCount(),
        loaded.mesh().vertexCount(),
        loaded.mesh().hasTexture()
            ? AppWords.of("scan-file.colour-in-a-texture")
            : loaded.mesh().colours() != null
                ? AppWords.of("scan-file.colour-per-point")
                : AppWords.of("scan-file.no-colour"),
        loaded.frame().toFile().shift());
  }
}
