package holotome.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import holotome.core.task.Work;
import holotome.demo.DemoFiles;
import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The program as a process of its own: interrupted, short of memory. */
class InterruptTest {
  @TempDir private Path dir;

  private Process start(List<String> options, String... words) throws IOException {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(options);
    command.addAll(List.of("-cp", System.getProperty("java.class.path"), "holotome.cli.Main"));
    command.addAll(List.of(words));
    return new ProcessBuilder(command)
        .redirectError(dir.resolve("said").toFile())
        .redirectOutput(dir.resolve("printed").toFile())
        .start();
  }

  private Path scan(int triangles) {
    Path scan = dir.resolve("quay.ply");
    DemoFiles.write("bollard", scan, triangles, Work.unwatched());
    return scan;
  }

  private String said() throws IOException {
    return Files.readString(dir.resolve("said"), StandardCharsets.UTF_8);
  }

  private void awaitPrinted(String word) throws Exception {
    Path printed = dir.resolve("printed");
    for (int i = 0; i < 3000; i++) {
      if (Files.exists(printed) && Files.readString(printed).contains(word)) {
        return;
      }
      Thread.sleep(20);
    }
    throw new AssertionError(word + " was never printed; it said " + said());
  }

  /** Whatever differs from run to run (numbers of threads, salts of hashes) shows in no byte. */
  @Test
  void everyRunWritesTheSameBytes() throws Exception {
    Path log = dir.resolve("log.json");
    Files.writeString(
        log,
        """
        { "holotome": 1, "entries": [
          { "do": "trim.islands", "keep": "largest" },
          { "do": "mend.tidy" },
          { "do": "reduce.decimate", "triangles": 2000 },
          { "do": "unwrap.charts", "size": 256 },
          { "do": "bake.maps", "size": 256 },
          { "do": "ship.write", "for": "engine", "name": "quay", "frame-file": true },
          { "do": "ship.write", "for": "render", "name": "quay" } ] }
        """);
    Path scan = scan(20_000);
    List<Path> outs = new ArrayList<>();
    for (String option : List.of("-XX:ActiveProcessorCount=1", "-XX:ActiveProcessorCount=3")) {
      Path out = dir.resolve("out" + outs.size());
      outs.add(out);
      Process p =
          start(
              List.of(option), "replay", log.toString(), scan.toString(), "--out", out.toString());
      assertThat(p.waitFor(60, TimeUnit.SECONDS)).isTrue();
      assertThat(p.exitValue()).as(said()).isZero();
    }
    try (var files = Files.list(outs.getFirst())) {
      List<Path> all = files.sorted().toList();
      assertThat(all).hasSizeGreaterThan(4);
      for (Path f : all) {
        assertThat(outs.getLast().resolve(f.getFileName())).hasSameBinaryContentAs(f);
      }
    }
  }

  /** A process started in the background of a script has SIGINT ignored, and passes that on. */
  private static boolean isInterruptible() throws IOException {
    Path status = Path.of("/proc/self/status");
    if (!Files.exists(status)) {
      return true;
    }
    return Files.readAllLines(status).stream()
        .filter(l -> l.startsWith("SigIgn:"))
        .allMatch(l -> (Long.parseUnsignedLong(l.substring(7).strip(), 16) & 2) == 0);
  }

  @Test
  void interruptedItLeavesWithItsCodeAndNoFile() throws Exception {
    assumeTrue(new File("/bin/kill").canExecute() || new File("/usr/bin/kill").canExecute());
    assumeTrue(
        isInterruptible(), "interrupts are ignored here, and so by every process begun here");
    Path log = dir.resolve("log.json");
    Files.writeString(
        log,
        """
        { "holotome": 1, "entries": [
          { "do": "mend.tidy" },
          { "do": "reduce.decimate", "percent": 1 },
          { "do": "ship.write", "for": "engine", "name": "never" } ] }
        """);
    Path out = dir.resolve("out");
    Process p =
        start(
            List.of(),
            "replay",
            log.toString(),
            scan(1_200_000).toString(),
            "--out",
            out.toString());
    awaitPrinted("mend.tidy");
    // The decimation takes some seconds; it is cancelled in the midst of it.
    new ProcessBuilder("kill", "-INT", String.valueOf(p.pid())).start().waitFor();
    assertThat(p.waitFor(60, TimeUnit.SECONDS)).isTrue();
    assertThat(p.exitValue()).isEqualTo(130);
    assertThat(out).doesNotExist();
  }

  @Test
  void whatDoesNotFitInMemoryIsSaidInOneLine() throws Exception {
    Path log = dir.resolve("log.json");
    Files.writeString(
        log,
        "{ \"holotome\": 1, \"entries\": [ { \"do\": \"reduce.decimate\", \"triangles\": 1000 } ] }");
    Process p =
        start(
            List.of("-Xmx64m"),
            "replay",
            log.toString(),
            scan(1_000_000).toString(),
            "--out",
            dir.resolve("o").toString());
    assertThat(p.waitFor(120, TimeUnit.SECONDS)).isTrue();
    assertThat(p.exitValue()).isEqualTo(5);
    assertThat(said().lines()).hasSize(1);
    assertThat(said()).startsWith("holotome: ").containsIgnoringCase("memory");
  }
}
