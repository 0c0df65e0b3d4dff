package holotome.core.ship;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.image.Raster;
import holotome.core.io.Pictures;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * What a GLB file says of one of its parts, read as the standard has it.
 *
 * @param uv texture coordinates, two a vertex, v down the picture
 * @param corners three a triangle, into those
 * @param normal null for none
 */
record GlbPart(float[] uv, int[] corners, Raster colour, Raster normal) {
  static GlbPart[] all(Path glb) throws IOException {
    ByteBuffer b = ByteBuffer.wrap(Files.readAllBytes(glb)).order(ByteOrder.LITTLE_ENDIAN);
    int length = b.getInt(12);
    JsonNode root =
        new ObjectMapper().readTree(new String(b.array(), 20, length, StandardCharsets.UTF_8));
    ByteBuffer bin =
        b.slice(28 + length, b.capacity() - 28 - length).order(ByteOrder.LITTLE_ENDIAN);
    JsonNode primitives = root.at("/meshes/0/primitives");
    GlbPart[] out = new GlbPart[primitives.size()];
    for (int i = 0; i < out.length; i++) {
      JsonNode p = primitives.get(i);
      int[] corners = new int[count(root, p.at("/indices"))];
      int at = offset(root, p.at("/indices"));
      for (int k = 0; k < corners.length; k++) {
        corners[k] = bin.getInt(at + 4 * k);
      }
      JsonNode of = p.at("/attributes/TEXCOORD_0");
      float[] uv = new float[2 * count(root, of)];
      at = offset(root, of);
      for (int k = 0; k < uv.length; k++) {
        uv[k] = bin.getFloat(at + 4 * k);
      }
      JsonNode material = root.at("/materials/" + p.at("/material").asInt());
      out[i] =
          new GlbPart(
              uv,
              corners,
              picture(root, bin, material.at("/pbrMetallicRoughness/baseColorTexture/index")),
              picture(root, bin, material.at("/normalTexture/index")));
    }
    return out;
  }

  private static int count(JsonNode root, JsonNode accessor) {
    return root.at("/accessors/" + accessor.asInt() + "/count").asInt();
  }

  private static int offset(JsonNode root, JsonNode accessor) {
    int view = root.at("/accessors/" + accessor.asInt() + "/bufferView").asInt();
    return root.at("/bufferViews/" + view + "/byteOffset").asInt();
  }

  private static Raster picture(JsonNode root, ByteBuffer bin, JsonNode texture)
      throws IOException {
    if (texture.isMissingNode()) {
      return null;
    }
    int image = root.at("/textures/" + texture.asInt() + "/source").asInt();
    JsonNode view = root.at("/bufferViews/" + root.at("/images/" + image + "/bufferView").asInt());
    byte[] png = new byte[view.at("/byteLength").asInt()];
    bin.get(view.at("/byteOffset").asInt(), png);
    Path file = Files.createTempFile("part", ".png");
    try {
      Files.write(file, png);
      return Pictures.read(file);
    } finally {
      Files.delete(file);
    }
  }
}
