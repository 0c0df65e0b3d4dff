package holotome.app;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.task.Work;
import holotome.demo.DemoFiles;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Demo scans for tests, made once. */
final class Scans {
  private Scans() {}

  static Path bollard(int triangles) throws IOException {
    Path dir = Files.createDirectories(Path.of("target", "scans")).toAbsolutePath();
    Path file = dir.resolve("quay-" + triangles + ".ply");
    if (!Files.exists(file)) {
      DemoFiles.write("bollard", file, triangles, Work.unwatched());
    }
    return file;
  }

  /**
   * One end of the scale bar in the scan's coordinates, a hair inside: a ray past the very edge
   * would meet the paving behind it.
   */
  static double[] barEnd(Path scan, int end) throws IOException {
    JsonNode ends =
        new ObjectMapper().readTree(DemoFiles.truthBeside(scan).toFile()).at("/scaleBar/ends");
    double[] p = new double[3];
    for (int k = 0; k < 3; k++) {
      p[k] =
          0.9985 * ends.get(end).get(k).asDouble() + 0.0015 * ends.get(1 - end).get(k).asDouble();
    }
    return p;
  }
}
