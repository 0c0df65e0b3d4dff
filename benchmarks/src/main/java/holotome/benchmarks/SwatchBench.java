package holotome.benchmarks;

import holotome.core.bake.BakeMaps;
import holotome.core.frame.Frame;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimation;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.swatch.LaySwatch;
import holotome.core.swatch.SettleSwatch;
import holotome.core.swatch.TileSwatch;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import holotome.demo.Setts;
import java.util.List;

/** A tile of 4096 pixels from the setts; and charts packed into one square and several. */
final class SwatchBench {
  private static final int TILE = 4096;

  private SwatchBench() {}

  /**
   * @param triangles of the scan
   */
  static void run(int triangles) {
    Table table = new Table("what", "s", "what it said");
    double middle = Setts.SCALE * 1.5;
    double z = Setts.SCALE * Setts.base(1.5, 1.5);
    Length side = new Length(1.8 * Setts.SCALE);
    Workpiece w = Workpiece.of(Setts.scan(triangles), Frame.PLAIN);
    w =
        timed(
            table,
            w,
            "lay",
            new LaySwatch(
                new double[] {middle, middle, z}, side, side, 0, new double[] {0, 0, 1}, 12.5));
    for (LaySwatch.Find find : LaySwatch.Find.values()) {
      if (find != LaySwatch.Find.HERE) {
        double[] up = {0, 0, 1};
        double[] over = {middle, middle, z};
        timed(
            table,
            w,
            "lay, find: " + find.name().toLowerCase(java.util.Locale.ROOT),
            new LaySwatch(over, find, side, side, 0, up, 12.5));
      }
    }
    w =
        timed(
            table,
            w,
            "settle",
            new SettleSwatch(new Length(0.4 * Setts.SCALE), new Length(0.001 * Setts.SCALE), null));
    List<MapKind> kinds = List.of(MapKind.COLOUR, MapKind.NORMAL, MapKind.HEIGHT);
    w = timed(table, w, "bake", new BakeMaps(kinds, TILE + TILE / 8, 4, 0));
    timed(table, w, "tile", new TileSwatch(true, 6));
    Mesh scan = Data.demo(1_000_000);
    Mesh cast = Decimation.run(scan, 50_000, Double.POSITIVE_INFINITY, Work.unwatched());
    Workpiece cut = Workpiece.of(scan, Frame.PLAIN).withCast(cast);
    cut = new MakeCharts(TILE, 4, 1.003, 0, 180).apply(cut, Run.unwatched()).work();
    for (int squares : new int[] {1, 1, 4, 10}) {
      timed(
          table,
          cut,
          "pack, squares: " + squares,
          new PackCharts(TILE, 4, squares, PackCharts.By.ROOM, null));
    }
    table.print();
  }

  private static Workpiece timed(Table table, Workpiece in, String what, Step step) {
    long begun = System.nanoTime();
    Outcome out = step.apply(in, Run.unwatched());
    table.row(what, (System.nanoTime() - begun) / 1e9, String.join("; ", out.notes()));
    return out.work();
  }
}
