package holotome.benchmarks;

import holotome.core.bake.BakeMaps;
import holotome.core.bake.EvenLight;
import holotome.core.bake.SetTone;
import holotome.core.bake.TouchUp;
import holotome.core.frame.Frame;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.log.Entry;
import holotome.core.log.LogFile;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimation;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.touch.Touch;
import holotome.core.unwrap.MakeCharts;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** How long each step of the example Log takes to answer a cancel, at nine points of its run. */
final class CancelBench {
  private static final int POINTS = 9;

  private CancelBench() {}

  static void run(int triangles) throws Exception {
    Loaded loaded = MeshReader.read(Data.demoFile(triangles), Work.unwatched());
    Workpiece at = Workpiece.of(loaded.mesh(), loaded.frame());
    Path out = Files.createTempDirectory("holotome-cancel");
    Path log = Path.of(System.getProperty("holotome.examples"), "bollard.json");
    Table table = new Table("step", "triangles", "takes, s", "longest to cancel, ms");
    for (Entry e : LogFile.read(log).entries()) {
      Workpiece before = at;
      long start = System.nanoTime();
      at = e.step().apply(before, new Run(Work.unwatched(), out)).work();
      double takes = (System.nanoTime() - start) * 1e-9;
      double longest = 0;
      for (int i = 1; i <= POINTS && takes > 0.05; i++) {
        longest = Math.max(longest, cancel(e.step(), before, out, takes * i / (POINTS + 1)));
      }
      table.row(
          StepKind.of(e.step()).id(),
          String.format("%,d", before.current().triangleCount()),
          takes,
          1000 * longest);
    }
    table.print();
  }

  /**
   * The same of maps of a size, of a touch that fills, tone and light: most of what goes by texels
   * comes at the end.
   */
  static void maps(int size) throws Exception {
    Mesh scan = Data.demo(1_000_000);
    Mesh cast = Decimation.run(scan, 20_000, Double.POSITIVE_INFINITY, Work.unwatched());
    Workpiece at = Workpiece.of(scan, Frame.PLAIN).withCast(cast);
    Path out = Files.createTempDirectory("holotome-cancel");
    at = new MakeCharts(size, 8, 1.1, 0, 180).apply(at, Run.unwatched()).work();
    double[] middle = at.cast().bounds().centre();
    double reach = 0.05 * at.cast().bounds().diagonal();
    Touch fill = new Touch(Touch.How.FILL, middle, false, reach, 50, 100, null, null, 0, null);
    List<Step> steps =
        List.of(
            new BakeMaps(
                List.of(MapKind.COLOUR, MapKind.OBJECT_NORMAL, MapKind.HEIGHT), size, 4, 8),
            new SetTone(0.5, 120, null, 100, 50),
            new EvenLight(100, 50),
            new TouchUp(List.of(fill)));
    Table table = new Table("step", "px", "takes, s", "longest to cancel, ms");
    for (Step s : steps) {
      Workpiece before = at;
      long start = System.nanoTime();
      at = s.apply(before, new Run(Work.unwatched(), out)).work();
      double takes = (System.nanoTime() - start) * 1e-9;
      double longest = 0;
      for (double share : new double[] {0.1, 0.3, 0.5, 0.7, 0.8, 0.85, 0.9, 0.94, 0.97}) {
        // Maps of their own each time: what was made of the same ones may be kept.
        Workpiece again = before.maps() == null ? before : before.withMaps(before.maps().alike());
        longest = Math.max(longest, cancel(s, again, out, takes * share));
      }
      table.row(StepKind.of(s).id(), size, takes, 1000 * longest);
    }
    table.print();
  }

  /** Seconds from the cancel, so many seconds into the step, to its end. */
  private static double cancel(Step step, Workpiece in, Path out, double after) throws Exception {
    Work work = new Work();
    long[] ended = new long[1];
    Thread t =
        new Thread(
            () -> {
              try {
                step.apply(in, new Run(work, out));
              } catch (Failure f) {
                // As asked.
              }
              ended[0] = System.nanoTime();
            });
    t.start();
    Thread.sleep((long) (1000 * after));
    long asked = System.nanoTime();
    work.cancel();
    t.join();
    return Math.max(0, (ended[0] - asked) * 1e-9);
  }
}
