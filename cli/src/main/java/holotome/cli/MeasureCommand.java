package holotome.cli;

import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.io.SafeFiles;
import holotome.core.log.Entry;
import holotome.core.log.LogFile;
import holotome.core.log.LogRun;
import holotome.core.measure.Measured;
import holotome.core.measure.Measurement;
import holotome.core.measure.Measuring;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
    name = "measure",
    description = "Takes a project's measurements on a scan, after its entries.",
    mixinStandardHelpOptions = true)
final class MeasureCommand implements Callable<Integer> {
  @Parameters(index = "0", paramLabel = "LOG", description = "The Log or project with them.")
  private Path log;

  @Parameters(index = "1", paramLabel = "SCAN", description = "The scan.")
  private Path scan;

  @Option(names = "--csv", paramLabel = "FILE", description = "Write the figures as CSV.")
  private Path csv;

  @Option(names = "--json", description = "Print JSON.")
  private boolean json;

  @Override
  public Integer call() throws Exception {
    LogFile file = LogFile.read(log);
    if (file.measurements().isEmpty()) {
      throw Failure.badInput(log + ": has no \"measurements\"");
    }
    return Console.watched(
        work -> {
          Loaded loaded = MeshReader.read(scan, work.part(0.2, "Reading"));
          // What writes files has nothing to do with what is measured.
          List<Entry> entries =
              file.entries().stream().filter(e -> !e.step().writesFiles()).toList();
          Workpiece w =
              LogRun.run(
                  entries,
                  Workpiece.of(loaded.mesh(), loaded.frame()),
                  Run.of(work.part(0.7, "Replaying")),
                  (e, o, seconds) -> {});
          List<Measured> all = new ArrayList<>();
          for (Measurement m : file.measurements()) {
            all.add(Measuring.of(m, w.current(), w.frame(), work.part(0.01, "Measuring")));
          }
          boolean size = w.frame().trueSize();
          if (csv != null) {
            SafeFiles.write(
                csv, out -> out.write(Measured.csv(all, size).getBytes(StandardCharsets.UTF_8)));
          }
          if (json) {
            Console.json(Map.of("trueSize", size, "measurements", values(all)));
          } else {
            for (Measured m : all) {
              System.out.printf(
                  "%-28s %14s %-14s %s%n",
                  m.of().name(), m.text(size), m.residualText(size), String.join(", ", m.more()));
            }
          }
          return 0;
        });
  }

  private static List<Map<String, Object>> values(List<Measured> all) {
    List<Map<String, Object>> out = new ArrayList<>();
    for (Measured m : all) {
      Map<String, Object> v = new LinkedHashMap<>();
      v.put("name", m.of().name());
      v.put("kind", m.of().kind().name().toLowerCase(Locale.ROOT).replace('_', '-'));
      v.put("value", m.value());
      v.put("quantity", m.quantity().name().toLowerCase(Locale.ROOT));
      v.put("residual", Double.isNaN(m.residual()) ? null : m.residual());
      v.put("more", m.more());
      out.add(v);
    }
    return out;
  }
}
