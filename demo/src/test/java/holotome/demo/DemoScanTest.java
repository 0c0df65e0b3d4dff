package holotome.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.intake.Inspection;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DemoScanTest {
  private static final int SMALL = 60_000;

  @TempDir private Path dir;

  private Path write(String name, int triangles) {
    Path file = dir.resolve(name);
    DemoFiles.write("bollard", file, triangles, Work.unwatched());
    return file;
  }

  private static Mesh read(Path file) {
    return MeshReader.read(file, Work.unwatched()).mesh();
  }

  private static JsonNode truth(Path scan) throws IOException {
    return new ObjectMapper().readTree(DemoFiles.truthBeside(scan).toFile());
  }

  private static double[] numbers(JsonNode n) {
    double[] out = new double[n.size()];
    for (int i = 0; i < out.length; i++) {
      out[i] = n.get(i).asDouble();
    }
    return out;
  }

  private static Similarity capture(JsonNode truth) {
    JsonNode c = truth.get("capture");
    return new Similarity(
        c.get("scale").asDouble(), numbers(c.get("rotation")), numbers(c.get("shift")));
  }

  @Test
  void sameCountSameBytesOnAnyNumberOfThreads() throws IOException {
    byte[] many = Files.readAllBytes(write("a.ply", SMALL));
    Parallel.limitThreads(1);
    try {
      assertThat(Files.readAllBytes(write("b.ply", SMALL))).isEqualTo(many);
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {20_000, 60_000, 300_000, 1_200_000})
  void countsAreMetWithinThreePercent(int triangles) {
    Mesh m = read(write("n.ply", triangles));
    assertThat(m.triangleCount()).isCloseTo(triangles, within((int) (0.03 * triangles)));
    assertThat(m.colours()).hasSize(m.vertexCount());
  }

  @Test
  void theStreamedFileHoldsWhatIsMadeInMemory() throws IOException {
    Path file = write("a.ply", SMALL);
    BollardScan.Made made = BollardScan.of(SMALL).make(Work.unwatched());
    Mesh streamed = read(file);
    assertThat(streamed.triangleCount()).isEqualTo(made.mesh().triangleCount());
    assertThat(streamed.triangles()).isEqualTo(made.mesh().triangles());
    assertThat(streamed.colours()).isEqualTo(made.mesh().colours());
    assertThat(streamed.xyz()).isEqualTo(made.mesh().xyz());
    JsonNode parts = truth(file).get("triangles");
    assertThat(parts.get("debris").get(1).asInt()).isEqualTo(streamed.triangleCount());
    assertThat(parts.get("subject").get(1).asInt()).isEqualTo(made.ends()[0]);
  }

  @Test
  void theTruthFitsTheScan() throws IOException {
    Path file = write("a.ply", 200_000);
    Mesh m = read(file);
    JsonNode t = truth(file);
    Similarity toTrue = capture(t).inverse();
    // The bar is half a metre long, and its ends lie on the bar.
    double[][] ends = {
      numbers(t.at("/scaleBar/ends").get(0)), numbers(t.at("/scaleBar/ends").get(1))
    };
    assertThat(Vec.distance(ends[0], ends[1]) * toTrue.scale()).isCloseTo(0.5, within(1e-9));
    int[] bar = {t.at("/triangles/bar").get(0).asInt(), t.at("/triangles/bar").get(1).asInt()};
    Mesh barMesh = Submesh.of(m, i -> i >= bar[0] && i < bar[1], Work.unwatched());
    Box box = Placing.bounds(barMesh.xyz(), toTrue);
    assertThat(Math.hypot(box.width(), box.depth())).isBetween(0.5, 0.6);
    // The subject, put back to true size, is the true surface but for noise and holes.
    int subject = t.at("/triangles/subject").get(1).asInt();
    Mesh scanned = Submesh.of(m, i -> i < subject, Work.unwatched());
    Mesh back = scanned.withPositions(Placing.apply(scanned.xyz(), toTrue));
    Mesh truth = BollardScan.trueSubject(0.002);
    SurfaceDistance off = SurfaceDistance.of(back, truth, 50_000, Work.unwatched());
    assertThat(off.rms()).isBetween(0.0001, 0.0006);
    Box b = back.bounds();
    assertThat(b.maxZ()).isCloseTo(0.640, within(0.003));
    assertThat(b.minZ()).isCloseTo(0, within(0.003));
    assertThat(b.width()).isCloseTo(0.520, within(0.006));
    assertThat(t.at("/bollard/height").asDouble()).isEqualTo(0.640);
    assertThat(t.at("/bollard/flangeDiameter").asDouble()).isEqualTo(0.520);
  }

  @Test
  void itSuffersFromWhatScansSufferFrom() throws IOException {
    Path file = write("a.ply", 200_000);
    Mesh m = read(file);
    JsonNode t = truth(file);
    Inspection i = Inspection.of(m, false, Work.unwatched());
    // The main surface, the bar, and 46 pieces of debris.
    assertThat(i.islands()).isEqualTo(48);
    // Its rim, the bar's open underside, each piece of debris, and at least three holes.
    assertThat(i.boundaryLoops()).isGreaterThanOrEqualTo(1 + 1 + 46 + 3);
    double[] shift = numbers(t.at("/capture/shift"));
    assertThat(Vec.length(shift)).isBetween(100.0, 1000.0);
    double tilt = Math.toDegrees(Math.acos(numbers(t.at("/bollard/axis"))[2]));
    assertThat(tilt).isBetween(5.0, 30.0);
    assertThat(t.at("/capture/scale").asDouble()).isNotCloseTo(1000, within(100.0));
    int[] sizes = Islands.of(m).sizes();
    assertThat(sizes[0]).isGreaterThan((int) (0.9 * m.triangleCount()));
  }

  @Test
  void asObjTheColourIsInAnAtlas() throws IOException {
    Path obj = write("a.obj", SMALL);
    Mesh textured = read(obj);
    Mesh plain = read(write("a.ply", SMALL));
    assertThat(textured.triangleCount()).isEqualTo(plain.triangleCount());
    assertThat(textured.hasTexture()).isTrue();
    assertThat(textured.colours()).isNull();
    // Colours taken from the atlas agree with those per point of the other file.
    double off = 0;
    int n = 0;
    for (int k = 0; k < plain.triangleCount(); k += 7) {
      int a = holotome.core.mesh.VertexColours.at(textured, k, 1 / 3f, 1 / 3f);
      int b = holotome.core.mesh.VertexColours.at(plain, k, 1 / 3f, 1 / 3f);
      for (int s = 0; s < 24; s += 8) {
        off += Math.abs((a >> s & 255) - (b >> s & 255));
        n++;
      }
    }
    // Joints and rust are finer than these triangles: the two can only agree on the whole.
    assertThat(off / n).isLessThan(12);
    try (var files = Files.list(dir)) {
      assertThat(files.map(p -> p.getFileName().toString()))
          .contains("a.obj", "a.mtl", "a.truth.json");
    }
  }

  @Test
  void whatCannotBeMadeIsRefused() throws IOException {
    assertThatThrownBy(() -> write("x.ply", 10)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> write("x.stl", SMALL)).hasMessageContaining("ply or obj");
    assertThatThrownBy(
            () -> DemoFiles.write("lighthouse", dir.resolve("x.ply"), SMALL, Work.unwatched()))
        .hasMessageContaining("no demo scan");
    Work cancelled = new Work();
    cancelled.cancel();
    assertThatThrownBy(() -> DemoFiles.write("bollard", dir.resolve("x.ply"), SMALL, cancelled))
        .isInstanceOf(Failure.class);
    try (var files = Files.list(dir)) {
      assertThat(files).isEmpty();
    }
  }
}
