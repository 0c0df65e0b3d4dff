package holotome.core.io;

import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
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
      boolean coloured = coloured(file, t);
      int most = (int) Math.min(MeshReader.MOST_TRIANGLES, size);
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
      int[] colours = coloured ? new int[vertices] : null;
      double[] offset = new double[3];
      for (int v = 0; v < vertices; v++) {
        double x = t.number("x of vertex " + v);
        double y = t.number("y of vertex " + v);
        double z = t.number("z of vertex " + v);
        if (v == 0) {
          offset = Offset.of(x, y, z);
        }
        if (!Offset.fits(x, y, z, offset)) {
          throw t.bad("a coordinate is larger than a mesh can hold (3.4e38)");
        }
        xyz[3 * v] = (float) (x - offset[0]);
        xyz[3 * v + 1] = (float) (y - offset[1]);
        xyz[3 * v + 2] = (float) (z - offset[2]);
        String rest = t.restOfLine();
        if (coloured) {
          colours[v] = colour(t, v, rest);
        }
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
      return Offset.settle(new Mesh(xyz, tri.toArray(), colours), offset, "OFF", List.of());
    }
  }

  /** Reads the first word and says whether colours follow the vertices' places. */
  private static boolean coloured(Path file, TextSource t) {
    String word = t.next() ? t.word() : "";
    return switch (word) {
      case "OFF" -> false;
      case "COFF" -> true;
      case "NOFF", "STOFF", "CNOFF", "STCOFF", "STNOFF", "STCNOFF", "4OFF", "nOFF" ->
          throw Failure.badInput(
              file + ": is a file of kind " + word + "; of OFF, plain OFF and COFF are read");
      default ->
          throw Failure.badInput(
              file + ": does not begin with \"OFF\" or \"COFF\"; it is not an OFF file");
    };
  }

  /** Whole numbers are taken from 0 to 255, numbers with a point from 0 to 1. */
  private static int colour(TextSource t, int vertex, String text) {
    String[] words = text.split("\\s+");
    double[] rgb = new double[3];
    for (int k = 0; k < 3; k++) {
      byte[] w =
          k < words.length ? words[k].getBytes(StandardCharsets.ISO_8859_1) : new byte[] {'-'};
      rgb[k] = AsciiNumber.parse(w, 0, w.length) * (text.indexOf('.') >= 0 ? 255 : 1);
      if (!Double.isFinite(rgb[k])) {
        throw t.bad("the colour of vertex " + vertex + " is \"" + text + "\", not three numbers");
      }
    }
    return Colours.argb(rgb[0], rgb[1], rgb[2]);
  }
}
