package holotome.cli;

import holotome.core.geometry.Placing;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Work;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
    name = "compare",
    description = "Surface distance both ways, in the files' own units.",
    mixinStandardHelpOptions = true)
final class CompareCommand implements Callable<Integer> {
  @Parameters(index = "0", paramLabel = "A", description = "One mesh.")
  private Path a;

  @Parameters(index = "1", paramLabel = "B", description = "The other mesh.")
  private Path b;

  @Option(
      names = "--samples",
      description = "Points measured on each (default ${DEFAULT-VALUE}).",
      defaultValue = "200000")
  private int samples;

  @Option(names = "--json", description = "Print JSON.")
  private boolean json;

  @Override
  public Integer call() throws Exception {
    return Console.watched(
        work -> {
          Loaded first = MeshReader.read(a, work.part(0.2, "Reading"));
          Loaded second = MeshReader.read(b, work.part(0.2, "Reading"));
          // Both in the frame of the first, so that far-off coordinates keep their precision.
          Mesh other =
              second
                  .mesh()
                  .withPositions(
                      Placing.apply(
                          second.mesh().xyz(),
                          second.frame().toFile().then(first.frame().toFile().inverse())));
          SurfaceDistance ab =
              SurfaceDistance.of(first.mesh(), other, samples, work.part(0.3, "Measuring"));
          SurfaceDistance ba =
              SurfaceDistance.of(other, first.mesh(), samples, work.part(0.3, "Measuring"));
          print(ab, ba, first.mesh().bounds().diagonal(), work);
          return 0;
        });
  }

  private void print(SurfaceDistance ab, SurfaceDistance ba, double diagonal, Work work) {
    work.check();
    if (json) {
      Map<String, Object> m = new LinkedHashMap<>();
      m.put("aToB", values(ab));
      m.put("bToA", values(ba));
      m.put("both", values(ab.worse(ba)));
      m.put("diagonal", diagonal);
      Console.json(m);
      return;
    }
    System.out.printf("%-8s %12s %12s %12s %12s%n", "", "rms", "mean", "p95", "max");
    row("A to B", ab);
    row("B to A", ba);
    row("both", ab.worse(ba));
    System.out.printf("diagonal of A %.6g%n", diagonal);
  }

  private static Map<String, Object> values(SurfaceDistance d) {
    Map<String, Object> m = new LinkedHashMap<>();
    m.put("rms", d.rms());
    m.put("mean", d.mean());
    m.put("p95", d.p95());
    m.put("max", d.max());
    return m;
  }

  private static void row(String name, SurfaceDistance d) {
    System.out.printf(
        "%-8s %12.6g %12.6g %12.6g %12.6g%n", name, d.rms(), d.mean(), d.p95(), d.max());
  }
}
