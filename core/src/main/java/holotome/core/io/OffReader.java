package holotome.core.io;

import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
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

  static Loaded read(Path file, boolean isModelled, Work work) throws IOException {
    long size = Files.size(file);
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      TextSource t = new TextSource(file, in, size, work);
      t.setComment('#');
      boolean coloured = coloured(file, t);
      int most = (int) Math.min(MeshReader.MOST_TRIANGLES, size);
      int vertices = t.whole(0, most, "off-reader.the-number-of-vertices");
      int faces = t.whole(0, most, "off-reader.the-number-of-faces");
      t.whole(0, Integer.MAX_VALUE, "off-reader.the-number-of-edges");
      if (6L * vertices + 4L * faces > size) {
        throw t.bad(CoreWords.of("off-reader.counts-vertices-and-faces-do", vertices, faces, size));
      }
      float[] xyz = new float[3 * vertices];
      int[] colours = coloured ? new int[vertices] : null;
      double[] offset = new double[3];
      for (int v = 0; v < vertices; v++) {
        double x = t.number("off-reader.x-of-vertex", v);
        double y = t.number("off-reader.y-of-vertex", v);
        double z = t.number("off-reader.z-of-vertex", v);
        if (v == 0) {
          offset = Offset.of(x, y, z);
        }
        if (!Offset.fits(x, y, z, offset)) {
          throw t.bad(CoreWords.of("common.a-coordinate-is-larger-than"));
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
      Ints faceOf = new Ints(isModelled ? faces : 0);
      for (int f = 0; f < faces; f++) {
        int n = t.whole(0, 1 << 20, "off-reader.corners-of-face", f);
        int a = 0;
        int b = 0;
        for (int j = 0; j < n; j++) {
          int v = t.whole(0, vertices - 1, "common.face-corner", f, j);
          if (j >= 2) {
            tri.add(a);
            tri.add(b);
            tri.add(v);
            if (isModelled) {
              faceOf.add(f);
            }
          }
          if (j == 0) {
            a = v;
          }
          b = v;
        }
        t.skipLine();
      }
      Mesh mesh = new Mesh(xyz, tri.toArray(), colours);
      return Offset.settle(
          isModelled ? FaceCut.cut(mesh, faceOf.toArray()) : mesh, offset, "OFF", List.of());
    }
  }

  /** Reads the first word and says whether colours follow the vertices' places. */
  private static boolean coloured(Path file, TextSource t) {
    String word = t.next() ? t.word() : "";
    return switch (word) {
      case "OFF" -> false;
      case "COFF" -> true;
      case "NOFF", "STOFF", "CNOFF", "STCOFF", "STNOFF", "STCNOFF", "4OFF", "nOFF" ->
          throw Failure.badInput(CoreWords.of("off-reader.is-a-file-of-kind", file, word));
      default -> throw Failure.badInput(CoreWords.of("off-reader.does-not-begin-with-off", file));
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
        throw t.bad(CoreWords.of("off-reader.the-colour-of-vertex-is", vertex, text));
      }
    }
    return Colours.argb(rgb[0], rgb[1], rgb[2]);
  }
}
