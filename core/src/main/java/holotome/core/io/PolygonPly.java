package holotome.core.io;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * The points and faces of a PLY file, in text or binary of either order, faces of any number of
 * corners kept as they are.
 *
 * @param points x, y, z each
 * @param faces the points of each
 */
record PolygonPly(List<double[]> points, List<int[]> faces) {
  private static final int MOST_CORNERS = 1 << 16;

  /** Where the numbers come from. */
  private interface Source {
    double number(PlyHeader.Type type, String where) throws IOException;

    int whole(PlyHeader.Type type, String where, int least, int most) throws IOException;
  }

  static PolygonPly read(Path file) throws IOException {
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      PlyHeader header = PlyHeader.read(file, in);
      Source source =
          header.encoding() == PlyHeader.Encoding.TEXT
              ? text(file, in, header)
              : new Binary(file, in, header.encoding() == PlyHeader.Encoding.LITTLE_ENDIAN);
      PolygonPly out = new PolygonPly(new ArrayList<>(), new ArrayList<>());
      for (PlyHeader.Element e : header.elements()) {
        out.take(e, source);
      }
      return out;
    }
  }

  private void take(PlyHeader.Element e, Source source) throws IOException {
    int x = e.indexOf("x");
    int y = e.indexOf("y");
    int z = e.indexOf("z");
    int list = e.name().equals("face") ? e.indexOf("vertex_indices", "vertex_index") : -1;
    boolean vertex = e.name().equals("vertex") && x >= 0 && y >= 0 && z >= 0;
    double[] row = new double[e.properties().size()];
    for (long i = 0; i < e.count(); i++) {
      String where = e.name() + " " + i;
      int[] face = null;
      for (int k = 0; k < row.length; k++) {
        PlyHeader.Property p = e.properties().get(k);
        if (p.countType() == null) {
          row[k] = source.number(p.type(), where);
          continue;
        }
        int n =
            source.whole(
                p.countType(), CoreWords.of("polygon-ply.its-count", where), 0, MOST_CORNERS);
        int[] items = new int[k == list ? n : 0];
        for (int j = 0; j < n; j++) {
          if (k == list) {
            items[j] = source.whole(p.type(), where, 0, Integer.MAX_VALUE);
          } else {
            source.number(p.type(), where);
          }
        }
        face = k == list ? items : face;
      }
      if (vertex) {
        points.add(new double[] {row[x], row[y], row[z]});
      } else if (face != null) {
        faces.add(face);
      }
    }
  }

  private static Source text(Path file, InputStream in, PlyHeader header) throws IOException {
    TextSource t = new TextSource(file, in, Files.size(file), Work.unwatched());
    t.skipped(header.lines());
    return new Source() {
      @Override
      public double number(PlyHeader.Type type, String where) throws IOException {
        return t.number("polygon-ply.at", where);
      }

      @Override
      public int whole(PlyHeader.Type type, String where, int least, int most) throws IOException {
        return t.whole(least, most, "polygon-ply.at", where);
      }
    };
  }

  /** Numbers as bytes. */
  private static final class Binary implements Source {
    private final Path file;
    private final DataInputStream in;
    private final boolean little;

    Binary(Path file, InputStream in, boolean little) {
      this.file = file;
      this.in = new DataInputStream(in);
      this.little = little;
    }

    @Override
    public double number(PlyHeader.Type type, String where) throws IOException {
      try {
        return switch (type) {
          case INT8 -> in.readByte();
          case UINT8 -> in.readUnsignedByte();
          case INT16 -> (short) two();
          case UINT16 -> two() & 0xffff;
          case INT32 -> four();
          case UINT32 -> four() & 0xffffffffL;
          case FLOAT32 -> finite(Float.intBitsToFloat(four()), where);
          case FLOAT64 -> finite(Double.longBitsToDouble(eight()), where);
        };
      } catch (EOFException e) {
        throw Failure.badInput(CoreWords.of("polygon-ply.ends-within", file, where));
      }
    }

    @Override
    public int whole(PlyHeader.Type type, String where, int least, int most) throws IOException {
      double v = number(type, where);
      if (v < least || v > most || v != Math.rint(v)) {
        throw Failure.badInput(CoreWords.of("polygon-ply.is-out-of-range", file, where, v));
      }
      return (int) v;
    }

    private double finite(double v, String where) {
      if (!(Math.abs(v) <= Float.MAX_VALUE)) {
        throw Failure.badInput(
            CoreWords.of("polygon-ply.a-finite-number-is-expected", file, where));
      }
      return v;
    }

    private int two() throws IOException {
      short v = in.readShort();
      return little ? Short.reverseBytes(v) : v;
    }

    private int four() throws IOException {
      int v = in.readInt();
      return little ? Integer.reverseBytes(v) : v;
    }

    private long eight() throws IOException {
      long v = in.readLong();
      return little ? Long.reverseBytes(v) : v;
    }
  }
}
