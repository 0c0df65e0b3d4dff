package holotome.benchmarks;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimation;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.topology.Islands;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.Stretch;
import java.util.List;

/** Charts and their packing, beside xatlas in the same run. */
final class UnwrapBench {
  private static final int SIZE = 4096;
  private static final int GUTTER = 4;
  private static final double STRETCH = 1.05;

  /** The reference takes minutes for more triangles than this. */
  private static final int MOST = 60_000;

  private UnwrapBench() {}

  /**
   * @param which triangle counts of the demo scan to run beside the dragon's
   */
  static void run(List<String> which) throws Exception {
    Table table = new Table("mesh", "triangles", "islands", "by", "charts", "used", "stretch", "s");
    for (String name : List.of("dragon-res4", "dragon-res3")) {
      Mesh raw = Data.raw(name + ".ply");
      rows(table, name, new Mesh(raw.xyz(), raw.triangles()));
    }
    Mesh dragon = Data.dragon();
    for (int target : new int[] {47_794, 200_000}) {
      Mesh light = Decimation.run(dragon, target, Double.POSITIVE_INFINITY, Work.unwatched());
      rows(table, "dragon", new Mesh(light.xyz(), light.triangles()));
    }
    for (String n : which) {
      Mesh scan = Data.demo(Integer.parseInt(n));
      rows(table, "demo", new Mesh(scan.xyz(), scan.triangles()));
    }
    table.print();
  }

  private static void rows(Table table, String name, Mesh mesh) throws Exception {
    Workpiece work = Workpiece.of(mesh, Frame.PLAIN).withCast(mesh);
    MakeCharts step = new MakeCharts(SIZE, GUTTER, STRETCH, 0, 180);
    Mesh[] made = new Mesh[1];
    // The first run of a small mesh warms the program up.
    int runs = mesh.triangleCount() <= MOST ? 3 : 1;
    double seconds = Double.POSITIVE_INFINITY;
    for (int i = 0; i < runs; i++) {
      long begun = System.nanoTime();
      made[0] = step.apply(work, Run.unwatched()).work().cast();
      seconds = Math.min(seconds, (System.nanoTime() - begun) / 1e9);
    }
    int charts = Charts.of(made[0], Work.unwatched()).count();
    row(table, name, made[0], "Holotome", charts, seconds);
    if (mesh.triangleCount() <= MOST && ChartReference.isThere()) {
      ChartReference r = ChartReference.of(mesh, SIZE, GUTTER);
      row(table, name, r.mesh(), "xatlas", r.charts(), r.seconds());
    }
  }

  private static void row(
      Table table, String name, Mesh mesh, String by, int charts, double seconds) {
    table.row(
        name,
        String.format("%,d", mesh.triangleCount()),
        Islands.of(mesh).count(),
        by,
        String.format("%,d", charts),
        String.format("%.1f %%", 100 * used(mesh)),
        String.format("%.3f", Stretch.of(mesh).mean()),
        seconds);
  }

  /** The share of the square that triangles cover. */
  private static double used(Mesh mesh) {
    float[] p = mesh.uv().coords();
    int[] k = mesh.uv().corners();
    double sum = 0;
    for (int t = 0; t < k.length; t += 3) {
      int a = 2 * k[t];
      int b = 2 * k[t + 1];
      int c = 2 * k[t + 2];
      sum +=
          Math.abs(
                  ((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
                      - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]))
              / 2;
    }
    return sum;
  }
}
