package holotome.core.io;

import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Reads OFF, the object file format of positions and polygons in text (Geomview's manual). */
final class OffReader {
  private OffReader() {}

  static Loaded read(Path file, Work work) throws IOException {
    long size = Files.size(file);
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      TextSource t = new TextSource(file, in, size, work);
      t.setComment('#');
      if (!t.next() || !t.is("OFF")) {
        throw Failure.badInput(file + ": does not begin with \"OFF\"; it is not an OFF file");
      }
      int most = (int) Math.min(700_000_000, size);
      int vertices = t.whole("the number of vertices", 0, most);
      int faces = t.whole("the number of faces", 0, most);
      t.whole("the number of edges", 0, Integer.MAX_VALUE);
      if (6L * vertices + 4L * faces > size) {
        throw t.bad(
            "counts "
                + vertices
                + " vertices and "
                + faces
                + " faces do not fit in "
                + size
                + " bytes; the file is truncated or its counts are wrong");
      }
      float[] xyz = new float[3 * vertices];
      double[] offset = new double[3];
      for (int v = 0; v < vertices; v++) {
        double x = t.number("x of vertex " + v);
        double y = t.number("y of vertex " + v);
        double z = t.number("z of vertex " + v);
        if (v == 0) {
          offset = Offset.of(x, y, z);
        }
        xyz[3 * v] = (float) (x - offset[0]);
        xyz[3 * v + 1] = (float) (y - offset[1]);
        xyz[3 * v + 2] = (float) (z - offset[2]);
        t.skipLine();
      }
      Ints tri = new Ints(3 * faces);
      for (int f = 0; f < faces; f++) {
        int n = t.whole("corners of face " + f, 0, 1 << 20);
        int a = 0;
        int b = 0;
        for (int j = 0; j < n; j++) {
          int v = t.whole("face " + f + ", corner " + j, 0, vertices - 1);
          if (j >= 2) {
            tri.add(a);
            tri.add(b);
            tri.add(v);
          }
          if (j == 0) {
            a = v;
          }
          b = v;
        }
        t.skipLine();
      }
      return Offset.settle(new Mesh(xyz, tri.toArray()), offset, "OFF", List.of());
    }
  }
}
