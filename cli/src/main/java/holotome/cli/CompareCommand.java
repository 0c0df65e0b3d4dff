package holotome.cli;

import holotome.core.geometry.Placing;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.DeviationField;
import holotome.core.task.Failure;
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
    description =
        "Distance of all of each surface from the other, in the files' own units, and where it is largest.",
    mixinStandardHelpOptions = true)
final class CompareCommand implements Callable<Integer> {
  @Parameters(index = "0", paramLabel = "A", description = "One mesh.")
  private Path a;

  @Parameters(index = "1", paramLabel = "B", description = "The other mesh.")
  private Path b;

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
          needTriangles(a, first.mesh());
          needTriangles(b, other);
          DeviationField.Summary ab =
              DeviationField.of(first.mesh(), other, work.part(0.3, "Measuring")).summary();
          DeviationField.Summary ba =
              DeviationField.of(other, first.mesh(), work.part(0.3, "Measuring")).summary();
          print(ab, ba, first, work);
          return 0;
        });
  }

  private static void needTriangles(Path file, Mesh mesh) {
    if (mesh.isEmpty()) {
      throw Failure.badInput(file + ": has no triangles to measure from");
    }
  }

  private void print(
      DeviationField.Summary ab, DeviationField.Summary ba, Loaded first, Work work) {
    work.check();
    double diagonal = first.mesh().bounds().diagonal();
    if (json) {
      Map<String, Object> m = new LinkedHashMap<>();
      m.put("aToB", values(ab, first));
      m.put("bToA", values(ba, first));
      m.put("both", values(ab.worse(ba), first));
      m.put("diagonal", diagonal);
      Console.json(m);
      return;
    }
    System.out.printf(
        "%-8s %12s %12s %12s %12s  %s%n", "", "rms", "mean", "p95", "max", "largest at");
    row("A to B", ab, first);
    row("B to A", ba, first);
    row("both", ab.worse(ba), first);
    System.out.printf("diagonal of A %.6g%n", diagonal);
  }

  private static double[] inFile(DeviationField.Summary d, Loaded first) {
    return first.frame().toFile().apply(d.at());
  }

  private static Map<String, Object> values(DeviationField.Summary d, Loaded first) {
    Map<String, Object> m = new LinkedHashMap<>();
    m.put("rms", d.rms());
    m.put("mean", d.mean());
    m.put("p95", d.p95());
    m.put("max", d.max());
    m.put("at", inFile(d, first));
    return m;
  }

  private static void row(String name, DeviationField.Summary d, Loaded first) {
    double[] at = inFile(d, first);
    System.out.printf(
        "%-8s %12.6g %12.6g %12.6g %12.6g  %.6g %.6g %.6g%n",
        name, d.rms(), d.mean(), d.p95(), d.max(), at[0], at[1], at[2]);
  }
}
