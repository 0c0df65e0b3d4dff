package holotome.benchmarks;

import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.log.Checkpoints;
import holotome.core.log.Entry;
import holotome.core.log.History;
import holotome.core.log.LogFile;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.StepKind;
import holotome.core.task.Work;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** How long an entry of the example Log takes to be revised once all of it was run. */
final class ReviseBench {
  private ReviseBench() {}

  static void run(int triangles) throws Exception {
    Loaded loaded = MeshReader.read(Data.demoFile(triangles), Work.unwatched());
    Path out = Files.createTempDirectory("holotome-revise");
    Checkpoints states = new Checkpoints(Runtime.getRuntime().maxMemory() / 3, out);
    Path log = Path.of(System.getProperty("holotome.examples"), "bollard.json");
    List<Entry> entries =
        LogFile.read(log).entries().stream().filter(e -> !e.step().writesFiles()).toList();
    long start = System.nanoTime();
    History h =
        History.of(Workpiece.of(loaded.mesh(), loaded.frame()), states)
            .replay(entries, new Run(Work.unwatched(), out));
    double all = (System.nanoTime() - start) * 1e-9;
    Table table = new Table("revised", "s", "all of it, s");
    for (int i = 0; i < entries.size(); i++) {
      start = System.nanoTime();
      h.revise(i, entries.get(i).step(), new Run(Work.unwatched(), out)).current();
      table.row(StepKind.of(entries.get(i).step()).id(), (System.nanoTime() - start) * 1e-9, all);
    }
    table.print();
  }
}
