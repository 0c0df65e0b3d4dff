package holotome.core.log;

import holotome.core.mesh.Frame;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.NamedFrame;
import holotome.core.mesh.Raster;
import holotome.core.mesh.Similarity;
import holotome.core.mesh.Uv;
import holotome.core.step.MapKind;
import holotome.core.step.Maps;
import holotome.core.step.Workpiece;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * A workpiece as a file, array by array: for states put aside while the program runs, read back by
 * the same program only, so it carries no version.
 */
final class WorkpieceFile {
  private static final int BLOCK = 1 << 16;

  private WorkpieceFile() {}

  static void write(Workpiece w, Path file) throws IOException {
    try (DataOutputStream out =
        new DataOutputStream(new BufferedOutputStream(Files.newOutputStream(file), 1 << 20))) {
      mesh(out, w.scan());
      mesh(out, w.cast());
      maps(out, w.maps());
      similarity(out, w.frame().toFile());
      similarity(out, w.frame().toWork());
      out.writeBoolean(w.frame().trueSize());
      out.writeBoolean(w.frame().leftHandedFile());
      out.writeInt(w.frame().named().size());
      for (NamedFrame f : w.frame().named()) {
        out.writeUTF(f.name());
        similarity(out, f.fromBase());
        out.writeDouble(f.unit());
      }
    } catch (IOException e) {
      Files.deleteIfExists(file);
      throw e;
    }
  }

  static Workpiece read(Path file) throws IOException {
    try (DataInputStream in =
        new DataInputStream(new BufferedInputStream(Files.newInputStream(file), 1 << 20))) {
      Mesh scan = mesh(in);
      Mesh cast = mesh(in);
      Maps maps = maps(in);
      Frame frame = new Frame(similarity(in), similarity(in), in.readBoolean());
      frame = in.readBoolean() ? frame.ofLeftHandedFile() : frame;
      for (int n = in.readInt(); n > 0; n--) {
        frame = frame.keeping(new NamedFrame(in.readUTF(), similarity(in), in.readDouble()));
      }
      return new Workpiece(scan, cast, maps, frame);
    }
  }

  private static void mesh(DataOutputStream out, Mesh m) throws IOException {
    out.writeBoolean(m != null);
    if (m == null) {
      return;
    }
    floats(out, m.xyz());
    ints(out, m.triangles());
    ints(out, m.colours());
    floats(out, m.uv() == null ? null : m.uv().coords());
    ints(out, m.uv() == null ? null : m.uv().corners());
    int[] material = null;
    if (m.material() != null) {
      material = new int[m.material().length];
      for (int i = 0; i < material.length; i++) {
        material[i] = m.material()[i];
      }
    }
    ints(out, material);
    out.writeInt(m.materials().size());
    for (Material x : m.materials()) {
      out.writeUTF(x.name());
      out.writeInt(x.argb());
      raster(out, x.image());
    }
  }

  private static Mesh mesh(DataInputStream in) throws IOException {
    if (!in.readBoolean()) {
      return null;
    }
    float[] xyz = floats(in);
    int[] tri = ints(in);
    int[] colours = ints(in);
    float[] coords = floats(in);
    int[] corners = ints(in);
    int[] wide = ints(in);
    short[] material = null;
    if (wide != null) {
      material = new short[wide.length];
      for (int i = 0; i < wide.length; i++) {
        material[i] = (short) wide[i];
      }
    }
    List<Material> materials = new ArrayList<>();
    for (int n = in.readInt(); n > 0; n--) {
      materials.add(new Material(in.readUTF(), in.readInt(), raster(in)));
    }
    return new Mesh(
        xyz, tri, colours, coords == null ? null : new Uv(coords, corners), material, materials);
  }

  private static void maps(DataOutputStream out, Maps m) throws IOException {
    out.writeBoolean(m != null);
    if (m == null) {
      return;
    }
    out.writeInt(m.pictures().size());
    for (Map.Entry<MapKind, Raster> e : new EnumMap<>(m.pictures()).entrySet()) {
      out.writeUTF(e.getKey().name());
      raster(out, e.getValue());
    }
    out.writeInt(m.missed().length);
    out.write(m.missed());
    out.writeInt(m.covered());
    out.writeInt(m.missedCount());
  }

  private static Maps maps(DataInputStream in) throws IOException {
    if (!in.readBoolean()) {
      return null;
    }
    Map<MapKind, Raster> pictures = new EnumMap<>(MapKind.class);
    for (int n = in.readInt(); n > 0; n--) {
      pictures.put(MapKind.valueOf(in.readUTF()), raster(in));
    }
    byte[] missed = new byte[in.readInt()];
    in.readFully(missed);
    return new Maps(pictures, missed, in.readInt(), in.readInt());
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

  private static void similarity(DataOutputStream out, Similarity s) throws IOException {
    out.writeDouble(s.scale());
    for (double d : s.rotation()) {
      out.writeDouble(d);
    }
    for (double d : s.shift()) {
      out.writeDouble(d);
    }
  }

  private static Similarity similarity(DataInputStream in) throws IOException {
    double scale = in.readDouble();
    double[] r = new double[9];
    double[] t = new double[3];
    for (int i = 0; i < 9; i++) {
      r[i] = in.readDouble();
    }
    for (int i = 0; i < 3; i++) {
      t[i] = in.readDouble();
    }
    return new Similarity(scale, r, t);
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
