package holotome.benchmarks;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * What the reference library for charts makes of a mesh: xatlas, compiled to WebAssembly (the npm
 * package watlas, which scripts/references fetches), run by Node.js.
 *
 * @param mesh with its texture coordinates
 * @param seconds without starting the program, reading and writing
 */
record ChartReference(Mesh mesh, double seconds, int charts) {

  static boolean isThere() {
    return Files.isRegularFile(library());
  }

  private static Path references() {
    return Path.of(System.getProperty("holotome.datasets")).resolve("../references");
  }

  private static Path library() {
    return references().resolve("node_modules/watlas/dist/watlas.js");
  }

  static ChartReference of(Mesh mesh, int size, int gutter) throws Exception {
    Path in = Files.createTempFile(Data.directory(), "charts", ".bin");
    Path out = Files.createTempFile(Data.directory(), "charts", ".bin");
    try {
      ByteBuffer bytes =
          ByteBuffer.allocate(8 + 4 * mesh.xyz().length + 4 * mesh.triangles().length)
              .order(ByteOrder.LITTLE_ENDIAN);
      bytes.putInt(mesh.vertexCount()).putInt(mesh.triangleCount());
      for (float x : mesh.xyz()) {
        bytes.putFloat(x);
      }
      for (int k : mesh.triangles()) {
        bytes.putInt(k);
      }
      Files.write(in, bytes.array());
      Process p =
          new ProcessBuilder(
                  "node",
                  references().resolve("charts.mjs").toString(),
                  library().toString(),
                  in.toString(),
                  out.toString(),
                  Integer.toString(size),
                  Integer.toString(gutter))
              .redirectError(ProcessBuilder.Redirect.INHERIT)
              .start();
      String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      if (p.waitFor() != 0) {
        throw new IllegalStateException("the reference program failed");
      }
      String[] lines = said.strip().split("\n");
      String[] words = lines[lines.length - 1].split(" ");
      ByteBuffer made = ByteBuffer.wrap(Files.readAllBytes(out)).order(ByteOrder.LITTLE_ENDIAN);
      float[] uv = new float[2 * made.getInt()];
      for (int i = 0; i < uv.length; i++) {
        uv[i] = made.getFloat();
      }
      int[] corners = new int[mesh.triangles().length];
      for (int i = 0; i < corners.length; i++) {
        corners[i] = made.getInt();
      }
      return new ChartReference(
          mesh.withUv(new Uv(uv, corners)),
          Double.parseDouble(words[0]),
          Integer.parseInt(words[1]));
    } finally {
      Files.deleteIfExists(in);
      Files.deleteIfExists(out);
    }
  }
}
