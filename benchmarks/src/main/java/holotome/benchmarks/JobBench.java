package holotome.benchmarks;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** The whole job by the command line, each in a process of its own: wall time and peak memory. */
final class JobBench {
  private JobBench() {}

  static void run(List<String> sizes) throws Exception {
    Table table = new Table("triangles", "wall, s", "peak memory, MB");
    for (String size : sizes.isEmpty() ? List.of("1200000", "10000000") : sizes) {
      Path scan = Data.demoFile(Integer.parseInt(size));
      Path out = Files.createTempDirectory("holotome-job");
      long start = System.nanoTime();
      Process process =
          new ProcessBuilder(
                  Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                  "-XX:MaxRAMPercentage=72",
                  "-XX:+UseParallelGC",
                  "-Djava.awt.headless=true",
                  "-cp",
                  System.getProperty("java.class.path"),
                  "holotome.cli.Main",
                  "replay",
                  System.getProperty("holotome.examples") + "/bollard.json",
                  scan.toString(),
                  "--out",
                  out.toString())
              .inheritIO()
              .start();
      long peak = 0;
      while (process.isAlive()) {
        peak = Math.max(peak, peakOf(process.pid()));
        Thread.sleep(20);
      }
      double wall = (System.nanoTime() - start) * 1e-9;
      if (process.exitValue() != 0) {
        throw new IOException("the job ended with exit code " + process.exitValue());
      }
      table.row(String.format("%,d", Integer.parseInt(size)), wall, peak / 1e6);
    }
    System.out.println();
    table.print();
  }

  /** The most memory a process has held so far, in bytes; 0 where the system does not tell. */
  private static long peakOf(long pid) {
    try {
      for (String line : Files.readAllLines(Path.of("/proc", String.valueOf(pid), "status"))) {
        if (line.startsWith("VmHWM:")) {
          return 1024 * Long.parseLong(line.replaceAll("\\D", ""));
        }
      }
    } catch (IOException e) {
      // The process has just ended, or the system keeps no such file.
    }
    return 0;
  }
}
