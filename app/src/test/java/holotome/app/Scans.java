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

  /** One end of the scale bar in the scan's coordinates. */
  static double[] barEnd(Path scan, int end) throws IOException {
    JsonNode p =
        new ObjectMapper()
            .readTree(DemoFiles.truthBeside(scan).toFile())
            .at("/scaleBar/ends")
            .get(end);
    return new double[] {p.get(0).asDouble(), p.get(1).asDouble(), p.get(2).asDouble()};
  }
}
