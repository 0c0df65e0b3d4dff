package holotome.core.ship;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.bake.BakeMaps;
import holotome.core.datum.KnownLength;
import holotome.core.datum.Scale;
import holotome.core.frame.Frame;
import holotome.core.image.Raster;
import holotome.core.io.Pictures;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.Role;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Written assets drawn by an independent viewer, three.js in headless Chromium: a light Cast with
 * its maps shows the shading that the Scan has under the same lights.
 */
class RelitTest {
  private static final int SIDE = 400;

  @TempDir private Path dir;

  /** A coloured ball of radius 1 with ribs and furrows that a light mesh does not have. */
  private static Mesh ribbed() {
    Mesh ball = Shapes.sphere(1, 7);
    float[] xyz = ball.xyz().clone();
    for (int i = 0; i < xyz.length; i += 3) {
      double along = Math.atan2(xyz[i + 1], xyz[i]);
      double r = 1 + 0.012 * Math.sin(40 * along) * (1 - xyz[i + 2] * xyz[i + 2]);
      r += 0.01 * Math.cos(45 * xyz[i + 2]);
      for (int k = 0; k < 3; k++) {
        xyz[i + k] *= (float) r;
      }
    }
    return Shapes.coloured(ball.withPositions(xyz));
  }

  private static Workpiece run(Workpiece in, Step... steps) {
    Workpiece w = in;
    for (Step s : steps) {
      w = s.apply(w, Run.unwatched()).work();
    }
    return w;
  }

  /** Draws files; the box around each, low and high corner. */
  private List<double[]> draw(String... namesAndFiles) throws Exception {
    assumeTrue(Files.exists(Path.of("/usr/bin/chromium")), "Chromium is not installed");
    Datasets.file("viewer");
    List<String> command = new ArrayList<>();
    command.add("node");
    command.add(Datasets.script("relight").toString());
    // Y is up in the files.
    command.addAll(List.of(Integer.toString(SIDE), "1.2,1.5,3", "0,0,0"));
    for (int i = 0; i < namesAndFiles.length; i++) {
      command.add(dir.resolve(namesAndFiles[i]).toString());
    }
    Process p = new ProcessBuilder(command).redirectErrorStream(true).start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(said).isZero();
    List<double[]> out = new ArrayList<>();
    for (String line : said.strip().split("\n")) {
      String[] words = line.split(" ");
      double[] box = new double[6];
      for (int k = 0; k < 6; k++) {
        box[k] = Double.parseDouble(words[k + 1]);
      }
      out.add(box);
    }
    return out;
  }

  /**
   * Mean difference of the channels of two pictures, of 255, within three quarters of the ball's
   * outline: at the rim ribs stand out over what a light mesh has.
   */
  private double differing(String a, String b) throws Exception {
    Raster x = Pictures.read(dir.resolve(a));
    Raster y = Pictures.read(dir.resolve(b));
    double sum = 0;
    int n = 0;
    for (int i = 0; i < SIDE * SIDE; i++) {
      if (Math.hypot(i % SIDE - SIDE / 2.0, i / SIDE - SIDE / 2.0) < 0.23 * SIDE) {
        assertThat(x.pixels()[i] & y.pixels()[i] & 0xffffff).isPositive();
        for (int shift = 0; shift < 24; shift += 8) {
          sum += Math.abs((x.pixels()[i] >> shift & 255) - (y.pixels()[i] >> shift & 255));
          n++;
        }
      }
    }
    return sum / n;
  }

  private void write(Workpiece w, String name, WriteAsset.What what) {
    new WriteAsset(WriteAsset.Destination.ENGINE, name, null, null, what)
        .apply(w, new Run(Work.unwatched(), dir));
  }

  @Test
  void theCastShowsTheShadingOfTheScan() throws Exception {
    KnownLength k = new KnownLength(new double[3], new double[] {1, 0, 0}, Length.parse("80 cm"));
    Workpiece in =
        run(
            Workpiece.of(ribbed(), Frame.PLAIN),
            new Scale(List.of(k)),
            new Decimate(900, null, null, Role.CAST),
            new MakeCharts(1024, 4, 1.1, 0, 180));
    BakeMaps bake = new BakeMaps(List.of(MapKind.COLOUR, MapKind.NORMAL), 1024, 4, 8);
    Workpiece one = run(in, bake);
    Workpiece two =
        run(
            in,
            new PackCharts(512, 4, 4, PackCharts.By.ROOM, null),
            new BakeMaps(List.of(MapKind.COLOUR, MapKind.NORMAL), 512, 4, 8));
    write(one, "scan", WriteAsset.What.SCAN);
    write(one, "cast", WriteAsset.What.CAST);
    write(two, "squares", WriteAsset.What.CAST);
    List<double[]> boxes =
        draw(
            "scan.png", "scan.glb",
            "cast.png", "cast.glb",
            "bare.png", "cast.glb:bare",
            "squares.png", "squares.glb");
    double baked = differing("scan.png", "cast.png");
    double squares = differing("scan.png", "squares.png");
    double bare = differing("scan.png", "bare.png");
    assertThat(baked).isLessThan(4);
    assertThat(squares).isLessThan(4);
    assertThat(bare).isGreaterThan(12);
    // A unit is 80 cm.
    for (double[] box : boxes) {
      for (int axis = 0; axis < 3; axis++) {
        assertThat(box[axis + 3] - box[axis]).isCloseTo(1.6, within(0.06));
      }
    }
  }
}
