package holotome.app;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.mesh.Mesh;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** Reads the one mesh of a GLB back, by the glTF 2.0 standard alone, into Z-up coordinates. */
record Glb(JsonNode json, Mesh mesh) {
  static Glb read(Path file) throws IOException {
    ByteBuffer b = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
    if (b.getInt(0) != 0x46546C67 || b.getInt(8) != b.capacity()) {
      throw new IOException("no GLB");
    }
    int length = b.getInt(12);
    JsonNode root =
        new ObjectMapper().readTree(new String(b.array(), 20, length, StandardCharsets.UTF_8));
    int bin = 20 + length + 8;
    JsonNode primitive = root.at("/meshes/0/primitives/0");
    JsonNode places = root.get("accessors").get(primitive.at("/attributes/POSITION").asInt());
    int at = bin + start(root, places);
    float[] xyz = new float[3 * places.get("count").asInt()];
    for (int v = 0; v < xyz.length / 3; v++) {
      // Y up, Z towards the viewer, back to Z up.
      xyz[3 * v] = b.getFloat(at + 12 * v);
      xyz[3 * v + 1] = -b.getFloat(at + 12 * v + 8);
      xyz[3 * v + 2] = b.getFloat(at + 12 * v + 4);
    }
    JsonNode indices = root.get("accessors").get(primitive.get("indices").asInt());
    int from = bin + start(root, indices);
    int[] tri = new int[indices.get("count").asInt()];
    boolean wide = indices.get("componentType").asInt() == 5125;
    for (int i = 0; i < tri.length; i++) {
      tri[i] = wide ? b.getInt(from + 4 * i) : b.getShort(from + 2 * i) & 0xffff;
    }
    return new Glb(root, new Mesh(xyz, tri));
  }

  private static int start(JsonNode root, JsonNode accessor) {
    JsonNode view = root.get("bufferViews").get(accessor.get("bufferView").asInt());
    return view.path("byteOffset").asInt(0) + accessor.path("byteOffset").asInt(0);
  }
}
