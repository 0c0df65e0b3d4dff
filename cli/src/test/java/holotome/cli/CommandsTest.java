package holotome.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.geometry.Similarity;
import holotome.core.image.Raster;
import holotome.core.io.MeshReader;
import holotome.core.io.MeshWriter;
import holotome.core.io.Pictures;
import holotome.core.log.Catalogue;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Work;
import holotome.demo.BollardScan;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The command line as a user or a script meets it: what is printed, exit codes, files. */
class CommandsTest {
  @TempDir private Path dir;

  private final PrintStream out = System.out;
  private final PrintStream err = System.err;
  private ByteArrayOutputStream printed;
  private ByteArrayOutputStream said;

  @BeforeEach
  void listen() {
    Locale.setDefault(Locale.Category.FORMAT, Locale.ROOT);
    printed = new ByteArrayOutputStream();
    said = new ByteArrayOutputStream();
    System.setOut(new PrintStream(printed, true, StandardCharsets.UTF_8));
    System.setErr(new PrintStream(said, true, StandardCharsets.UTF_8));
  }

  @AfterEach
  void stopListening() {
    System.setOut(out);
    System.setErr(err);
  }

  private int run(Object... words) {
    printed.reset();
    said.reset();
    return Main.run(Arrays.stream(words).map(String::valueOf).toArray(String[]::new));
  }

  private String printed() {
    return printed.toString(StandardCharsets.UTF_8);
  }

  private JsonNode json() throws IOException {
    return new ObjectMapper().readTree(printed());
  }

  private void assertOneLine(String... parts) {
    String text = said.toString(StandardCharsets.UTF_8);
    assertThat(text.lines()).hasSize(1);
    assertThat(text).startsWith("holotome: ").contains(parts);
  }

  private Path tetrahedron() {
    float[] xyz = {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1};
    Path file = dir.resolve("t.ply");
    MeshWriter.write(
        file,
        new Mesh(xyz, new int[] {0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3}),
        Similarity.IDENTITY,
        Work.unwatched());
    return file;
  }

  private static Path example(String name) {
    return Path.of(System.getProperty("holotome.datasets")).resolve("../../docs/examples/" + name);
  }

  @Test
  void inspectGivesEveryFigureOfATetrahedron() throws IOException {
    assertThat(run("inspect", tetrahedron(), "--json")).isZero();
    JsonNode j = json();
    assertThat(j.get("triangles").asInt()).isEqualTo(4);
    assertThat(j.get("vertices").asInt()).isEqualTo(4);
    assertThat(j.get("volume").asDouble()).isCloseTo(1 / 6.0, within(1e-7));
    assertThat(j.get("area").asDouble()).isCloseTo(1.5 + Math.sqrt(3) / 2, within(1e-6));
    assertThat(j.get("closed").asBoolean()).isTrue();
    assertThat(j.get("eulerCharacteristic").asInt()).isEqualTo(2);
    assertThat(j.at("/bounds/max/2").asDouble()).isEqualTo(1);
    for (String key :
        new String[] {
          "unit",
          "boundaryLoops",
          "nonManifoldEdges",
          "nonManifoldVertices",
          "degenerateTriangles",
          "duplicateTriangles",
          "duplicateVertices",
          "unreferencedVertices",
          "islands",
          "consistentlyOriented",
          "selfIntersections",
          "hasColour",
          "hasUv"
        }) {
      assertThat(j.has(key)).as(key).isTrue();
    }
    assertThat(run("inspect", tetrahedron())).isZero();
    assertThat(printed()).contains("boundary loops").contains("1 × 1 × 1 units");
  }

  /** Two tetrahedra, one of them open, through each other: found, and where. */
  @Test
  void inspectFindsFaultsAndWhereTheyAre() throws IOException {
    float[] xyz = {
      0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0.1f, 0.1f, 0.1f, 2, 0.1f, 0.1f, 0.1f, 2, 0.1f, 0.1f,
      0.1f, 2
    };
    int[] tri = {0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3, 4, 6, 5, 4, 5, 7, 4, 7, 6};
    Path file = dir.resolve("two.ply");
    MeshWriter.write(
        file,
        new Mesh(xyz, tri),
        Similarity.translation(new double[] {100, 0, 0}),
        Work.unwatched());
    assertThat(run("inspect", file, "--faults", "--json")).isZero();
    JsonNode faults = json().get("faults");
    assertThat(faults.findValuesAsText("kind")).contains("crossings", "holes");
    for (JsonNode f : faults) {
      assertThat(f.get("count").asLong()).isPositive();
      assertThat(f.at("/places/0/0").asDouble()).isBetween(100.0, 102.0);
    }
    assertThat(run("inspect", file, "--faults")).isZero();
    assertThat(printed()).contains("faults, worst place first", "crossings", "holes");
  }

  @Test
  void compareMeasuresBothWays() throws IOException {
    Path a = tetrahedron();
    Path b = dir.resolve("moved.obj");
    Mesh m = MeshReader.read(a, Work.unwatched()).mesh();
    MeshWriter.write(b, m, Similarity.translation(new double[] {10, 0, 0}), Work.unwatched());
    assertThat(run("compare", a, b, "--json")).isZero();
    for (String way : new String[] {"aToB", "bToA", "both"}) {
      JsonNode d = json().get(way);
      assertThat(d.get("rms").asDouble()).isBetween(9.0, 10.2);
      assertThat(d.get("max").asDouble()).isGreaterThanOrEqualTo(d.get("p95").asDouble());
      assertThat(d.get("mean").asDouble()).isLessThanOrEqualTo(d.get("rms").asDouble());
    }
    // The corner that is farthest: that of the moved one at the far end.
    assertThat(json().at("/bToA/at/0").asDouble()).isBetween(10.0, 12.0);
    assertThat(json().get("diagonal").asDouble()).isCloseTo(Math.sqrt(3), within(1e-6));
    assertThat(run("compare", a, a)).isZero();
    assertThat(printed()).contains("A to B").contains("both");
  }

  @Test
  void stepsDescribesEveryStepWithItsParameters() throws IOException {
    assertThat(run("steps", "--json")).isZero();
    JsonNode steps = json().get("steps");
    assertThat(steps.size()).isEqualTo(Catalogue.all().size());
    for (JsonNode s : steps) {
      assertThat(s.get("help").asText()).isNotBlank();
      for (JsonNode p : s.get("parameters")) {
        assertThat(p.get("help").asText()).as("%s", s.get("do")).isNotBlank();
      }
    }
    // What a pick may be is told down to its last figure.
    JsonNode picks = steps.get(0).get("parameters").get(0).get("parts");
    assertThat(picks.findValuesAsText("name"))
        .contains("fence", "box", "height", "colour", "linked", "brush", "change", "within");
    assertThat(run("steps")).isZero();
    assertThat(printed()).contains("replace | add | take | intersect");
    for (JsonNode s : steps) {
      assertThat(printed()).contains(s.get("do").asText());
    }
  }

  @Test
  void pictureShowsTheMeshOnGrey() throws IOException {
    Path png = dir.resolve("p.png");
    for (String look : new String[] {"clay", "wire", "facing"}) {
      assertThat(run("picture", tetrahedron(), "--out", png, "--look", look, "--size", "200x100"))
          .isZero();
      Raster r = Pictures.read(png);
      assertThat(r.width()).isEqualTo(200);
      assertThat(r.height()).isEqualTo(100);
      int middle = r.pixels()[55 * 200 + 100];
      int corner = r.pixels()[0];
      assertThat(corner & 255).isEqualTo(corner >> 8 & 255);
      assertThat(middle).isNotEqualTo(corner);
    }
    assertThat(run("picture", tetrahedron(), "--out", png, "--look", "xray")).isEqualTo(2);
    assertOneLine("xray");
    assertThat(run("picture", tetrahedron(), "--out", png, "--size", "huge")).isEqualTo(2);
    assertOneLine("huge");
  }

  /** The whole job by a Log, held against the truth of the made-up scan. */
  @Test
  void theExampleLogMakesTheAssetThatTheTruthAsksFor() throws IOException {
    Path scan = dir.resolve("quay.ply");
    assertThat(run("demo-scan", "bollard", "--out", scan, "--triangles", 250_000)).isZero();
    byte[] before = Files.readAllBytes(scan);
    assertThat(run("replay", example("bollard.json"), scan, "--out", dir, "--json"))
        .as(said.toString(StandardCharsets.UTF_8))
        .isZero();
    JsonNode j = json();
    JsonNode bounds = j.get("bounds");
    assertThat(bounds.at("/max/2").asDouble()).isCloseTo(0.640, within(0.0064));
    assertThat(bounds.at("/min/2").asDouble()).isCloseTo(0, within(1e-4));
    assertThat(j.get("trueSize").asBoolean()).isTrue();
    assertThat(dir.resolve("bollard.glb")).exists();
    assertThat(Files.readAllBytes(scan)).isEqualTo(before);

    // The Cast once more as PLY, in metres, beside the true surface.
    Path log = dir.resolve("ply.json");
    Files.writeString(
        log,
        Files.readString(example("bollard.json"))
            .replace("\"for\": \"engine\"", "\"for\": \"engine\", \"format\": \"ply\""));
    assertThat(run("replay", log, scan, "--out", dir)).isZero();
    assertThat(printed()).contains("ship.write").contains("done");
    Mesh cast = MeshReader.read(dir.resolve("bollard.ply"), Work.unwatched()).mesh();
    assertThat(cast.triangleCount()).isEqualTo(20_000);
    Mesh truth = BollardScan.trueSubject(0.003);
    // The job leaves the turn about the upright axis open: the best of all turns is compared.
    double best = Double.POSITIVE_INFINITY;
    int at = 0;
    for (int degree = 0; degree < 360; degree += 9) {
      double off = off(truth, cast, degree);
      at = off < best ? degree : at;
      best = Math.min(best, off);
    }
    for (int degree = at - 6; degree <= at + 6; degree += 3) {
      best = Math.min(best, off(truth, cast, degree));
    }
    assertThat(best).isLessThan(0.0015);
  }

  private static double off(Mesh truth, Mesh cast, int degree) {
    Similarity turn = Similarity.turning(new double[] {0, 0, 1}, Math.toRadians(degree));
    Mesh turned = truth.withPositions(holotome.core.geometry.Placing.apply(truth.xyz(), turn));
    return SurfaceDistance.of(turned, cast, 4000, Work.unwatched()).rms();
  }

  @Test
  void aProjectsMeasurementsAreTakenAfterItsEntries() throws IOException {
    Path scan = tetrahedron();
    Path log = dir.resolve("m.json");
    Files.writeString(
        log,
        """
        { "holotome": 1,
          "entries": [ { "do": "datum.scale", "factor": 0.5 } ],
          "measurements": [
            { "name": "edge", "kind": "distance",
              "pins": [ { "at": [0, 0, 0] }, { "at": [1, 0, 0] } ] },
            { "name": "skin", "kind": "area", "pins": [] } ] }
        """);
    Path csv = dir.resolve("m.csv");
    assertThat(run("measure", log, scan, "--json", "--csv", csv))
        .as(said.toString(StandardCharsets.UTF_8))
        .isZero();
    JsonNode j = json();
    assertThat(j.at("/measurements/0/value").asDouble()).isCloseTo(0.5, within(1e-12));
    assertThat(j.at("/measurements/0/kind").asText()).isEqualTo("distance");
    assertThat(Files.readString(csv)).contains("\"edge\",distance,500.000000,mm");
    assertThat(run("measure", example("bollard.json"), scan)).isEqualTo(3);
    assertOneLine("measurements");
  }

  /** The whole of Datum without a window, against the demo's truth and the scan file itself. */
  @Test
  void aLogPlacesCutsAndWritesInAnyFrame() throws IOException {
    Path scan = dir.resolve("quay.ply");
    run("demo-scan", "bollard", "--out", scan, "--triangles", 120_000);
    Path log = dir.resolve("datum.json");
    Files.writeString(
        log,
        """
        { "holotome": 1,
          "entries": [
            { "do": "trim.islands", "keep": "larger", "across": 300 },
            { "do": "trim.ground", "along": "seam" },
            { "do": "trim.islands", "keep": "largest" },
            { "do": "datum.frame", "what": "keep", "name": "as captured" },
            { "do": "datum.scale", "factor": 0.000318735 },
            { "do": "datum.level", "by": "axis" },
            { "do": "datum.origin", "at": "base-centre" },
            { "do": "datum.section", "point": [0, 0, 0.32], "normal": [0, 0, 1],
              "tolerance": "1 mm", "format": ["dxf", "svg", "csv"], "name": "waist" },
            { "do": "ship.write", "for": "capture", "what": "scan", "name": "back" },
            { "do": "ship.write", "for": "engineering", "what": "scan", "name": "placed",
              "frame-file": true } ],
          "measurements": [
            { "name": "box", "kind": "size", "pins": [] } ] }
        """);
    assertThat(run("replay", log, scan, "--out", dir, "--json"))
        .as(said.toString(StandardCharsets.UTF_8))
        .isZero();
    JsonNode bounds = json().get("bounds");
    // The bollard is 640 mm high and 520 mm wide, and stands on the middle of its foot.
    assertThat(bounds.at("/max/2").asDouble()).isCloseTo(0.640, within(0.0025));
    assertThat(bounds.at("/min/2").asDouble()).isCloseTo(0, within(1e-9));
    assertThat(bounds.at("/max/0").asDouble()).isCloseTo(0.260, within(0.0025));
    assertThat(bounds.at("/min/1").asDouble()).isCloseTo(-0.260, within(0.0025));
    assertThat(dir.resolve("waist.dxf")).isNotEmptyFile();
    assertThat(dir.resolve("waist.svg")).isNotEmptyFile();
    List<String> rows = Files.readAllLines(dir.resolve("waist.csv"));
    assertThat(rows).hasSizeGreaterThanOrEqualTo(2);

    // In the capture's own frame every vertex is one of the scan file's, to the float.
    Mesh whole = MeshReader.read(scan, Work.unwatched()).mesh();
    Mesh back = MeshReader.read(dir.resolve("back.ply"), Work.unwatched()).mesh();
    java.util.Set<List<Float>> vertices = new java.util.HashSet<>();
    for (int v = 0; v < whole.vertexCount(); v++) {
      vertices.add(corner(whole, v));
    }
    for (int v = 0; v < back.vertexCount(); v++) {
      assertThat(vertices.contains(corner(back, v))).as("vertex %d", v).isTrue();
    }

    // What was written placed is read back placed, and its first file's frame with it.
    var placed = MeshReader.read(dir.resolve("placed.ply"), Work.unwatched());
    assertThat(placed.frame().trueSize()).isTrue();
    double[] top = {0, 0, 0};
    for (int v = 0; v < placed.mesh().vertexCount(); v++) {
      double[] p = holotome.core.geometry.Vec.at(placed.mesh().xyz(), v);
      double[] w = placed.frame().toWork().apply(p);
      top = w[2] > top[2] ? w : top;
      double[] f = placed.frame().named("first file").fromBase().apply(p);
      double[] c = placed.frame().named("as captured").fromBase().apply(p);
      assertThat(holotome.core.geometry.Vec.distance(f, c)).isLessThan(1e-6);
    }
    assertThat(top[2]).isCloseTo(bounds.at("/max/2").asDouble(), within(1e-6));
    assertThat(run("measure", log, scan, "--json")).isZero();
    assertThat(json().at("/measurements/0/kind").asText()).isEqualTo("size");
  }

  private static List<Float> corner(Mesh m, int v) {
    float[] p = m.xyz();
    return List.of(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
  }

  @Test
  void sameLogSameBytes() throws IOException {
    Path scan = dir.resolve("quay.ply");
    run("demo-scan", "bollard", "--out", scan, "--triangles", 60_000);
    Path log = dir.resolve("log.json");
    Files.writeString(
        log,
        Files.readString(example("bollard.json")).replace("2048", "256").replace("20000", "3000"));
    assertThat(run("replay", log, scan, "--out", dir.resolve("a"))).isZero();
    holotome.core.task.Parallel.limitThreads(1);
    try {
      assertThat(run("replay", log, scan, "--out", dir.resolve("b"))).isZero();
    } finally {
      holotome.core.task.Parallel.limitThreads(64);
    }
    assertThat(dir.resolve("a/bollard.glb")).hasSameBinaryContentAs(dir.resolve("b/bollard.glb"));
  }

  @Test
  void wrongUsageIsCodeTwo() {
    assertThat(run("inspect")).isEqualTo(2);
    assertOneLine("FILE");
    assertThat(run("paint", "x")).isEqualTo(2);
    assertThat(run("demo-scan", "lighthouse", "--out", dir.resolve("x.ply"))).isEqualTo(2);
    assertOneLine("lighthouse");
    assertThat(run("--help")).isZero();
    assertThat(printed()).contains("replay");
  }

  @Test
  void badInputIsCodeThree() throws IOException {
    assertThat(run("inspect", dir.resolve("gone.ply"))).isEqualTo(3);
    assertOneLine("gone.ply");
    assertThat(run("inspect", dir)).isEqualTo(3);
    assertOneLine("directory");
    Path bad = dir.resolve("bad.ply");
    Files.write(bad, Arrays.copyOf(Files.readAllBytes(tetrahedron()), 200));
    assertThat(run("inspect", bad)).isEqualTo(3);
    assertOneLine("bad.ply");
    Path log =
        Files.writeString(dir.resolve("log.json"), "{ \"holotome\": 1, \"entries\": [ {} ] }");
    assertThat(run("replay", log, tetrahedron(), "--out", dir.resolve("o"))).isEqualTo(3);
    assertOneLine("log.json", "entry 1");
    assertThat(dir.resolve("o")).doesNotExist();
  }

  @Test
  void aStepThatCannotIsCodeFourAndLeavesNoFile() throws IOException {
    Path log =
        Files.writeString(
            dir.resolve("log.json"),
            "{ \"holotome\": 1, \"entries\": [ { \"do\": \"unwrap.charts\", \"size\": 512 } ] }");
    Path o = dir.resolve("o");
    assertThat(run("replay", log, tetrahedron(), "--out", o)).isEqualTo(4);
    assertOneLine("unwrap.charts", "reduce.decimate");
    assertThat(o).doesNotExist();
    Path file = Files.writeString(dir.resolve("file"), "not a directory");
    assertThat(run("replay", log, tetrahedron(), "--out", file)).isEqualTo(4);
    assertOneLine("not a directory");
  }
}
