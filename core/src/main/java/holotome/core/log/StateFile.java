package holotome.core.log;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attributes;
import holotome.core.image.Image;
import holotome.core.image.Raster;
import holotome.core.map.MapKind;
import holotome.core.map.Missed;
import holotome.core.map.MissedPatch;
import holotome.core.map.Range;
import holotome.core.mesh.Lineage;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * The parts of a state as files, array by array: for states put aside while the program runs, read
 * back by the same program only, so they carry no version.
 */
final class StateFile {
  private static final int BLOCK = 1 << 16;

  private StateFile() {}

  static final StoredPart.Form<Mesh> MESH =
      new StoredPart.Form<>() {
        @Override
        public void write(DataOutputStream out, Mesh part) throws IOException {
          mesh(out, part);
        }

        @Override
        public Mesh read(DataInputStream in) throws IOException {
          return mesh(in);
        }

        @Override
        public Object remembered(Mesh part) {
          return part.lineage();
        }

        @Override
        public Mesh recalled(Mesh read, Object remembered) {
          return read.of((Lineage) remembered);
        }
      };

  static final StoredPart.Form<Maps> MAPS =
      new StoredPart.Form<>() {
        @Override
        public void write(DataOutputStream out, Maps part) throws IOException {
          maps(out, part);
        }

        @Override
        public Maps read(DataInputStream in) throws IOException {
          return maps(in);
        }
      };

  private static void mesh(DataOutputStream out, Mesh m) throws IOException {
    floats(out, m.xyz());
    ints(out, m.triangles());
    out.writeInt(m.attributes().size());
    for (Attribute a : m.attributes()) {
      attribute(out, a);
    }
    out.writeInt(m.materials().size());
    for (Material x : m.materials()) {
      out.writeUTF(x.name());
      out.writeInt(x.argb());
      raster(out, x.image());
    }
  }

  private static Mesh mesh(DataInputStream in) throws IOException {
    float[] xyz = floats(in);
    int[] tri = ints(in);
    Attributes attributes = Attributes.NONE;
    for (int n = in.readInt(); n > 0; n--) {
      attributes = attributes.with(attribute(in));
    }
    List<Material> materials = new ArrayList<>();
    for (int n = in.readInt(); n > 0; n--) {
      materials.add(new Material(in.readUTF(), in.readInt(), raster(in)));
    }
    return new Mesh(xyz, tri, attributes, materials);
  }

  private static void attribute(DataOutputStream out, Attribute a) throws IOException {
    out.writeUTF(a.name());
    out.writeUTF(a.kind().name());
    out.writeUTF(a.domain().name());
    switch (a.kind()) {
      case COLOUR, LABEL -> ints(out, a.ints());
      case MATERIAL -> {
        int[] wide = new int[a.shorts().length];
        Arrays.setAll(wide, i -> a.shorts()[i]);
        ints(out, wide);
      }
      default -> floats(out, a.floats());
    }
    ints(out, a.index());
  }

  private static Attribute attribute(DataInputStream in) throws IOException {
    String name = in.readUTF();
    Attribute.Kind kind = Attribute.Kind.valueOf(in.readUTF());
    Attribute.Domain domain = Attribute.Domain.valueOf(in.readUTF());
    return switch (kind) {
      case COLOUR, LABEL -> Attribute.of(name, kind, domain, ints(in), ints(in));
      case MATERIAL -> {
        int[] wide = ints(in);
        short[] numbers = new short[wide.length];
        for (int i = 0; i < wide.length; i++) {
          numbers[i] = (short) wide[i];
        }
        ints(in);
        yield Attribute.materials(numbers);
      }
      default -> Attribute.of(name, kind, domain, floats(in), ints(in));
    };
  }

  private static void maps(DataOutputStream out, Maps m) throws IOException {
    out.writeInt(m.size());
    out.writeInt(m.pictures().size());
    for (Map.Entry<MapKind, Image> e : new EnumMap<>(m.pictures()).entrySet()) {
      out.writeUTF(e.getKey().name());
      image(out, e.getValue());
    }
    out.writeInt(m.ranges().size());
    for (Map.Entry<MapKind, Range> e : m.ranges().entrySet()) {
      out.writeUTF(e.getKey().name());
      out.writeFloat(e.getValue().low());
      out.writeFloat(e.getValue().high());
    }
    image(out, m.missed());
    out.writeInt(m.covered());
    out.writeInt(m.missedCount());
    out.writeInt(m.patches().size());
    for (MissedPatch p : m.patches()) {
      out.writeInt(p.reason().code());
      out.writeInt(p.texels());
      out.writeFloat(p.u());
      out.writeFloat(p.v());
      out.writeInt(p.triangle());
    }
  }

  private static Maps maps(DataInputStream in) throws IOException {
    int size = in.readInt();
    Map<MapKind, Image> pictures = new EnumMap<>(MapKind.class);
    for (int n = in.readInt(); n > 0; n--) {
      pictures.put(MapKind.valueOf(in.readUTF()), image(in));
    }
    Map<MapKind, Range> ranges = new EnumMap<>(MapKind.class);
    for (int n = in.readInt(); n > 0; n--) {
      ranges.put(MapKind.valueOf(in.readUTF()), new Range(in.readFloat(), in.readFloat()));
    }
    Image missed = image(in);
    int covered = in.readInt();
    int missedCount = in.readInt();
    List<MissedPatch> patches = new ArrayList<>();
    for (int n = in.readInt(); n > 0; n--) {
      patches.add(
          new MissedPatch(
              Missed.of(in.readInt()), in.readInt(), in.readFloat(), in.readFloat(), in.readInt()));
    }
    return new Maps(size, pictures, ranges, missed, covered, missedCount, patches);
  }

  private static void image(DataOutputStream out, Image m) throws IOException {
    out.writeInt(m.width());
    out.writeInt(m.height());
    out.writeInt(m.channels());
    out.writeUTF(m.sample().name());
    out.writeUTF(m.space().name());
    for (int t = 0; t < m.tileCount(); t++) {
      switch (m.tile(t)) {
        case byte[] b -> out.write(b);
        case short[] s -> {
          for (short v : s) {
            out.writeShort(v);
          }
        }
        case Object f -> floats(out, (float[]) f);
      }
    }
  }

  private static Image image(DataInputStream in) throws IOException {
    int width = in.readInt();
    int height = in.readInt();
    int channels = in.readInt();
    Image.Sample sample = Image.Sample.valueOf(in.readUTF());
    Image.Space space = Image.Space.valueOf(in.readUTF());
    Image kind = Image.blank(width, height, channels, sample, space);
    Object[] tiles = new Object[kind.tileCount()];
    int length = Image.TILE * Image.TILE * channels;
    for (int t = 0; t < tiles.length; t++) {
      tiles[t] =
          switch (sample) {
            case BYTE -> {
              byte[] b = new byte[length];
              in.readFully(b);
              yield b;
            }
            case SHORT -> {
              short[] s = new short[length];
              for (int i = 0; i < length; i++) {
                s[i] = in.readShort();
              }
              yield s;
            }
            case FLOAT -> floats(in);
          };
    }
    return Image.ofTiles(width, height, channels, sample, space, tiles);
  }

  private static void raster(DataOutputStream out, Raster r) throws IOException {
    ints(out, r == null ? null : r.pixels());
    if (r != null) {
      out.writeInt(r.width());
      out.writeInt(r.height());
    }
  }

  private static Raster raster(DataInputStream in) throws IOException {
    int[] pixels = ints(in);
    return pixels == null ? null : new Raster(in.readInt(), in.readInt(), pixels);
  }

  private static void ints(DataOutputStream out, int[] a) throws IOException {
    out.writeInt(a == null ? -1 : a.length);
    ByteBuffer b = ByteBuffer.allocate(4 * BLOCK);
    for (int at = 0; a != null && at < a.length; at += BLOCK) {
      int n = Math.min(BLOCK, a.length - at);
      b.asIntBuffer().put(a, at, n);
      out.write(b.array(), 0, 4 * n);
    }
  }

  private static int[] ints(DataInputStream in) throws IOException {
    int length = in.readInt();
    if (length < 0) {
      return null;
    }
    int[] a = new int[length];
    ByteBuffer b = ByteBuffer.allocate(4 * BLOCK);
    for (int at = 0; at < length; at += BLOCK) {
      int n = Math.min(BLOCK, length - at);
      in.readFully(b.array(), 0, 4 * n);
      b.asIntBuffer().get(a, at, n);
    }
    return a;
  }

  private static void floats(DataOutputStream out, float[] a) throws IOException {
    out.writeInt(a == null ? -1 : a.length);
    ByteBuffer b = ByteBuffer.allocate(4 * BLOCK);
    for (int at = 0; a != null && at < a.length; at += BLOCK) {
      int n = Math.min(BLOCK, a.length - at);
      b.asFloatBuffer().put(a, at, n);
      out.write(b.array(), 0, 4 * n);
    }
  }

  private static float[] floats(DataInputStream in) throws IOException {
    int length = in.readInt();
    if (length < 0) {
      return null;
    }
    float[] a = new float[length];
    ByteBuffer b = ByteBuffer.allocate(4 * BLOCK);
    for (int at = 0; at < length; at += BLOCK) {
      int n = Math.min(BLOCK, length - at);
      in.readFully(b.array(), 0, 4 * n);
      b.asFloatBuffer().get(a, at, n);
    }
    return a;
  }
}
