package holotome.benchmarks;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import holotome.view.scene.Scene;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;

/**
 * Frame times while turning once around, at 1000 x 800, beside the true triangles drawn and beside
 * touching each corner once.
 */
final class ViewBench {
  private static final int WIDTH = 1000;
  private static final int HEIGHT = 800;
  private static final int FRAMES = 36;

  private ViewBench() {}

  static void run() throws Exception {
    Table table =
        new Table(
            "triangles",
            "first picture, s",
            "preparing, s",
            "turning, ms",
            "worst, ms",
            "triangles drawn",
            "error as a rule, px",
            "worst error, px",
            "all triangles, ms",
            "smooth still, ms",
            "touching the corners, ms",
            "peak memory, GB");
    for (int n : sizes()) {
      measure(table, n);
    }
    table.print();
  }

  private static int[] sizes() {
    String given = System.getProperty("holotome.sizes", "1000000,10000000");
    return Arrays.stream(given.split(",")).mapToInt(Integer::parseInt).toArray();
  }

  private static void measure(Table table, int triangles) throws Exception {
    Path file = Data.demoFile(triangles);
    Renderer renderer = new Renderer();
    long start = System.nanoTime();
    Mesh mesh = MeshReader.read(file, Work.unwatched()).mesh();
    Camera camera =
        Camera.showing(mesh.bounds(), Camera.Direction.ASKEW, 1.25)
            .closer(0.75, mesh.bounds().centre());
    Scene scene = new Scene(mesh, Similarity.IDENTITY, Look.COLOUR, null, null, false);
    renderer.drawMoving(scene, camera, WIDTH, HEIGHT);
    double first = (System.nanoTime() - start) * 1e-9;
    start = System.nanoTime();
    renderer.prepare(mesh, Work.unwatched());
    double preparing = (System.nanoTime() - start) * 1e-9;
    double[] seconds = new double[FRAMES];
    double[] typical = new double[FRAMES];
    double[] errors = new double[FRAMES];
    long drawn = 0;
    Camera c = camera;
    for (int round = 0; round < 3; round++) {
      drawn = 0;
      for (int i = 0; i < FRAMES; i++) {
        c = c.turned(2 * Math.PI / FRAMES, 0, c.target());
        start = System.nanoTime();
        Renderer.Picture p = renderer.drawMoving(scene, c, WIDTH, HEIGHT);
        seconds[i] = (System.nanoTime() - start) * 1e-9;
        typical[i] = p.effort().typical();
        errors[i] = p.effort().error();
        drawn += p.effort().triangles();
      }
    }
    Arrays.sort(seconds);
    Arrays.sort(typical);
    Arrays.sort(errors);
    double all = Timing.median(1, 3, () -> renderer.draw(scene, camera, WIDTH, HEIGHT));
    double still = Timing.median(1, 3, () -> renderer.drawSmooth(scene, camera, WIDTH, HEIGHT));
    Shot.save(
        renderer.drawSmooth(scene, camera, WIDTH, HEIGHT), WIDTH, HEIGHT, "view-" + triangles);
    double touch = Timing.median(1, 3, () -> touch(mesh));
    table.row(
        String.format("%,d", mesh.triangleCount()),
        first,
        preparing,
        1000 * seconds[FRAMES / 2],
        1000 * seconds[FRAMES - 1],
        String.format("%,d", drawn / FRAMES),
        typical[FRAMES / 2],
        errors[FRAMES - 1],
        1000 * all,
        1000 * still,
        1000 * touch,
        peak() / 1e9);
  }

  /** The most memory the process has held so far, as the kernel counts it, in bytes. */
  private static double peak() throws Exception {
    for (String line : Files.readAllLines(Path.of("/proc/self/status"))) {
      if (line.startsWith("VmHWM:")) {
        return 1024.0 * Long.parseLong(line.replaceAll("\\D", ""));
      }
    }
    return Double.NaN;
  }

  private static double touch(Mesh mesh) {
    double sum = 0;
    for (int v : mesh.triangles()) {
      sum += mesh.xyz()[3 * v];
    }
    return sum;
  }
}
