package holotome.benchmarks;

import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.log.Entry;
import holotome.core.log.LogFile;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.file.Files;
import java.nio.file.Path;

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
