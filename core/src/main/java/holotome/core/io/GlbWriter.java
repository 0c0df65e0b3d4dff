package holotome.core.io;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import holotome.core.attribute.Attribute;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.image.LinearLight;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.tangent.SplitMesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;

/**
 * Writes GLB (Khronos Group, "glTF 2.0 Specification", version 2.0.1): one mesh, its pictures
 * inside the file; a mesh with baked pictures has one material, another one those of its own, each
 * with the triangles it colours.
 *
 * <p>glTF counts metres with Y up; positions arrive in metres with Z up and are turned. Its v runs
 * down the picture. Normals and tangents are those of {@link SplitMesh}, the ones baked with.
 */
public final class GlbWriter {
  /** Z up to Y up: (x, y, z) becomes (x, z, -y). */
  private static final Similarity Y_UP =
      Similarity.rotating(new double[] {1, 0, 0, 0, 0, 1, 0, -1, 0});

  private static final int FLOAT = 5126;
  private static final int UNSIGNED_INT = 5125;
  private static final int UNSIGNED_BYTE = 5121;

  /** The pictures of a surface, each null for none; of that of occlusion the red channel counts. */
  public record Surface(Raster colour, Raster normal, Raster occlusion) {
    private static final String[] ENDINGS = {"_colour", "_normal", "_occlusion"};

    private Raster[] all() {
      return new Raster[] {colour, normal, occlusion};
    }
  }

  /** What some of the triangles are drawn with. */
  private record Primitive(String name, int argb, Surface surface, int[] corners) {}

  /** By name: the order of a map of the JDK's differs from run to run. */
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS);

  private final List<Map<String, Object>> views = new ArrayList<>();
  private final List<Map<String, Object>> accessors = new ArrayList<>();
  private final List<Object> blocks = new ArrayList<>();
  private long length;

  /** Makes the accessor of vertex colours; null where there are none. */
  private Supplier<Integer> vertexColours;

  private GlbWriter() {}

  /**
   * Writes a mesh.
   *
   * @param surfaces pictures addressed by the mesh's texture coordinates, one set or one per
   *     material of the mesh; or null: then the mesh's own materials are taken, or its vertex
   *     colours
   * @param placing from base coordinates to metres, Z up
   */
  public static void write(
      OutputStream out,
      Mesh mesh,
      List<Surface> surfaces,
      Similarity placing,
      String name,
      Work work)
      throws IOException {
    new GlbWriter().run(out, mesh, surfaces, placing, name, work);
  }

  private void run(
      OutputStream out, Mesh mesh, List<Surface> given, Similarity placing, String name, Work work)
      throws IOException {
    Attribute second = mesh.attributes().named(Attribute.UV_SECOND);
    SplitMesh.Further further = null;
    SplitMesh split = SplitMesh.of(mesh);
    if (second != null && mesh.uv() != null) {
      further = split.parted(second.index());
      split = further.split();
    }
    work.advance(0.2);
    List<Primitive> primitives = primitives(mesh, given, split, name);
    boolean hasNormalMap = given != null && given.getFirst().normal() != null;
    Map<String, Object> attributes = vertices(mesh, split, placing.then(Y_UP), hasNormalMap);
    if (further != null) {
      float[] uv = coordinates(second.floats(), further.value());
      attributes.put("TEXCOORD_1", floats(uv, 2, "VEC2", false));
    }
    work.advance(0.2);
    Map<String, Object> json = describe(name, attributes, primitives, work);
    emit(out, json, work);
  }

  /** The attributes that all primitives share; colours under a name that is not glTF's yet. */
  private Map<String, Object> vertices(
      Mesh mesh, SplitMesh split, Similarity place, boolean hasNormalMap) {
    int n = split.position().length;
    float[] placed = Placing.apply(mesh.xyz(), place);
    float[] positions = new float[3 * n];
    for (int i = 0; i < n; i++) {
      System.arraycopy(placed, 3 * split.position()[i], positions, 3 * i, 3);
    }
    Map<String, Object> attributes = new LinkedHashMap<>();
    attributes.put("POSITION", floats(positions, 3, "VEC3", true));
    attributes.put("NORMAL", floats(directions(split.normals(), 3, place), 3, "VEC3", false));
    if (split.tangents() != null && hasNormalMap) {
      attributes.put("TANGENT", floats(directions(split.tangents(), 4, place), 4, "VEC4", false));
    }
    if (mesh.uv() != null) {
      float[] uv = coordinates(mesh.uv().coords(), split.texture());
      attributes.put("TEXCOORD_0", floats(uv, 2, "VEC2", false));
    }
    return attributes;
  }

  /** Of each vertex, down the picture. */
  private static float[] coordinates(float[] coords, int[] of) {
    float[] uv = new float[2 * of.length];
    for (int i = 0; i < of.length; i++) {
      uv[2 * i] = coords[2 * of[i]];
      uv[2 * i + 1] = 1 - coords[2 * of[i] + 1];
    }
    return uv;
  }

  private int colours(Mesh mesh, SplitMesh split) {
    int n = split.position().length;
    byte[] rgba = new byte[4 * n];
    for (int i = 0; i < n; i++) {
      int c = mesh.colours()[split.position()[i]];
      rgba[4 * i] = linear(c >> 16);
      rgba[4 * i + 1] = linear(c >> 8);
      rgba[4 * i + 2] = linear(c);
      rgba[4 * i + 3] = (byte) 255;
    }
    int accessor = accessor(block(rgba, rgba.length, 34962), UNSIGNED_BYTE, n, "VEC4");
    accessors.get(accessor).put("normalized", true);
    return accessor;
  }

  /**
   * One for one set of baked pictures or a mesh without materials, else one per material that is
   * used.
   */
  private List<Primitive> primitives(Mesh mesh, List<Surface> given, SplitMesh split, String name) {
    vertexColours = null;
    if (given == null ? mesh.materials().isEmpty() : given.size() == 1) {
      Surface one = given == null ? null : given.getFirst();
      boolean coloured = mesh.colours() != null && (one == null || one.colour() == null);
      vertexColours = coloured ? () -> colours(mesh, split) : null;
      return List.of(new Primitive(name, 0xffffffff, one, split.corners()));
    }
    int count = mesh.materials().size();
    int[] triangles = new int[count];
    for (int t = 0; t < mesh.triangleCount(); t++) {
      triangles[materialOf(mesh, t)]++;
    }
    int[][] corners = new int[count][];
    int[] at = new int[count];
    for (int m = 0; m < count; m++) {
      corners[m] =
          triangles[m] == mesh.triangleCount() ? split.corners() : new int[3 * triangles[m]];
    }
    for (int t = 0; t < mesh.triangleCount(); t++) {
      int m = materialOf(mesh, t);
      if (corners[m] != split.corners()) {
        System.arraycopy(split.corners(), 3 * t, corners[m], at[m], 3);
        at[m] += 3;
      }
    }
    List<Primitive> out = new ArrayList<>();
    for (int m = 0; m < count; m++) {
      if (triangles[m] > 0) {
        Material of = mesh.materials().get(m);
        Raster picture = mesh.uv() == null ? null : of.image();
        Surface own = picture == null ? null : new Surface(picture, null, null);
        out.add(
            new Primitive(
                of.name().isBlank() ? name : of.name(),
                picture == null && mesh.colours() == null ? of.argb() : 0xffffffff,
                given == null ? own : given.get(m),
                corners[m]));
      }
    }
    boolean coloured =
        mesh.colours() != null
            && out.stream().anyMatch(x -> x.surface == null || x.surface.colour() == null);
    vertexColours = coloured ? () -> colours(mesh, split) : null;
    return out;
  }

  private static int materialOf(Mesh mesh, int triangle) {
    int m = mesh.material() == null ? 0 : mesh.material()[triangle];
    return Math.clamp(m, 0, mesh.materials().size() - 1);
  }

  /** glTF's vertex colours are linear light; ours are sRGB (IEC 61966-2-1). */
  private static byte linear(int channel) {
    return (byte) (int) (255 * (double) LinearLight.ofByte(channel & 255) + 0.5);
  }

  private static float[] directions(float[] in, int stride, Similarity place) {
    float[] out = in.clone();
    for (int i = 0; i < in.length; i += stride) {
      double[] d = place.direction(new double[] {in[i], in[i + 1], in[i + 2]});
      out[i] = (float) d[0];
      out[i + 1] = (float) d[1];
      out[i + 2] = (float) d[2];
    }
    return out;
  }

  private Map<String, Object> describe(
      String name, Map<String, Object> attributes, List<Primitive> primitives, Work work) {
    List<Map<String, Object>> images = new ArrayList<>();
    List<Map<String, Object>> textures = new ArrayList<>();
    List<Map<String, Object>> materials = new ArrayList<>();
    List<Map<String, Object>> parts = new ArrayList<>();
    Map<Raster, byte[]> packed =
        packed(primitives, work.part(0.4, CoreWords.of("work.packing-pictures")));
    Map<Raster, Integer> known = new IdentityHashMap<>();
    Integer colour = vertexColours == null ? null : vertexColours.get();
    for (Primitive p : primitives) {
      Map<String, Object> material = new LinkedHashMap<>();
      material.put("name", p.name);
      Map<String, Object> pbr = new LinkedHashMap<>();
      if (p.argb != 0xffffffff) {
        pbr.put("baseColorFactor", factor(p.argb));
      }
      pbr.put("metallicFactor", 0);
      pbr.put("roughnessFactor", 0.8);
      material.put("pbrMetallicRoughness", pbr);
      for (int i = 0; p.surface != null && i < p.surface.all().length; i++) {
        Raster picture = p.surface.all()[i];
        if (picture == null) {
          continue;
        }
        Integer texture = known.get(picture);
        if (texture == null) {
          texture = textures.size();
          known.put(picture, texture);
          byte[] png = packed.get(picture);
          images.add(
              Map.of(
                  "bufferView",
                  block(png, png.length, 0),
                  "mimeType",
                  "image/png",
                  "name",
                  p.name + Surface.ENDINGS[i]));
          textures.add(Map.of("source", texture, "sampler", 0));
        }
        if (i == 0) {
          pbr.put("baseColorTexture", Map.of("index", texture));
        } else {
          material.put(i == 1 ? "normalTexture" : "occlusionTexture", Map.of("index", texture));
        }
      }
      Map<String, Object> own = new LinkedHashMap<>(attributes);
      boolean pictured = p.surface != null && p.surface.colour() != null;
      if (colour != null && !pictured) {
        own.put("COLOR_0", colour);
      }
      Map<String, Object> primitive = new LinkedHashMap<>();
      primitive.put("attributes", own);
      primitive.put(
          "indices",
          accessor(
              block(p.corners, 4L * p.corners.length, 34963),
              UNSIGNED_INT,
              p.corners.length,
              "SCALAR"));
      primitive.put("material", materials.size());
      materials.add(material);
      parts.add(primitive);
    }
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("asset", Map.of("version", "2.0", "generator", "Holotome"));
    json.put("scene", 0);
    json.put("scenes", List.of(Map.of("nodes", List.of(0))));
    json.put("nodes", List.of(Map.of("mesh", 0, "name", name)));
    json.put("meshes", List.of(Map.of("primitives", parts, "name", name)));
    json.put("materials", materials);
    if (!textures.isEmpty()) {
      json.put("textures", textures);
      json.put("images", images);
      json.put("samplers", List.of(Map.of("magFilter", 9729, "minFilter", 9987)));
    }
    json.put("accessors", accessors);
    json.put("bufferViews", views);
    json.put("buffers", List.of(Map.of("byteLength", length)));
    return json;
  }

  /** A colour as glTF's factor: linear light, opaque. */
  private static double[] factor(int argb) {
    return new double[] {
      LinearLight.channel(argb, 0), LinearLight.channel(argb, 1), LinearLight.channel(argb, 2), 1
    };
  }

  /** All pictures as PNG, side by side. */
  private static Map<Raster, byte[]> packed(List<Primitive> primitives, Work work) {
    List<Raster> pictures = new ArrayList<>();
    for (Primitive p : primitives) {
      if (p.surface != null) {
        for (Raster r : p.surface.all()) {
          if (r != null && pictures.stream().noneMatch(x -> x == r)) {
            pictures.add(r);
          }
        }
      }
    }
    byte[][] png = new byte[pictures.size()][];
    Parallel.range(
        png.length,
        1,
        work,
        (from, to) -> {
          for (int i = from; i < to; i++) {
            png[i] = Pictures.png(pictures.get(i), work);
          }
        });
    Map<Raster, byte[]> out = new IdentityHashMap<>();
    for (int i = 0; i < png.length; i++) {
      out.put(pictures.get(i), png[i]);
    }
    return out;
  }

  private int floats(float[] data, int width, String type, boolean bounds) {
    int a = accessor(block(data, 4L * data.length, 34962), FLOAT, data.length / width, type);
    if (bounds) {
      float[] lo = new float[width];
      float[] hi = new float[width];
      java.util.Arrays.fill(lo, Float.POSITIVE_INFINITY);
      java.util.Arrays.fill(hi, Float.NEGATIVE_INFINITY);
      for (int i = 0; i < data.length; i++) {
        lo[i % width] = Math.min(lo[i % width], data[i]);
        hi[i % width] = Math.max(hi[i % width], data[i]);
      }
      accessors.get(a).put("min", lo);
      accessors.get(a).put("max", hi);
    }
    return a;
  }

  private int accessor(int view, int component, int count, String type) {
    Map<String, Object> a = new LinkedHashMap<>();
    a.put("bufferView", view);
    a.put("componentType", component);
    a.put("count", count);
    a.put("type", type);
    accessors.add(a);
    return accessors.size() - 1;
  }

  private int block(Object data, long bytes, int target) {
    Map<String, Object> v = new LinkedHashMap<>();
    v.put("buffer", 0);
    v.put("byteOffset", length);
    v.put("byteLength", bytes);
    if (target != 0) {
      v.put("target", target);
    }
    views.add(v);
    blocks.add(data);
    length += (bytes + 3) / 4 * 4;
    if (length > 0xf0000000L) {
      throw Failure.cannot(CoreWords.of("glb-writer.the-mesh-is-too-large"));
    }
    return views.size() - 1;
  }

  private void emit(OutputStream out, Map<String, Object> json, Work work) throws IOException {
    byte[] text = JSON.writeValueAsString(json).getBytes(StandardCharsets.UTF_8);
    int padded = (text.length + 3) / 4 * 4;
    ByteSink sink = new ByteSink(out);
    sink.putInt(0x46546C67);
    sink.putInt(2);
    sink.putInt((int) (12 + 8 + padded + 8 + length));
    sink.putInt(padded);
    sink.putInt(0x4E4F534A);
    sink.putText(new String(text, StandardCharsets.UTF_8));
    for (int i = text.length; i < padded; i++) {
      sink.putByte(' ');
    }
    sink.putInt((int) length);
    sink.putInt(0x004E4942);
    for (Object block : blocks) {
      work.check();
      long bytes = emit(sink, block);
      for (; bytes % 4 != 0; bytes++) {
        sink.putByte(0);
      }
    }
    sink.flush();
    work.advance(0.2);
  }

  private static long emit(ByteSink sink, Object block) throws IOException {
    return switch (block) {
      case float[] f -> {
        for (float x : f) {
          sink.putFloat(x);
        }
        yield 4L * f.length;
      }
      case int[] i -> {
        for (int x : i) {
          sink.putInt(x);
        }
        yield 4L * i.length;
      }
      case byte[] b -> {
        for (byte x : b) {
          sink.putByte(x);
        }
        yield b.length;
      }
      default -> throw new IllegalStateException();
    };
  }
}
