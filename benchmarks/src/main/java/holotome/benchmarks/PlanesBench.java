package holotome.benchmarks;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.proxy.FromPlanes;
import holotome.core.proxy.MakeBlock;
import holotome.core.proxy.SettleProxy;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unit.Length;
import holotome.demo.NetShed;

/**
 * The made-up net shed from the planes that are found by themselves, a box fitted to it, and both
 * settled onto it.
 */
final class PlanesBench {
  private PlanesBench() {}

  /**
   * @param most triangles of the largest scan
   */
  static void run(int most) {
    Table table = new Table("triangles", "step", "s", "what it said");
    for (int n = 100_000; n <= most; n *= 10) {
      Mesh scan = NetShed.scan(n);
      Workpiece bare = Workpiece.of(scan, Frame.PLAIN);
      Workpiece planes = timed(table, bare, new FromPlanes(null, null, 3, null));
      Workpiece box =
          timed(table, bare, new MakeBlock(MakeBlock.Form.BOX, 12, null, null, null, null));
      Length within = new Length(0.5);
      timed(
          table, planes, new SettleProxy(null, within, SettleProxy.Keep.FLAT, null, 0, null, null));
      timed(table, box, new SettleProxy(null, within, null, null, 5, null, null));
    }
    table.print();
  }

  /** Twice the same step; what it made. */
  private static Workpiece timed(Table table, Workpiece in, Step step) {
    Workpiece made = null;
    for (int round = 0; round < 2; round++) {
      long begun = System.nanoTime();
      Outcome out = step.apply(in, Run.unwatched());
      double s = (System.nanoTime() - begun) / 1e9;
      String id = StepKind.of(step).id();
      table.row(in.scan().triangleCount(), id, s, String.join("; ", out.notes()));
      made = out.work();
    }
    return made;
  }
}
