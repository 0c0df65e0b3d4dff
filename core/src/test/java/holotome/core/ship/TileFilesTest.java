package holotome.core.ship;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.map.Range;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.TextureRectangle;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A tile is written with its size beside it, and repeated as glTF 2.0 has it. */
class TileFilesTest {
  @TempDir private Path dir;

  private static Mesh rectangle(float wide, float high) {
    float[] xyz = {1, 2, 3, 1 + wide, 2, 3, 1, 2 + high, 3, 1 + wide, 2 + high, 3};
    int[] triangles = {0, 1, 3, 0, 3, 2};
    return new Mesh(xyz, triangles)
        .withUv(new Uv(new float[] {0, 0, 1, 0, 0, 1, 1, 1}, triangles.clone()));
  }

  private static Workpiece tile() {
    Map<MapKind, Image> pictures = new EnumMap<>(MapKind.class);
    pictures.put(MapKind.COLOUR, Image.blank(32, 32, 3, Image.Sample.BYTE, Image.Space.SRGB));
    pictures.put(
        MapKind.HEIGHT,
        Image.blank(32, 32, 1, Image.Sample.FLOAT, Image.Space.LINEAR)
            .filled((x, y, v) -> v[0] = -0.01 + 0.03 * x / 31, Work.unwatched()));
    Image missed = Image.blank(32, 32, 1, Image.Sample.BYTE, Image.Space.LINEAR);
    Maps maps =
        new Maps(
            32,
            pictures,
            new EnumMap<>(Map.of(MapKind.HEIGHT, new Range(-0.01f, 0.02f))),
            missed,
            32 * 32,
            0,
            List.of());
    Mesh m = rectangle(2, 0.5f);
    return Workpiece.of(m, Frame.PLAIN.withTrueSize()).withCast(m).withMaps(maps);
  }

  private static WriteAsset to(WriteAsset.Destination d, int repeat) {
    return new WriteAsset(
        d,
        "setts",
        null,
        null,
        null,
        WriteAsset.What.CAST,
        1,
        false,
        WriteAsset.Measured.PNG,
        WriteAsset.Green.UP,
        null,
        WriteAsset.Squares.EACH,
        repeat);
  }

  private JsonNode note() throws IOException {
    return new ObjectMapper().readTree(dir.resolve("setts_maps.json").toFile());
  }

  @Test
  void theNoteSaysHowLargeItIsAndWhatHeightsGoOver() throws IOException {
    to(WriteAsset.Destination.RENDER, 1).apply(tile(), new Run(Work.unwatched(), dir));
    JsonNode note = note();
    assertThat(note.at("/tile/metres/0").doubleValue()).isCloseTo(2, within(1e-6));
    assertThat(note.at("/tile/metres/1").doubleValue()).isCloseTo(0.5, within(1e-6));
    assertThat(note.get("pixels").intValue()).isEqualTo(32);
    assertThat(note.get("trueSize").booleanValue()).isTrue();
    JsonNode height = note.get("maps").get(0);
    assertThat(height.get("map").textValue()).isEqualTo("height");
    assertThat(Files.exists(dir.resolve(height.get("file").textValue()))).isTrue();
    // In millimetres.
    assertThat(height.get("low").doubleValue()).isCloseTo(-10, within(1e-5));
    assertThat(height.get("high").doubleValue()).isCloseTo(20, within(1e-5));
  }

  /** By the file's own accessors: three times as large, coordinates from 0 to 3 or 1 - 3 to 1. */
  @Test
  void repeatedInGlb() throws IOException {
    to(WriteAsset.Destination.ENGINE, 3).apply(tile(), new Run(Work.unwatched(), dir));
    ByteBuffer glb =
        ByteBuffer.wrap(Files.readAllBytes(dir.resolve("setts.glb")))
            .order(ByteOrder.LITTLE_ENDIAN);
    byte[] text = new byte[glb.getInt(12)];
    glb.position(20).get(text);
    JsonNode json = new ObjectMapper().readTree(new String(text, StandardCharsets.UTF_8));
    JsonNode attributes = json.at("/meshes/0/primitives/0/attributes");
    JsonNode at = json.get("accessors").get(attributes.get("POSITION").intValue());
    assertThat(span(at, 0) * span(at, 0) + span(at, 1) * span(at, 1) + span(at, 2) * span(at, 2))
        .isCloseTo(6 * 6 + 1.5 * 1.5, within(1e-4));
    JsonNode uv = json.get("accessors").get(attributes.get("TEXCOORD_0").intValue());
    JsonNode view = json.get("bufferViews").get(uv.get("bufferView").intValue());
    int from =
        20
            + text.length
            + 8
            + view.path("byteOffset").intValue()
            + uv.path("byteOffset").intValue();
    float[] low = {9, 9};
    float[] high = {-9, -9};
    for (int i = 0; i < 2 * uv.get("count").intValue(); i++) {
      int stride = view.path("byteStride").intValue() == 0 ? 8 : view.get("byteStride").intValue();
      float f = glb.getFloat(from + i / 2 * stride + i % 2 * 4);
      low[i % 2] = Math.min(low[i % 2], f);
      high[i % 2] = Math.max(high[i % 2], f);
    }
    assertThat(high[0] - low[0]).isEqualTo(3);
    assertThat(high[1] - low[1]).isEqualTo(3);
    // Nothing else than to repeat is said of the sampler (glTF 2.0, 5.26: by default 10497).
    assertThat(json.at("/samplers/0/wrapS").asInt(10497)).isEqualTo(10497);
    assertThat(json.at("/samplers/0/wrapT").asInt(10497)).isEqualTo(10497);
    assertThat(note().at("/tile/metres/0").doubleValue()).isCloseTo(2, within(1e-6));
  }

  private static double span(JsonNode accessor, int axis) {
    return accessor.get("max").get(axis).doubleValue()
        - accessor.get("min").get(axis).doubleValue();
  }

  @Test
  void onlyTilesAreRepeated() {
    Mesh ball = Shapes.sphere(1, 2);
    Workpiece w = Workpiece.of(ball, Frame.PLAIN);
    assertThatThrownBy(
            () -> to(WriteAsset.Destination.ENGINE, 2).apply(w, new Run(Work.unwatched(), dir)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("tile");
    Mesh askew = rectangle(2, 1);
    askew.xyz()[9] += 0.1f;
    assertThat(TextureRectangle.of(askew)).isNull();
    assertThat(TextureRectangle.repeated(rectangle(2, 1), 1).sameAs(rectangle(2, 1))).isTrue();
  }
}
