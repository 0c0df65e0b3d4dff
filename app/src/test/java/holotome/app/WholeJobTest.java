package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Work;
import holotome.demo.BollardScan;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * From the raw demo scan to the finished asset through the window, by pointer and keys alone; the
 * written file is held against the truth of the made-up scan.
 */
class WholeJobTest {
  @TempDir private Path dir;
  private Driver window;

  private void stage(KeyCode digit, KeyCode tool) {
    window.keys(KeyCode.ALT, digit);
    window.settle();
    window.keys(tool);
    window.settle();
  }

  /** Applies the tool in hand and waits for the entry on the Tape. */
  private void apply() {
    window.await("figures", () -> !window.node("apply").isDisabled());
    int before = entries();
    window.keys(KeyCode.ENTER);
    window.await("an entry", () -> window.desk().session().history().size() == before + 1);
    window.settle();
  }

  private int entries() {
    return window.on(() -> window.desk().session().history().size());
  }

  @Test
  void fromRawScanToAsset() throws Exception {
    Path scan = Scans.bollard(1_200_000);
    byte[] before = Files.readAllBytes(scan);
    try (Driver d = Driver.open(dir)) {
      window = d;
      d.on(
          () -> {
            d.desk().session().open(scan);
            return null;
          });
      d.settle();
      Node view = d.desk().view();

      // Debris off, by its finding; the ground by the tool; what it leaves behind once more.
      d.keys(KeyCode.ALT, KeyCode.DIGIT2);
      d.settle();
      d.clickWords("findings", "Remove loose pieces");
      d.settle();
      apply();
      assertThat(d.message()).contains("47 of 48 islands");
      stage(KeyCode.DIGIT2, KeyCode.DIGIT6);
      apply();
      stage(KeyCode.DIGIT2, KeyCode.DIGIT5);
      apply();

      // A stray flap at the rim, by lasso, and back: the count must be what it was.
      stage(KeyCode.DIGIT2, KeyCode.DIGIT1);
      int triangles = triangles();
      d.drag(view, MouseButton.PRIMARY, 320, 290, 420, 290, 420, 330, 320, 330, 320, 290);
      d.await("a selection", () -> d.desk().session().selection() != null);
      apply();
      assertThat(triangles()).isLessThan(triangles);
      d.keys(KeyCode.CONTROL, KeyCode.Z);
      d.settle();
      assertThat(triangles()).isEqualTo(triangles);

      stage(KeyCode.DIGIT3, KeyCode.DIGIT1);
      apply();
      stage(KeyCode.DIGIT3, KeyCode.DIGIT2);
      apply();
      assertThat(d.on(() -> d.desk().session().insight().inspection().closed())).isTrue();

      // The scale bar is gone; it is picked on the scan as opened, from near by.
      stage(KeyCode.DIGIT4, KeyCode.DIGIT1);
      for (int end = 0; end < 2; end++) {
        double[] p = Scans.barEnd(scan, end);
        double[] px = d.pixel(p);
        d.wheel(view, px[0], px[1], -40);
        d.settle();
        px = d.pixel(p);
        d.clickAt(view, px[0], px[1]);
        String still = end == 0 ? "the other end" : "true length";
        d.await("a picked end", () -> d.textNow("problem").contains(still));
        d.keys(KeyCode.HOME);
        d.settle();
      }
      d.fill("field-is", "0,5 m");
      d.settle();
      apply();
      stage(KeyCode.DIGIT4, KeyCode.DIGIT2);
      apply();
      stage(KeyCode.DIGIT4, KeyCode.DIGIT3);
      apply();

      stage(KeyCode.DIGIT5, KeyCode.DIGIT1);
      d.fill("field-triangles", "20000");
      apply();
      stage(KeyCode.DIGIT6, KeyCode.DIGIT1);
      apply();
      stage(KeyCode.DIGIT7, KeyCode.DIGIT1);
      apply();
      Maps maps = d.on(() -> d.desk().session().current().maps());
      assertThat(maps.pictures()).containsOnlyKeys(MapKind.COLOUR, MapKind.NORMAL);
      assertThat(maps.pictures().get(MapKind.COLOUR).width()).isEqualTo(2048);
      assertThat(maps.missedShare()).isLessThan(0.005);
      stage(KeyCode.DIGIT8, KeyCode.DIGIT1);
      d.fill("field-name", "bollard");
      apply();
      assertThat(d.message()).contains("bollard.glb written: 20,000 triangles");
    }
    Path glb = dir.resolve("out").resolve("quay-1200000").resolve("bollard.glb");
    checkAgainstTheTruth(Glb.read(glb));
    checkByTheValidator(glb);
    assertThat(Files.readAllBytes(scan)).as("the scan itself is never changed").isEqualTo(before);
  }

  private int triangles() {
    return window.on(() -> window.desk().session().current().scan().triangleCount());
  }

  private static void checkAgainstTheTruth(Glb glb) {
    Mesh cast = glb.mesh();
    assertThat(cast.triangleCount()).isEqualTo(20_000);
    assertThat(glb.json().get("images").size()).isEqualTo(2);
    Box b = cast.bounds();
    assertThat(b.height()).as("height").isCloseTo(0.640, within(0.0064));
    assertThat(b.minZ()).as("base").isCloseTo(0, within(0.0002));
    assertThat(tilt(cast)).as("tilt of the axis in degrees").isLessThan(0.5);
    // The job leaves the turn about the axis open: the truth is tried at every three degrees.
    Mesh truth = BollardScan.trueSubject(0.003);
    double best = Double.POSITIVE_INFINITY;
    for (int degree = 0; degree < 360; degree += 3) {
      Similarity turn = Similarity.turning(new double[] {0, 0, 1}, Math.toRadians(degree));
      Mesh turned = truth.withPositions(Placing.apply(truth.xyz(), turn));
      best = Math.min(best, SurfaceDistance.of(turned, cast, 4000, Work.unwatched()).rms());
    }
    assertThat(best).as("RMS from the true surface").isLessThan(0.0015);
  }

  /** The angle between Z and the line through the middles of a low and a high slice. */
  private static double tilt(Mesh m) {
    double[] low = middle(m, 0.10, 0.20);
    double[] high = middle(m, 0.40, 0.50);
    double[] axis = Vec.unit(Vec.sub(high, low));
    return Math.toDegrees(Math.acos(Math.min(1, axis[2])));
  }

  /**
   * The middle of the circle nearest to a slice, by least squares (Kasa, 1976), over points spread
   * evenly: vertices stand densest where there is most to keep.
   */
  private static double[] middle(Mesh m, double from, double to) {
    double[][] a = new double[3][4];
    double z = 0;
    int n = 0;
    float[] points = SurfaceDistance.sample(m, 40_000);
    for (int v = 0; v < points.length / 3; v++) {
      double[] p = Vec.at(points, v);
      if (p[2] < from || p[2] > to || Math.hypot(p[0], p[1]) < 0.05) {
        continue;
      }
      double[] row = {p[0], p[1], 1};
      double right = p[0] * p[0] + p[1] * p[1];
      for (int i = 0; i < 3; i++) {
        for (int j = 0; j < 3; j++) {
          a[i][j] += row[i] * row[j];
        }
        a[i][3] += row[i] * right;
      }
      z += p[2];
      n++;
    }
    assertThat(n).isGreaterThan(100);
    for (int i = 0; i < 3; i++) {
      for (int k = 0; k < 3; k++) {
        if (k != i) {
          double f = a[k][i] / a[i][i];
          for (int j = 0; j < 4; j++) {
            a[k][j] -= f * a[i][j];
          }
        }
      }
    }
    return new double[] {a[0][3] / a[0][0] / 2, a[1][3] / a[1][1] / 2, z / n};
  }

  /** By the Khronos glTF validator, npm gltf-validator. */
  private static void checkByTheValidator(Path glb) throws Exception {
    Path data = Path.of(System.getProperty("holotome.datasets"));
    if (!"needed".equals(System.getenv("HOLOTOME_DATASETS"))) {
      assumeTrue(Files.exists(data.resolve("validator")));
    }
    Process p =
        new ProcessBuilder(
                "node", data.resolve("../../scripts/validate-glb").toString(), glb.toString())
            .redirectErrorStream(true)
            .start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(said).isZero();
    assertThat(said).contains("0 errors");
  }
}
