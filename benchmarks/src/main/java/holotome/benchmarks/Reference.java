package holotome.benchmarks;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshReader;
import holotome.core.io.MeshWriter;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;

/**
 * What the reference library (CGAL, in a program of its own that scripts/references builds) makes
 * of a mesh, and in what time.
 *
 * @param seconds without starting the program, reading and writing
 */
record Reference(Mesh mesh, double seconds) {
  /** Whether it was built. */
  static boolean isThere() {
    return Files.isExecutable(program());
  }

  private static Path program() {
    return Path.of(System.getProperty("holotome.datasets")).resolve("../references/reference");
  }

  /**
   * @param what remesh, decimate or resurface
   * @param by an edge length, a number of triangles, a spacing
   */
  static Reference of(String what, Mesh mesh, double by) throws Exception {
    Path in = Files.createTempFile(Data.directory(), "reference", ".ply");
    Path out = Files.createTempFile(Data.directory(), "reference", ".ply");
    try {
      Mesh bare = new Mesh(mesh.xyz(), mesh.triangles());
      MeshWriter.write(in, bare, Similarity.IDENTITY, Work.unwatched());
      Process p =
          new ProcessBuilder(
                  program().toString(),
                  what,
                  in.toString(),
                  String.format(Locale.ROOT, "%.9g", by),
                  out.toString())
              .redirectError(ProcessBuilder.Redirect.INHERIT)
              .start();
      String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      if (p.waitFor() != 0) {
        throw new IllegalStateException("the reference program failed");
      }
      Mesh made = MeshReader.read(out, Work.unwatched()).mesh();
      return new Reference(made, Double.parseDouble(said.strip()));
    } finally {
      Files.deleteIfExists(in);
      Files.deleteIfExists(out);
    }
  }
}
