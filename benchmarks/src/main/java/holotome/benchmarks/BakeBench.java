package holotome.benchmarks;

import holotome.core.bake.BakeMaps;
import holotome.core.frame.Frame;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimation;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.unwrap.MakeCharts;
import java.util.ArrayList;
import java.util.List;

/**
 * Maps baked from the demo scan onto a Cast of 20,000 triangles, the index of the Scan included.
 */
final class BakeBench {
  private static final int CAST = 20_000;
  private static final int SAMPLES = 4;
  private static final List<MapKind> THREE =
      List.of(MapKind.COLOUR, MapKind.NORMAL, MapKind.OCCLUSION);

  private BakeBench() {}

  /**
   * @param which triangle counts of the demo scan, then pixels of the pictures' side, in any order:
   *     what is above 20,000 is a count; "together" leaves out the maps alone
   */
  static void run(List<String> which) throws Exception {
    List<Integer> counts = new ArrayList<>();
    List<Integer> sizes = new ArrayList<>();
    boolean isTogether = which.contains("together");
    for (String n : which.stream().filter(n -> !n.equals("together")).toList()) {
      int number = Integer.parseInt(n);
      (number > CAST ? counts : sizes).add(number);
    }
    if (counts.isEmpty()) {
      counts.add(1_000_000);
    }
    if (sizes.isEmpty()) {
      sizes.add(2048);
    }
    Table table = new Table("scan", "px", "maps", "texels", "missed", "s", "M texels/s");
    for (int count : counts) {
      Mesh scan = Data.demo(count);
      Mesh cast = Decimation.run(scan, CAST, Double.POSITIVE_INFINITY, Work.unwatched());
      Workpiece work = Workpiece.of(scan, Frame.PLAIN).withCast(cast);
      work = new MakeCharts(4096, 8, 1.1, 0, 180).apply(work, Run.unwatched()).work();
      for (int size : sizes) {
        row(table, work, size, THREE);
        for (MapKind k : isTogether ? List.<MapKind>of() : THREE) {
          row(table, work, size, List.of(k));
        }
      }
    }
    table.print();
  }

  private static void row(Table table, Workpiece work, int size, List<MapKind> maps) {
    long begun = System.nanoTime();
    Maps baked = new BakeMaps(maps, size, SAMPLES, 8).apply(work, Run.unwatched()).work().maps();
    double seconds = (System.nanoTime() - begun) / 1e9;
    table.row(
        String.format("%,d", work.scan().triangleCount()),
        size,
        String.join(" + ", maps.stream().map(MapKind::fileName).toList()),
        String.format("%,d", baked.covered()),
        String.format("%,d", baked.missedCount()),
        seconds,
        baked.covered() / seconds / 1e6);
  }
}
