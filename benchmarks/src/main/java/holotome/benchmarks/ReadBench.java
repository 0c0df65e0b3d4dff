package holotome.benchmarks;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshReader;
import holotome.core.io.MeshWriter;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/** How fast files are read, beside merely adding up their bytes. */
final class ReadBench {
  private static final int TRIANGLES = 4_000_000;

  private ReadBench() {}

  static void run() throws Exception {
    Path ply = Data.demoFile(TRIANGLES);
    Mesh mesh = MeshReader.read(ply, Work.unwatched()).mesh();
    Table table =
        new Table("file", "MB", "s", "MB/s", "M triangles/s", "times as long as its bytes");
    measure(table, "PLY, binary, colour", ply);
    Path obj = Data.directory().resolve("read.obj");
    MeshWriter.write(obj, mesh, Similarity.IDENTITY, Work.unwatched());
    measure(table, "OBJ, text, colour", obj);
    Path stl = Data.directory().resolve("read.stl");
    MeshWriter.write(stl, mesh, Similarity.IDENTITY, Work.unwatched());
    measure(table, "STL, binary (welded)", stl);
    Path text = Data.directory().resolve("read-text.ply");
    textPly(mesh, text);
    measure(table, "PLY, text", text);
    table.print();
  }

  private static void measure(Table table, String name, Path file) throws Exception {
    double mb = Files.size(file) / 1e6;
    int[] triangles = new int[1];
    double s =
        Timing.median(
            3,
            5,
            () -> triangles[0] = MeshReader.read(file, Work.unwatched()).mesh().triangleCount());
    double bytes = Timing.median(1, 3, () -> sum(file));
    table.row(name, mb, s, mb / s, triangles[0] / 1e6 / s, s / bytes);
  }

  private static long sum(Path file) throws java.io.IOException {
    long sum = 0;
    byte[] block = new byte[1 << 20];
    try (InputStream in = Files.newInputStream(file)) {
      int n;
      while ((n = in.read(block)) > 0) {
        for (int i = 0; i < n; i++) {
          sum += block[i];
        }
      }
    }
    return sum;
  }

  private static void textPly(Mesh mesh, Path file) throws java.io.IOException {
    try (var out = Files.newBufferedWriter(file)) {
      out.write("ply\nformat ascii 1.0\nelement vertex " + mesh.vertexCount());
      out.write("\nproperty float x\nproperty float y\nproperty float z\nelement face ");
      out.write(mesh.triangleCount() + "\nproperty list uchar int vertex_indices\nend_header\n");
      float[] p = mesh.xyz();
      for (int i = 0; i < p.length; i += 3) {
        out.write(p[i] + " " + p[i + 1] + " " + p[i + 2] + "\n");
      }
      int[] t = mesh.triangles();
      for (int i = 0; i < t.length; i += 3) {
        out.write("3 " + t[i] + " " + t[i + 1] + " " + t[i + 2] + "\n");
      }
    }
  }
}
