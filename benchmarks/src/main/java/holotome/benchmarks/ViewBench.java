package holotome.benchmarks;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Similarity;
import holotome.core.task.Work;
import holotome.view.Camera;
import holotome.view.Coarse;
import holotome.view.Look;
import holotome.view.Renderer;
import holotome.view.Scene;
import java.util.Arrays;

/** Frame times while turning once around, at 1000 x 800, beside touching each corner once. */
final class ViewBench {
  private static final int WIDTH = 1000;
  private static final int HEIGHT = 800;
  private static final int FRAMES = 36;

  private ViewBench() {}

  static void run() throws Exception {
    Table table =
        new Table(
            "triangles",
            "full, ms",
            "worst, ms",
            "stand-in, ms",
            "stand-in triangles",
            "smooth still, ms",
            "touching the corners, ms");
    for (int n : new int[] {1_000_000, 5_000_000, 18_000_000}) {
      measure(table, Data.demo(n));
    }
    table.print();
  }

  private static void measure(Table table, Mesh mesh) throws Exception {
    Renderer renderer = new Renderer();
    double[] full = turning(renderer, mesh);
    Mesh light = Coarse.of(mesh, 320, Work.unwatched());
    double[] standIn = turning(renderer, light);
    Camera camera = Camera.showing(mesh.bounds(), Camera.Direction.ASKEW, 1.25);
    Scene scene = new Scene(mesh, Similarity.IDENTITY, Look.COLOUR, null, null, false);
    double still = Timing.median(1, 3, () -> renderer.drawSmooth(scene, camera, WIDTH, HEIGHT));
    double touch = Timing.median(1, 3, () -> touch(mesh));
    table.row(
        String.format("%,d", mesh.triangleCount()),
        1000 * full[full.length / 2],
        1000 * full[full.length - 1],
        1000 * standIn[standIn.length / 2],
        String.format("%,d", light.triangleCount()),
        1000 * still,
        1000 * touch);
  }

  /** Sorted seconds per frame. */
  private static double[] turning(Renderer renderer, Mesh mesh) {
    Scene scene = new Scene(mesh, Similarity.IDENTITY, Look.COLOUR, null, null, false);
    Camera c = Camera.showing(mesh.bounds(), Camera.Direction.ASKEW, 1.25);
    double[] seconds = new double[FRAMES];
    for (int round = 0; round < 2; round++) {
      for (int i = 0; i < FRAMES; i++) {
        c = c.turned(2 * Math.PI / FRAMES, 0, c.target());
        long start = System.nanoTime();
        renderer.draw(scene, c, WIDTH, HEIGHT);
        seconds[i] = (System.nanoTime() - start) * 1e-9;
      }
    }
    Arrays.sort(seconds);
    return seconds;
  }

  private static double touch(Mesh mesh) {
    double sum = 0;
    for (int v : mesh.triangles()) {
      sum += mesh.xyz()[3 * v];
    }
    return sum;
  }
}
