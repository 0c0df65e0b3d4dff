package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Memory runs out in the middle of every step: all is as it was, and works when there is more. */
class LowMemoryTest {
  @TempDir private Path dir;

  @Test
  void whereMemoryRunsOutNothingIsLost() throws Exception {
    Path log = dir.resolve("log");
    Process p =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx80m",
                "-XX:+UseSerialGC",
                "-XX:-UseGCOverheadLimit",
                "-Dholotome.long=" + Boolean.getBoolean("holotome.long"),
                "-cp",
                System.getProperty("java.class.path"),
                LowMemory.class.getName(),
                dir.resolve("out").toString())
            .redirectErrorStream(true)
            .redirectOutput(log.toFile())
            .start();
    try {
      assertThat(p.waitFor(900, TimeUnit.SECONDS)).as("done in time").isTrue();
    } finally {
      p.destroyForcibly();
    }
    List<String> lines = Files.readAllLines(log);
    assertThat(p.exitValue()).as(String.join("\n", lines)).isZero();
    List<String> told = lines.stream().filter(l -> l.startsWith("ran out")).toList();
    assertThat(told).hasSize(LowMemory.steps().size());
    // What only changes the frame takes no memory to speak of, nor does a weight a triangle or
    // vertex; and what touches made is still there while anyone holds it.
    assertThat(told.stream().filter(l -> l.matches("ran out [1-9].*")))
        .as(String.join("\n", told))
        .hasSizeGreaterThan(told.size() / 2);
    assertThat(told)
        .filteredOn(l -> l.matches(".* (trim|mend|reduce|bake)\\..*"))
        .filteredOn(l -> !l.matches(".* (reduce.importance|bake.cage|bake.touch)"))
        .allMatch(l -> l.matches("ran out [1-9].*"));
  }
}
