package holotome.core.ship;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.Datasets;
import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.bake.BakeMaps;
import holotome.core.datum.KnownLength;
import holotome.core.datum.Scale;
import holotome.core.datum.Turn;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.image.Image;
import holotome.core.image.Raster;
import holotome.core.io.MeshReader;
import holotome.core.io.Pictures;
import holotome.core.map.MapKind;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.Role;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.unwrap.MakeCharts;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class WriteAssetTest {
  @TempDir private Path dir;

  /** A sphere of radius 1 unit that is truly 25 mm, turned, far from the origin, with maps. */
  private static Workpiece work() {
    Mesh sphere = Shapes.coloured(Shapes.sphere(1, 5));
    Workpiece w = Workpiece.of(sphere, Frame.ofOffset(new double[] {400_000, 5_000_000, 30}));
    KnownLength k =
        new KnownLength(new double[] {0, 0, 0}, new double[] {1, 0, 0}, Length.parse("25 mm"));
    w = new Scale(List.of(k)).apply(w, Run.unwatched()).work();
    w = new Turn(Turn.Axis.X, 30).apply(w, Run.unwatched()).work();
    w = new Decimate(600, null, null, Role.CAST).apply(w, Run.unwatched()).work();
    w = new MakeCharts(256, 4, 1.1, 0, 180).apply(w, Run.unwatched()).work();
    return new BakeMaps(List.of(MapKind.COLOUR, MapKind.NORMAL), 256, 4, 8)
        .apply(w, Run.unwatched())
        .work();
  }

  private Path write(Workpiece w, WriteAsset step) {
    step.apply(w, new Run(Work.unwatched(), dir));
    return dir.resolve(step.fileName());
  }

  private static WriteAsset to(WriteAsset.Destination d) {
    return new WriteAsset(d, "ball", null, null, WriteAsset.What.CAST);
  }

  @Test
  void glbHoldsMetresWithYUpAndBothPictures() throws IOException {
    Path file = write(work(), to(WriteAsset.Destination.ENGINE));
    ByteBuffer b = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
    assertThat(b.getInt(0)).isEqualTo(0x46546C67);
    assertThat(b.getInt(4)).isEqualTo(2);
    assertThat(b.getInt(8)).isEqualTo(b.capacity());
    int json = b.getInt(12);
    JsonNode root =
        new ObjectMapper().readTree(new String(b.array(), 20, json, StandardCharsets.UTF_8));
    JsonNode attributes = root.at("/meshes/0/primitives/0/attributes");
    JsonNode position = root.get("accessors").get(attributes.get("POSITION").asInt());
    for (int k = 0; k < 3; k++) {
      assertThat(position.get("max").get(k).asDouble()).isCloseTo(0.025, within(0.0005));
      assertThat(position.get("min").get(k).asDouble()).isCloseTo(-0.025, within(0.0005));
    }
    assertThat(attributes.has("NORMAL")).isTrue();
    assertThat(attributes.has("TANGENT")).isTrue();
    assertThat(attributes.has("TEXCOORD_0")).isTrue();
    assertThat(root.get("images").size()).isEqualTo(2);
    assertThat(root.at("/materials/0/normalTexture/index").isInt()).isTrue();
    assertThat(root.at("/nodes/0/matrix").isMissingNode()).isTrue();
    assertThat(root.at("/nodes/0/scale").isMissingNode()).isTrue();
  }

  /** By the Khronos glTF validator, npm gltf-validator. */
  @Test
  void theValidatorFindsNoError() throws IOException, InterruptedException {
    Path file = write(work(), to(WriteAsset.Destination.ENGINE));
    Path bare = dir.resolve("bare.glb");
    new WriteAsset(WriteAsset.Destination.ENGINE, "bare", null, null, WriteAsset.What.SCAN)
        .apply(work(), new Run(Work.unwatched(), dir));
    assertValid(file);
    assertValid(bare);
  }

  static void assertValid(Path file) throws IOException, InterruptedException {
    Datasets.file("validator");
    Process p =
        new ProcessBuilder("node", Datasets.script("validate-glb").toString(), file.toString())
            .redirectErrorStream(true)
            .start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(said).isZero();
    assertThat(said).contains("0 errors, 0 warnings");
  }

  @ParameterizedTest
  @EnumSource(
      value = WriteAsset.Destination.class,
      names = {"RENDER", "PRINT", "ENGINEERING", "CAPTURE"})
  void everyOtherDestinationReadsBackAtItsSize(WriteAsset.Destination d) {
    Workpiece w = work();
    Path file = write(w, to(d));
    var loaded = MeshReader.read(file, Work.unwatched());
    assertThat(loaded.mesh().triangleCount()).isEqualTo(w.cast().triangleCount());
    assertThat(Naive.closedAndOriented(loaded.mesh())).isTrue();
    Box b = Placing.bounds(loaded.mesh().xyz(), loaded.frame().toFile());
    double size =
        switch (d) {
          case PRINT, ENGINEERING -> 50;
          case CAPTURE -> 2;
          default -> 0.05;
        };
    assertThat(b.width()).isCloseTo(size, within(0.02 * size));
    double x = b.centre()[0];
    assertThat(x).isCloseTo(d == WriteAsset.Destination.CAPTURE ? 400_000 : x, within(0.01));
  }

  @Test
  void objCarriesItsPicturesBesideIt() throws IOException {
    Workpiece w = work();
    Path file = write(w, to(WriteAsset.Destination.RENDER));
    Mesh back = MeshReader.read(file, Work.unwatched()).mesh();
    assertThat(back.uv()).isNotNull();
    assertThat(back.hasTexture()).isTrue();
    assertThat(back.materials().getFirst().image().pixels())
        .isEqualTo(w.maps().pictures().get(MapKind.COLOUR).raster().pixels());
    assertThat(Pictures.read(dir.resolve("ball_normal.png")).pixels())
        .isEqualTo(w.maps().pictures().get(MapKind.NORMAL).raster().pixels());
  }

  private static Workpiece manyMaps() {
    List<MapKind> kinds =
        List.of(
            MapKind.COLOUR, MapKind.NORMAL, MapKind.OCCLUSION, MapKind.HEIGHT, MapKind.POSITION);
    return new BakeMaps(kinds, 64, 4, 8).apply(work(), Run.unwatched()).work();
  }

  private static WriteAsset with(
      WriteAsset.Destination d, WriteAsset.Measured measured, WriteAsset.Green green) {
    return new WriteAsset(
        d,
        "ball",
        null,
        null,
        null,
        WriteAsset.What.CAST,
        1,
        false,
        measured,
        green,
        null,
        WriteAsset.Squares.EACH,
        1);
  }

  /** A unit of the capture is 25 mm; read back by npm pngjs and parse-exr. */
  @Test
  void heightsAreWrittenInMillimetres() throws Exception {
    Workpiece w = manyMaps();
    Image height = w.maps().pictures().get(MapKind.HEIGHT);
    write(w, with(WriteAsset.Destination.RENDER, WriteAsset.Measured.PNG, WriteAsset.Green.UP));
    String note = Files.readString(dir.resolve("ball_maps.json"));
    java.util.regex.Matcher range =
        java.util.regex.Pattern.compile(
                "(?s)ball_height.png\".*?millimetres, 16 bits from (\\S+) \\(0\\) to (\\S+) ")
            .matcher(note);
    assertThat(range.find()).as(note).isTrue();
    double low = Double.parseDouble(range.group(1));
    double high = Double.parseDouble(range.group(2));
    assertThat(high).isCloseTo(25.0 * w.maps().ranges().get(MapKind.HEIGHT).high(), within(1e-5));
    List<String> png = read("ball_height.png");
    write(w, with(WriteAsset.Destination.RENDER, WriteAsset.Measured.EXR, WriteAsset.Green.UP));
    List<String> exr = read("ball_height.exr");
    for (int i = 0; i < 64 * 64; i++) {
      double truth = 25 * height.value(i % 64, i / 64, 0);
      double whole = Double.parseDouble(png.get(i).split(" ")[0]);
      assertThat(low + whole / 65535 * (high - low)).isCloseTo(truth, within((high - low) / 60000));
      assertThat(Double.parseDouble(exr.get(i).split(" ")[0])).isCloseTo(truth, within(1e-6));
    }
  }

  /** The pixels of a picture, a line each, as the independent reader prints them. */
  private List<String> read(String name) throws Exception {
    Datasets.file("pictures");
    Process p =
        new ProcessBuilder(
                "node", Datasets.script("read-picture").toString(), dir.resolve(name).toString())
            .redirectErrorStream(true)
            .start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(said).isZero();
    List<String> lines = said.lines().toList();
    return lines.subList(lines.size() - 64 * 64, lines.size());
  }

  @Test
  void greenPointsDownWhereThatIsAskedFor() throws IOException {
    Workpiece w = manyMaps();
    write(w, with(WriteAsset.Destination.RENDER, WriteAsset.Measured.EXR, WriteAsset.Green.DOWN));
    int[] pixels = Pictures.read(dir.resolve("ball_normal.png")).pixels();
    Image up = w.maps().pictures().get(MapKind.NORMAL);
    for (int i = 0; i < pixels.length; i++) {
      assertThat(pixels[i]).isEqualTo(up.argb(i % 64, i / 64) ^ 0xff00);
    }
    assertThat(Files.readString(dir.resolve("ball_maps.json"))).contains("green down");
  }

  @Test
  void picturesAreHalvedForTheWeb() throws Exception {
    Workpiece w = manyMaps();
    WriteAsset small =
        new WriteAsset(
            WriteAsset.Destination.RENDER,
            "ball",
            null,
            null,
            null,
            WriteAsset.What.CAST,
            1,
            false,
            WriteAsset.Measured.EXR,
            WriteAsset.Green.UP,
            20,
            WriteAsset.Squares.EACH,
            1);
    write(w, small);
    var normal = Pictures.read(dir.resolve("ball_normal.png"));
    assertThat(normal.width()).isEqualTo(16);
    for (int p : normal.pixels()) {
      double x = (p >> 16 & 255) / 127.5 - 1;
      double y = (p >> 8 & 255) / 127.5 - 1;
      double z = (p & 255) / 127.5 - 1;
      assertThat(Math.sqrt(x * x + y * y + z * z)).isCloseTo(1, within(0.01));
    }
    assertThat(Files.readString(dir.resolve("ball_maps.json"))).contains("\"pixels\" : 16");
    // What was baked is as it was.
    assertThat(w.maps().size()).isEqualTo(64);
  }

  @Test
  void glbHoldsOcclusionAndTheRestLiesBesideIt() throws Exception {
    Path file = write(manyMaps(), to(WriteAsset.Destination.ENGINE));
    assertValid(file);
    String text = Files.readString(file, StandardCharsets.ISO_8859_1);
    assertThat(text).contains("occlusionTexture");
    assertThat(dir.resolve("ball_occlusion.png")).doesNotExist();
    assertThat(dir.resolve("ball_height.exr")).exists();
    assertThat(dir.resolve("ball_position.exr")).exists();
  }

  @Test
  void theCapturesOwnFrameComesBackToTheFloat() {
    Workpiece w = work();
    Path file =
        write(
            w,
            new WriteAsset(
                WriteAsset.Destination.CAPTURE, "back", null, null, WriteAsset.What.SCAN));
    var loaded = MeshReader.read(file, Work.unwatched());
    Mesh m = loaded.mesh();
    double[] shift = loaded.frame().toFile().shift();
    for (int v = 0; v < m.vertexCount(); v++) {
      for (int k = 0; k < 3; k++) {
        double there = m.xyz()[3 * v + k] + shift[k];
        double was = w.scan().xyz()[3 * v + k] + w.frame().toFile().shift()[k];
        assertThat(there).isCloseTo(was, within(1e-6));
      }
    }
  }

  @Test
  void whatCannotBeWrittenIsSaid() throws IOException {
    Workpiece w = Workpiece.of(Shapes.cube(1), Frame.PLAIN);
    assertThatThrownBy(
            () ->
                new WriteAsset(
                    WriteAsset.Destination.ENGINE, "a/b", null, null, WriteAsset.What.CAST))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> to(WriteAsset.Destination.ENGINE).apply(w, Run.unwatched()))
        .hasMessageContaining("no directory");
    assertThatThrownBy(
            () ->
                write(
                    w,
                    new WriteAsset(
                        WriteAsset.Destination.ENGINE,
                        "x",
                        null,
                        "original",
                        WriteAsset.What.CAST)))
        .hasMessageContaining("cannot carry another frame");
    try (var files = Files.list(dir)) {
      assertThat(files).isEmpty();
    }
  }

  /** A scan of several materials keeps all of them in a GLB, each with its own picture. */
  @Test
  void severalMaterialsAreAllWritten() throws IOException, InterruptedException {
    Mesh m = Shapes.sphere(1, 3);
    float[] uv = new float[2 * m.vertexCount()];
    short[] of = new short[m.triangleCount()];
    for (int v = 0; v < m.vertexCount(); v++) {
      uv[2 * v] = 0.5f + 0.4f * m.xyz()[3 * v];
      uv[2 * v + 1] = 0.5f + 0.4f * m.xyz()[3 * v + 1];
    }
    for (int t = 0; t < of.length; t++) {
      of[t] = (short) (t % 4);
    }
    Raster one = new Raster(2, 2, new int[] {-1, -1, -1, -1});
    Raster two = new Raster(2, 2, new int[] {0xff00ff00, -1, -1, -1});
    Mesh several =
        new Mesh(
            m.xyz(),
            m.triangles(),
            null,
            new Uv(uv, m.triangles().clone()),
            of,
            List.of(
                new Material("iron", -1, one),
                new Material("rust", -1, two),
                new Material("paint", 0xff804020, null),
                new Material("iron again", -1, one),
                new Material("unused", -1, null)));
    Path file =
        write(
            Workpiece.of(several, Frame.PLAIN),
            new WriteAsset(
                WriteAsset.Destination.ENGINE, "several", null, null, WriteAsset.What.SCAN));
    ByteBuffer b = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
    byte[] text = new byte[b.getInt(12)];
    b.get(20, text);
    JsonNode root = new ObjectMapper().readTree(new String(text, StandardCharsets.UTF_8));
    JsonNode parts = root.get("meshes").get(0).get("primitives");
    assertThat(parts).hasSize(4);
    int corners = 0;
    for (JsonNode p : parts) {
      corners += root.get("accessors").get(p.get("indices").asInt()).get("count").asInt();
    }
    assertThat(corners).isEqualTo(3 * m.triangleCount());
    assertThat(root.get("materials").findValuesAsText("name"))
        .containsExactly("iron", "rust", "paint", "iron again");
    assertThat(root.get("images")).as("a picture used twice is there once").hasSize(2);
    JsonNode paint = root.get("materials").get(2).get("pbrMetallicRoughness");
    // 0x80 is 0.2159 as light (IEC 61966-2-1).
    assertThat(paint.get("baseColorFactor").get(0).asDouble()).isCloseTo(0.2159, within(1e-3));
    assertValid(file);
  }
}
