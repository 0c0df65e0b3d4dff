package holotome.core.io;

import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Reads OBJ text (Wavefront, appendix B1 of the Advanced Visualizer manual): positions, texture
 * vertices, polygons, numbers counted from either end, vertex colours after the position, materials
 * with their pictures.
 *
 * <p>The file is cut into stretches of whole lines that are parsed in parallel, then joined.
 */
final class ObjReader {
  private static final int STRETCH = 1 << 23;

  private final Path file;
  private final Work work;
  private final boolean isModelled;
  private final List<String> notes = new ArrayList<>();

  private ObjReader(Path file, boolean isModelled, Work work) {
    this.file = file;
    this.isModelled = isModelled;
    this.work = work;
  }

  /**
   * @param isModelled whether faces, normals and smoothing groups are kept
   */
  static Loaded read(Path file, boolean isModelled, Work work) throws IOException {
    return new ObjReader(file, isModelled, work).read();
  }

  private Loaded read() throws IOException {
    long size = Files.size(file);
    if (size > (long) STRETCH * 100_000) {
      throw Failure.badInput(CoreWords.of("obj-reader.is-larger-than-can-be", file));
    }
    int count = (int) ((size + STRETCH - 1) / STRETCH);
    ObjChunk[] chunks = new ObjChunk[count];
    double[] offset;
    try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
      offset = firstVertex(channel, size);
      Parallel.range(
          count,
          1,
          work.part(0.7, CoreWords.of("work.reading-text")),
          (from, to) -> {
            for (int c = from; c < to; c++) {
              chunks[c] = parse(channel, size, (long) c * STRETCH, offset);
            }
          });
    }
    long lines = 0;
    for (ObjChunk c : chunks) {
      if (c.fault != null) {
        throw c.failure(file, lines);
      }
      lines += c.lines;
    }
    return Offset.settle(join(chunks), offset, "OBJ", notes);
  }

  /** Parses the lines that begin within one stretch; the last may end in the next. */
  private ObjChunk parse(FileChannel channel, long size, long start, double[] offset) {
    long from = start == 0 ? 0 : start - 1;
    int tail = 1 << 12;
    while (true) {
      int length = (int) Math.min(start + STRETCH + tail - from, size - from);
      byte[] b = new byte[length];
      ByteReader.fully(channel, file, from, b, length);
      int a = 0;
      if (start > 0) {
        while (a < length && b[a] != '\n') {
          a++;
        }
        a++;
      }
      int e = (int) Math.min(start + STRETCH - from, length);
      // The byte before the stretch's end decides whether a line runs on into the next stretch.
      while (e < length && b[e - 1] != '\n') {
        e++;
      }
      if (e == length && from + length < size && b[length - 1] != '\n') {
        if (tail > 1 << 24) {
          throw Failure.badInput(CoreWords.of("obj-reader.byte-a-line-of-more", file, start));
        }
        tail *= 16;
        continue;
      }
      ObjChunk chunk = new ObjChunk(b, Math.min(a, e), e, offset, isModelled);
      chunk.parse();
      return chunk;
    }
  }

  private double[] firstVertex(FileChannel channel, long size) {
    int length = (int) Math.min(size, 1 << 20);
    byte[] b = new byte[length];
    ByteReader.fully(channel, file, 0, b, length);
    int e = length;
    while (e > 0 && b[e - 1] != '\n') {
      e--;
    }
    // Read with no offset at all, the first vertex tells which to take; floats are near enough.
    ObjChunk head = new ObjChunk(b, 0, Math.min(e, 1 << 16), new double[3], false);
    head.parse();
    return head.xyz.n < 3 ? new double[3] : Offset.of(head.xyz.a[0], head.xyz.a[1], head.xyz.a[2]);
  }

  private Mesh join(ObjChunk[] chunks) {
    long vertices = 0;
    long triangles = 0;
    long uvs = 0;
    boolean anyUv = false;
    boolean anyColour = false;
    int[] vertexBase = new int[chunks.length];
    int[] uvBase = new int[chunks.length];
    int[] triangleBase = new int[chunks.length];
    for (int c = 0; c < chunks.length; c++) {
      vertexBase[c] = (int) vertices;
      uvBase[c] = (int) uvs;
      triangleBase[c] = (int) triangles;
      vertices += chunks[c].vertexCount();
      uvs += chunks[c].uv.n / 2;
      triangles += chunks[c].triangleCount();
      anyUv |= chunks[c].anyUv;
      anyColour |= chunks[c].colours.n > 0;
    }
    if (3 * Math.max(vertices, triangles) > Integer.MAX_VALUE - 16) {
      throw Failure.badInput(CoreWords.of("obj-reader.holds-more-than-700-million", file));
    }
    int n = (int) vertices;
    float[] xyz = new float[3 * n];
    int[] corners = new int[3 * (int) triangles];
    int[] colours = anyColour ? new int[n] : null;
    // One more texture vertex stands for corners that name none.
    float[] coords = anyUv ? new float[2 * (int) uvs + 2] : null;
    int[] uvCorners = anyUv ? new int[corners.length] : null;
    int textureVertices = (int) uvs;
    Parallel.range(
        chunks.length,
        1,
        work.part(0.25, CoreWords.of("work.joining")),
        (from, to) -> {
          for (int c = from; c < to; c++) {
            ObjChunk k = chunks[c];
            System.arraycopy(k.xyz.a, 0, xyz, 3 * vertexBase[c], k.xyz.n);
            if (colours != null) {
              int at = vertexBase[c];
              System.arraycopy(k.colours.a, 0, colours, at, k.colours.n);
              Arrays.fill(colours, at + k.colours.n, at + k.vertexCount(), 0xff808080);
            }
            resolve(
                k.corners,
                corners,
                3 * triangleBase[c],
                vertexBase[c],
                n,
                -1,
                CoreWords.of("obj-reader.vertex"));
            if (coords != null) {
              System.arraycopy(k.uv.a, 0, coords, 2 * uvBase[c], k.uv.n);
              int at = 3 * triangleBase[c];
              resolve(
                  k.uvCorners,
                  uvCorners,
                  at,
                  uvBase[c],
                  textureVertices,
                  textureVertices,
                  CoreWords.of("obj-reader.texture-vertex"));
              Arrays.fill(uvCorners, at + k.uvCorners.n, at + k.corners.n, textureVertices);
            }
          }
        });
    List<Material> materials = new ArrayList<>();
    short[] material = materials(chunks, triangleBase, (int) triangles, materials);
    Mesh mesh =
        new Mesh(
            xyz, corners, colours, anyUv ? new Uv(coords, uvCorners) : null, material, materials);
    return isModelled ? ObjModelled.of(file, mesh, chunks) : mesh;
  }

  private void resolve(Ints in, int[] out, int at, int base, int count, int none, String what) {
    for (int i = 0; i < in.n; i++) {
      int v = in.a[i];
      if (v == ObjChunk.NONE) {
        v = none;
      } else {
        if (v < 0) {
          v = v - ObjChunk.RELATIVE + base;
        }
        if (v < 0 || v >= count) {
          throw Failure.badInput(
              CoreWords.of(
                  "obj-reader.triangle-names-but-there-are",
                  file,
                  ((at + i) / 3 + 1),
                  what,
                  (v + 1),
                  count));
        }
      }
      out[at + i] = v;
    }
  }

  private short[] materials(
      ObjChunk[] chunks, int[] triangleBase, int triangles, List<Material> out) {
    Map<String, Material> library = new LinkedHashMap<>();
    for (ObjChunk c : chunks) {
      for (String name : c.libraries) {
        library.putAll(MtlReader.read(file, name, notes));
      }
    }
    Map<String, Short> numbers = new LinkedHashMap<>();
    short[] of = new short[triangles];
    short current = -1;
    for (int c = 0; c < chunks.length; c++) {
      int at = triangleBase[c];
      for (ObjChunk.Use use : chunks[c].uses) {
        Arrays.fill(of, at, triangleBase[c] + use.triangle(), current);
        at = triangleBase[c] + use.triangle();
        current =
            numbers.computeIfAbsent(
                use.material(),
                name -> {
                  if (out.size() >= Short.MAX_VALUE) {
                    throw Failure.badInput(
                        CoreWords.of(
                            "obj-reader.names-more-than-materials", file, Short.MAX_VALUE));
                  }
                  out.add(library.getOrDefault(name, new Material(name, 0xffb0b0b0, null)));
                  return (short) (out.size() - 1);
                });
      }
      Arrays.fill(of, at, triangleBase[c] + chunks[c].triangleCount(), current);
    }
    return out.isEmpty() ? null : of;
  }
}
