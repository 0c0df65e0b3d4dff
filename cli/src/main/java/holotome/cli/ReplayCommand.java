package holotome.cli;

import holotome.core.geometry.Box;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.log.LogFile;
import holotome.core.log.LogRun;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "replay", description = "Runs a Log on a scan.", mixinStandardHelpOptions = true)
final class ReplayCommand implements Callable<Integer> {
  @Parameters(index = "0", paramLabel = "LOG", description = "The Log.")
  private Path log;

  @Parameters(index = "1", paramLabel = "SCAN", description = "The scan.")
  private Path scan;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "DIR",
      description = "Where written files go.")
  private Path out;

  @Option(
      names = "--line",
      paramLabel = "NAME",
      description = "Which of several lines; else the current one.")
  private String line;

  @Option(names = "--json", description = "Print JSON.")
  private boolean json;

  @Override
  public Integer call() throws Exception {
    LogFile file = LogFile.read(log);
    if (Files.exists(out) && !Files.isDirectory(out)) {
      throw Failure.cannot(out + ": is not a directory; name one to write to");
    }
    return Console.watched(
        work -> {
          long begun = System.nanoTime();
          Loaded loaded = MeshReader.read(scan, work.part(0.1, "Reading"));
          double reading = (System.nanoTime() - begun) * 1e-9;
          Workpiece start = Workpiece.of(loaded.mesh(), loaded.frame());
          List<Map<String, Object>> report = new ArrayList<>();
          say(
              String.format(
                  "%-18s %,12d triangles %8.2f s  %s",
                  "read", start.scan().triangleCount(), reading, loaded.format()));
          Workpiece at =
              LogRun.run(
                  file.line(line),
                  start,
                  new Run(work.part(0.9, ""), out),
                  (e, o, seconds) -> {
                    String id = StepKind.of(e.step()).id();
                    int triangles = o.work().current().triangleCount();
                    Map<String, Object> line = new LinkedHashMap<>();
                    line.put("do", id);
                    if (e.part() != null) {
                      line.put("part", e.part().name());
                    }
                    line.put("triangles", triangles);
                    line.put("seconds", seconds);
                    line.put("notes", o.notes());
                    report.add(line);
                    say(
                        String.format(
                            "%-18s %,12d triangles %8.2f s  %s",
                            id, triangles, seconds, String.join("; ", o.notes())));
                  });
          double total = (System.nanoTime() - begun) * 1e-9;
          Box b = at.frame().workBounds(at.current());
          if (json) {
            Map<String, Object> m = new LinkedHashMap<>();
            m.put("entries", report);
            m.put("seconds", total);
            m.put("bounds", Map.of("min", b.min(), "max", b.max()));
            m.put("trueSize", at.frame().trueSize());
            Console.json(m);
          }
          say(
              String.format(
                  "%-18s %,12d triangles %8.2f s", "done", at.current().triangleCount(), total));
          return 0;
        });
  }

  private void say(String line) {
    if (!json) {
      System.out.println(line);
    }
  }
}
