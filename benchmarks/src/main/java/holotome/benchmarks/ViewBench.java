package holotome.benchmarks;

import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Similarity;
import holotome.core.task.Work;
import holotome.view.Camera;
import holotome.view.Look;
import holotome.view.Renderer;
import holotome.view.Scene;
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
            "preparing, s",
            "turning, ms",
            "worst, ms",
            "triangles drawn",
            "error, px",
            "worst error, px",
            "all triangles, ms",
            "smooth still, ms",
            "touching the corners, ms");
    for (int n : sizes()) {
      measure(table, mesh(n));
    }
    table.print();
  }

  private static Mesh mesh(int triangles) throws Exception {
    // Large ones are made as a file, in little memory.
    return triangles <= 20_000_000
        ? Data.demo(triangles)
        : MeshReader.read(Data.demoFile(triangles), Work.unwatched()).mesh();
  }

  private static int[] sizes() {
    String given = System.getProperty("holotome.sizes", "1000000,10000000");
    return Arrays.stream(given.split(",")).mapToInt(Integer::parseInt).toArray();
  }

  private static void measure(Table table, Mesh mesh) throws Exception {
    Renderer renderer = new Renderer();
    Camera camera = Camera.showing(mesh.bounds(), Camera.Direction.ASKEW, 1.25);
    Scene scene = new Scene(mesh, Similarity.IDENTITY, Look.COLOUR, null, null, false);
    long start = System.nanoTime();
    renderer.prepare(mesh, Work.unwatched());
    double preparing = (System.nanoTime() - start) * 1e-9;
    double[] seconds = new double[FRAMES];
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
        errors[i] = p.effort().error();
        drawn += p.effort().triangles();
      }
    }
    Arrays.sort(seconds);
    Arrays.sort(errors);
    double all = Timing.median(1, 3, () -> renderer.draw(scene, camera, WIDTH, HEIGHT));
    double still = Timing.median(1, 3, () -> renderer.drawSmooth(scene, camera, WIDTH, HEIGHT));
    double touch = Timing.median(1, 3, () -> touch(mesh));
    table.row(
        String.format("%,d", mesh.triangleCount()),
        preparing,
        1000 * seconds[FRAMES / 2],
        1000 * seconds[FRAMES - 1],
        String.format("%,d", drawn / FRAMES),
        errors[FRAMES / 2],
        errors[FRAMES - 1],
        1000 * all,
        1000 * still,
        1000 * touch);
  }

  private static double touch(Mesh mesh) {
    double sum = 0;
    for (int v : mesh.triangles()) {
      sum += mesh.xyz()[3 * v];
    }
    return sum;
  }
}
