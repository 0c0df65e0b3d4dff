package holotome.cli;

import holotome.demo.BollardScan;
import holotome.demo.DemoFiles;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
    name = "demo-scan",
    description = "Writes a made-up scan with its truth beside it.",
    mixinStandardHelpOptions = true)
final class DemoScanCommand implements Callable<Integer> {
  @Parameters(paramLabel = "NAME", description = "bollard, shop-window, net-shed or setts")
  private String name;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "FILE",
      description = "ply, or obj with a texture atlas.")
  private Path out;

  @Option(
      names = "--triangles",
      paramLabel = "N",
      defaultValue = "1200000",
      description =
          "From " + BollardScan.LEAST + " to " + BollardScan.MOST + " (default ${DEFAULT-VALUE}).")
  private int triangles;

  @Override
  public Integer call() throws Exception {
    return Console.watched(
        work -> {
          DemoFiles.write(name, out, triangles, work);
          return 0;
        });
  }
}
