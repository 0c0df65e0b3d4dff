package holotome.benchmarks;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.proxy.FromPlanes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.demo.NetShed;

/** The made-up net shed from the planes that are found by themselves. */
final class PlanesBench {
  private PlanesBench() {}

  /**
   * @param most triangles of the largest scan
   */
  static void run(int most) {
    Table table = new Table("triangles", "s", "what it said");
    for (int n = 100_000; n <= most; n *= 10) {
      Mesh scan = NetShed.scan(n);
      FromPlanes step = new FromPlanes(null, null, 3, null);
      for (int round = 0; round < 2; round++) {
        long begun = System.nanoTime();
        Outcome out = step.apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched());
        double s = (System.nanoTime() - begun) / 1e9;
        table.row(scan.triangleCount(), s, String.join("; ", out.notes()));
      }
    }
    table.print();
  }
}
