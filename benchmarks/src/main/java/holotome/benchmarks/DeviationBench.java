package holotome.benchmarks;

import holotome.core.mesh.Mesh;
import holotome.core.reduce.Decimation;
import holotome.core.reduce.DeviationCurve;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.Deviation;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Work;
import java.util.Random;

/**
 * Deviation of all of two surfaces, both ways, beside the plain way: an index of each, and the
 * closest point of each vertex, nothing more. And what foretelling it costs.
 */
final class DeviationBench {
  private DeviationBench() {}

  static void run() throws Exception {
    Table table = new Table("from", "to", "s", "times the plain way", "RMS, %", "largest, %");
    Mesh dragon = Data.dragon();
    Mesh demo = Data.demo(1_000_000);
    Mesh large = Data.demo(10_000_000);
    measure(table, "dragon with noise", rough(dragon), dragon);
    measure(table, "dragon to 20,000", light(dragon), dragon);
    measure(table, "demo scan with noise", rough(demo), demo);
    measure(table, "demo scan to 20,000", light(demo), demo);
    measure(table, "demo scan with noise", rough(large), large);
    table.print();
    Table curves = new Table("mesh", "triangles", "quick curve, s", "thorough, s");
    curve(curves, "dragon", dragon);
    curve(curves, "demo scan", demo);
    curve(curves, "demo scan", large);
    curves.print();
  }

  private static Mesh rough(Mesh m) {
    Random r = new Random(1);
    double by = 1e-4 * m.bounds().diagonal();
    float[] p = m.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] += (float) (by * r.nextGaussian());
    }
    return m.withPositions(p);
  }

  private static Mesh light(Mesh m) {
    return Decimation.run(m, 20_000, Double.POSITIVE_INFINITY, Work.unwatched());
  }

  private static void measure(Table table, String name, Mesh from, Mesh to) throws Exception {
    double plain =
        Timing.median(
            1,
            3,
            () -> {
              SurfaceDistance.distances(from.xyz(), Bvh.of(to), Work.unwatched());
              return SurfaceDistance.distances(to.xyz(), Bvh.of(from), Work.unwatched());
            });
    Deviation[] d = new Deviation[1];
    double ours = Timing.median(1, 3, () -> d[0] = Deviation.of(from, to, Work.unwatched()));
    double percent = 100 / to.bounds().diagonal();
    table.row(
        String.format("%s, %,d", name, from.triangleCount()),
        String.format("%,d", to.triangleCount()),
        ours,
        ours / plain,
        String.format("%.4f", d[0].both().rms() * percent),
        String.format("%.3f", d[0].both().max() * percent));
  }

  private static void curve(Table table, String name, Mesh mesh) throws Exception {
    table.row(
        name,
        String.format("%,d", mesh.triangleCount()),
        Timing.median(1, 3, () -> DeviationCurve.of(mesh, DeviationCurve.QUICK, Work.unwatched())),
        Timing.median(
            1, 3, () -> DeviationCurve.of(mesh, DeviationCurve.THOROUGH, Work.unwatched())));
  }
}
