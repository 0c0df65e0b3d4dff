package holotome.core.io;

import holotome.core.io.PlyHeader.Element;
import holotome.core.io.PlyHeader.Encoding;
import holotome.core.io.PlyHeader.Property;
import holotome.core.io.PlyHeader.Type;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;

/**
 * Reads PLY: text and both binary orders, polygons, vertex colours.
 *
 * <p>Binary vertices, and faces that are all triangles, are read in parallel straight into the
 * mesh's arrays. Anything else is read in one pass.
 */
final class PlyReader {
  private static final int GRAIN = 1 << 16;
  private static final int MAX = MeshReader.MOST_TRIANGLES;

  private final Path file;
  private final Work work;
  private PlyHeader header;
  private float[] xyz = new float[0];
  private int[] colours;
  private int[] triangles = new int[0];
  private double[] offset = new double[3];

  /** The face of each triangle, of a mesh that was modelled; else null. */
  private final Ints faceOf;

  private PlyReader(Path file, boolean isModelled, Work work) {
    this.file = file;
    this.work = work;
    faceOf = isModelled ? new Ints(16) : null;
  }

  /**
   * @param isModelled whether faces are kept
   */
  static Loaded read(Path file, boolean isModelled, Work work) throws IOException {
    return new PlyReader(file, isModelled, work).read();
  }

  private void face(long number) {
    if (faceOf != null) {
      faceOf.add((int) number);
    }
  }

  private Loaded read() throws IOException {
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      header = PlyHeader.read(file, in);
      checkCounts();
      if (header.encoding() == Encoding.TEXT) {
        readText(in);
      }
    }
    if (header.encoding() != Encoding.TEXT) {
      try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
        readBinary(channel);
      }
    }
    String format =
        switch (header.encoding()) {
          case TEXT -> CoreWords.of("ply-reader.ply-text");
          case LITTLE_ENDIAN -> CoreWords.of("ply-reader.ply-binary-little-endian");
          case BIG_ENDIAN -> CoreWords.of("ply-reader.ply-binary-big-endian");
        };
    Mesh mesh = new Mesh(xyz, triangles, colours);
    // Files of triangles alone are read without looking at single faces.
    boolean hasFaces = faceOf != null && faceOf.n == mesh.triangleCount();
    return Offset.settle(
        hasFaces ? FaceCut.cut(mesh, faceOf.toArray()) : mesh, offset, format, List.of());
  }

  /** Holds the counts against the size of the file before any memory is taken. */
  private void checkCounts() throws IOException {
    long size = Files.size(file);
    long least = header.bytes();
    for (Element e : header.elements()) {
      if (e.count() > MAX) {
        throw Failure.badInput(
            CoreWords.of("ply-reader.claims-entries-of-the-most", file, e.count(), e.name(), MAX));
      }
      long per = 0;
      for (Property p : e.properties()) {
        int bytes = p.countType() == null ? p.type().size : p.countType().size;
        per += header.encoding() == Encoding.TEXT ? 2 : bytes;
      }
      least += per * e.count();
    }
    // The last line of a text may lack its line feed.
    if (least > size + 1) {
      throw Failure.badInput(
          CoreWords.of("ply-reader.holds-bytes-but-its-header", file, size, least));
    }
    if (header.elements().stream().noneMatch(e -> e.name().equals("vertex"))) {
      throw Failure.badInput(CoreWords.of("ply-reader.has-no-element-vertex-there", file));
    }
    if (header.elements().stream().noneMatch(e -> e.name().equals("face"))) {
      throw Failure.badInput(CoreWords.of("ply-reader.has-no-element-face-it", file));
    }
  }

  private void readText(InputStream in) throws IOException {
    TextSource t = new TextSource(file, in, Files.size(file), work);
    t.skipped(header.lines());
    for (Element e : header.elements()) {
      boolean vertex = e.name().equals("vertex");
      int list = e.name().equals("face") ? e.indexOf("vertex_indices", "vertex_index") : -1;
      Columns c = vertex ? new Columns(e) : null;
      Ints faces = new Ints(list >= 0 ? (int) Math.min(3L * e.count(), 1 << 26) : 0);
      double[] row = new double[e.properties().size()];
      if (vertex) {
        allocate(c, e.count());
      }
      for (int i = 0; i < e.count(); i++) {
        for (int k = 0; k < row.length; k++) {
          Property p = e.properties().get(k);
          if (p.countType() == null) {
            row[k] = t.number("ply-reader.value", e.name(), i, p.name());
          } else {
            int n = t.whole(0, 1 << 20, "ply-reader.its-count", e.name(), i);
            int a = 0;
            int b = 0;
            for (int j = 0; j < n; j++) {
              int v =
                  t.whole(
                      k == list ? 0 : Integer.MIN_VALUE,
                      k == list ? xyz.length / 3 - 1 : Integer.MAX_VALUE,
                      "common.face-corner",
                      i,
                      j);
              if (k == list && j >= 2) {
                faces.add(a);
                faces.add(b);
                faces.add(v);
                face(i);
              }
              if (j == 0) {
                a = v;
              }
              b = v;
            }
          }
        }
        if (vertex) {
          if (i == 0) {
            offset = Offset.of(row[c.x], row[c.y], row[c.z]);
          }
          if (!Offset.fits(row[c.x], row[c.y], row[c.z], offset)) {
            throw t.bad(CoreWords.of("common.a-coordinate-is-larger-than"));
          }
          xyz[3 * i] = (float) (row[c.x] - offset[0]);
          xyz[3 * i + 1] = (float) (row[c.y] - offset[1]);
          xyz[3 * i + 2] = (float) (row[c.z] - offset[2]);
          if (colours != null) {
            colours[i] = c.colour(row[c.r], row[c.g], row[c.b]);
          }
        }
      }
      if (list >= 0) {
        triangles = faces.toArray();
      }
    }
  }

  private void allocate(Columns c, long count) {
    xyz = new float[3 * (int) count];
    colours = c.hasColour() ? new int[(int) count] : null;
  }

  private void readBinary(FileChannel channel) throws IOException {
    long position = header.bytes();
    Bytes bytes = new Bytes(header.encoding() == Encoding.LITTLE_ENDIAN);
    for (Element e : header.elements()) {
      int stride = e.stride();
      if (e.name().equals("vertex")) {
        if (stride < 0) {
          throw Failure.badInput(CoreWords.of("ply-reader.its-vertices-carry-lists-which", file));
        }
        readVertices(channel, position, e, stride, bytes);
        position += stride * e.count();
      } else if (e.name().equals("face")) {
        position = readFaces(channel, position, e, bytes);
      } else if (stride >= 0) {
        position += stride * e.count();
      } else {
        position = new PolygonPass(channel, position, e, -1, bytes).run(null);
      }
    }
  }

  private void readVertices(
      FileChannel channel, long position, Element e, int stride, Bytes bytes) {
    Columns c = new Columns(e);
    int count = (int) e.count();
    allocate(c, count);
    if (count == 0) {
      return;
    }
    byte[] first = new byte[stride];
    ByteReader.fully(channel, file, position, first, stride);
    int ox = e.offsetOf(c.x);
    int oy = e.offsetOf(c.y);
    int oz = e.offsetOf(c.z);
    Type tx = e.properties().get(c.x).type();
    Type ty = e.properties().get(c.y).type();
    Type tz = e.properties().get(c.z).type();
    offset =
        Offset.of(bytes.get(first, ox, tx), bytes.get(first, oy, ty), bytes.get(first, oz, tz));
    int or = c.hasColour() ? e.offsetOf(c.r) : 0;
    int og = c.hasColour() ? e.offsetOf(c.g) : 0;
    int ob = c.hasColour() ? e.offsetOf(c.b) : 0;
    Type tc = c.hasColour() ? e.properties().get(c.r).type() : Type.UINT8;
    boolean floats =
        tx == Type.FLOAT32
            && ty == tx
            && tz == tx
            && offset[0] == 0
            && offset[1] == 0
            && offset[2] == 0;
    Parallel.range(
        count,
        GRAIN,
        work.part(0.4, CoreWords.of("work.reading-vertices")),
        (from, to) -> {
          byte[] b = new byte[(to - from) * stride];
          ByteReader.fully(channel, file, position + (long) from * stride, b, b.length);
          for (int i = from, at = 0; i < to; i++, at += stride) {
            if (floats) {
              xyz[3 * i] = bytes.float32(b, at + ox);
              xyz[3 * i + 1] = bytes.float32(b, at + oy);
              xyz[3 * i + 2] = bytes.float32(b, at + oz);
            } else {
              xyz[3 * i] = (float) (bytes.get(b, at + ox, tx) - offset[0]);
              xyz[3 * i + 1] = (float) (bytes.get(b, at + oy, ty) - offset[1]);
              xyz[3 * i + 2] = (float) (bytes.get(b, at + oz, tz) - offset[2]);
            }
            if (!Float.isFinite(xyz[3 * i] + xyz[3 * i + 1] + xyz[3 * i + 2])) {
              throw Failure.badInput(
                  CoreWords.of(
                      "ply-reader.vertex-at-byte-has-a", file, i, (position + (long) i * stride)));
            }
            if (colours != null) {
              colours[i] =
                  tc == Type.UINT8
                      ? 0xff000000
                          | (b[at + or] & 255) << 16
                          | (b[at + og] & 255) << 8
                          | b[at + ob] & 255
                      : c.colour(
                          bytes.get(b, at + or, tc),
                          bytes.get(b, at + og, tc),
                          bytes.get(b, at + ob, tc));
            }
          }
        });
  }

  private long readFaces(FileChannel channel, long position, Element e, Bytes bytes)
      throws IOException {
    int list = e.indexOf("vertex_indices", "vertex_index");
    if (list < 0) {
      throw Failure.badInput(CoreWords.of("ply-reader.its-faces-have-no-vertex", file));
    }
    int before = 0;
    int after = 0;
    boolean fixed = true;
    for (int k = 0; k < e.properties().size(); k++) {
      Property p = e.properties().get(k);
      fixed &= k == list || p.countType() == null;
      if (k < list) {
        before += p.type().size;
      } else if (k > list) {
        after += p.type().size;
      }
    }
    Property p = e.properties().get(list);
    int stride = before + p.countType().size + 3 * p.type().size + after;
    int vertices = xyz.length / 3;
    if (fixed && position + stride * e.count() <= channel.size()) {
      int[] tri = new int[3 * (int) e.count()];
      java.util.concurrent.atomic.AtomicBoolean polygons =
          new java.util.concurrent.atomic.AtomicBoolean();
      int start = before;
      int size = p.type().whole() ? p.type().size : 0;
      int countSize = p.countType().size;
      boolean oneByte = p.countType() == Type.UINT8;
      Parallel.range(
          (int) e.count(),
          GRAIN,
          work.part(0.6, CoreWords.of("work.reading-triangles")),
          (from, to) -> {
            if (polygons.get()) {
              return;
            }
            byte[] b = new byte[(to - from) * stride];
            ByteReader.fully(channel, file, position + (long) from * stride, b, b.length);
            for (int i = from, at = start; i < to; i++, at += stride) {
              if ((oneByte ? b[at] : bytes.get(b, at, p.countType())) != 3) {
                polygons.set(true);
                return;
              }
              for (int k = 0; k < 3; k++) {
                int o = at + countSize + k * size;
                int v = size == 4 ? bytes.int32(b, o) : bytes.whole(b, o, p.type());
                tri[3 * i + k] = v;
                if (v < 0 || v >= vertices) {
                  // With polygons of several sizes this is no corner at all: let the exact pass
                  // say.
                  polygons.set(true);
                  return;
                }
              }
            }
          });
      if (!polygons.get()) {
        triangles = tri;
        return position + stride * e.count();
      }
    }
    Ints out = new Ints(1 << 16);
    long end = new PolygonPass(channel, position, e, list, bytes).run(out);
    triangles = out.toArray();
    return end;
  }

  /** Reads an element with lists entry by entry, taking triangles from one of the lists. */
  private final class PolygonPass {
    private final FileChannel channel;
    private final Element e;
    private final int list;
    private final Bytes bytes;
    private long position;
    private final byte[] block = new byte[1 << 20];
    private int at;
    private int end;

    PolygonPass(FileChannel channel, long position, Element e, int list, Bytes bytes) {
      this.channel = channel;
      this.position = position;
      this.e = e;
      this.list = list;
      this.bytes = bytes;
    }

    private int take(int n) throws IOException {
      if (end - at < n) {
        position += at;
        end = (int) Math.min(block.length, channel.size() - position);
        at = 0;
        if (end < n) {
          throw Failure.badInput(
              CoreWords.of("common.ends-at-byte-inside-its", file, (position + Math.max(0, end))));
        }
        ByteReader.fully(channel, file, position, block, end);
        work.check();
      }
      at += n;
      return at - n;
    }

    long run(Ints out) throws IOException {
      int vertices = xyz.length / 3;
      for (long i = 0; i < e.count(); i++) {
        for (int k = 0; k < e.properties().size(); k++) {
          Property p = e.properties().get(k);
          if (p.countType() == null) {
            take(p.type().size);
            continue;
          }
          long n = (long) bytes.get(block, take(p.countType().size), p.countType());
          if (n < 0 || n > 1 << 20) {
            throw Failure.badInput(
                CoreWords.of(
                    "ply-reader.face-at-byte-claims-corners", file, i, (position + at), n));
          }
          int a = 0;
          int b = 0;
          for (int j = 0; j < n; j++) {
            int o = take(p.type().size);
            if (k != list) {
              continue;
            }
            int v = bytes.whole(block, o, p.type());
            if (v < 0 || v >= vertices) {
              throw Failure.badInput(
                  CoreWords.of(
                      "ply-reader.face-at-byte-names-vertex",
                      file,
                      i,
                      (position + o),
                      v,
                      vertices));
            }
            if (j >= 2) {
              out.add(a);
              out.add(b);
              out.add(v);
              face(i);
            }
            if (j == 0) {
              a = v;
            }
            b = v;
          }
        }
      }
      return position + at;
    }
  }

  /** Which properties of the vertex element hold what. */
  private final class Columns {
    final int x;
    final int y;
    final int z;
    final int r;
    final int g;
    final int b;
    private final boolean unitColour;

    Columns(Element e) {
      x = e.indexOf("x");
      y = e.indexOf("y");
      z = e.indexOf("z");
      if (x < 0 || y < 0 || z < 0) {
        throw Failure.badInput(CoreWords.of("ply-reader.its-vertices-lack-x-y", file));
      }
      r = e.indexOf("red", "diffuse_red");
      g = e.indexOf("green", "diffuse_green");
      b = e.indexOf("blue", "diffuse_blue");
      Type t = r < 0 ? Type.UINT8 : e.properties().get(r).type();
      unitColour = t == Type.FLOAT32 || t == Type.FLOAT64;
    }

    boolean hasColour() {
      return r >= 0 && g >= 0 && b >= 0;
    }

    int colour(double red, double green, double blue) {
      double k = unitColour ? 255 : 1;
      return holotome.core.image.Colours.argb(red * k, green * k, blue * k);
    }
  }

  /** Scalars in one byte order. */
  private static final class Bytes {
    // Constants, so that each access compiles to one load; the other order is turned afterwards.
    private static final VarHandle SHORTS = view(short[].class);
    private static final VarHandle INTS = view(int[].class);
    private static final VarHandle LONGS = view(long[].class);

    private final boolean little;

    Bytes(boolean little) {
      this.little = little;
    }

    private static VarHandle view(Class<?> array) {
      return MethodHandles.byteArrayViewVarHandle(array, ByteOrder.LITTLE_ENDIAN);
    }

    private short int16(byte[] b, int at) {
      short v = (short) SHORTS.get(b, at);
      return little ? v : Short.reverseBytes(v);
    }

    int int32(byte[] b, int at) {
      int v = (int) INTS.get(b, at);
      return little ? v : Integer.reverseBytes(v);
    }

    float float32(byte[] b, int at) {
      return Float.intBitsToFloat(int32(b, at));
    }

    private double float64(byte[] b, int at) {
      long v = (long) LONGS.get(b, at);
      return Double.longBitsToDouble(little ? v : Long.reverseBytes(v));
    }

    double get(byte[] b, int at, Type t) {
      return switch (t) {
        case FLOAT32 -> float32(b, at);
        case FLOAT64 -> float64(b, at);
        case UINT8 -> b[at] & 255;
        case INT8 -> b[at];
        case INT16 -> int16(b, at);
        case UINT16 -> int16(b, at) & 0xffff;
        case INT32 -> int32(b, at);
        case UINT32 -> int32(b, at) & 0xffffffffL;
      };
    }

    int whole(byte[] b, int at, Type t) {
      return t == Type.INT32 || t == Type.UINT32 ? int32(b, at) : (int) get(b, at, t);
    }
  }
}
